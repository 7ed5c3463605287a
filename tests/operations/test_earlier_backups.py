"""Backups that earlier releases wrote are restored, brought up to date and used."""

from pathlib import Path

import pytest
from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import Client

from server.jobs.tasks import work_through


@pytest.fixture
def latest():
    """Whatever a test leaves behind, the next one finds the newest tables."""
    yield
    executor = MigrationExecutor(connection)
    executor.migrate(executor.loader.graph.leaf_nodes())


DUMPS = sorted((Path(__file__).parent / "data").glob("*.dump"))
"""Backups of the demonstration as earlier commits loaded it: the first with a server, one with commands, the one before jobs."""


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("dump", DUMPS, ids=[d.stem for d in DUMPS])
def test_a_backup_of_an_earlier_release_is_brought_up_to_date_and_used(dump, latest, settings):
    call_command("restore", str(dump), "--yes")
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)
    settings.DEMO = True
    warden = Client()
    assert warden.get("/api/session").status_code == 200
    entered = warden.post("/api/session/demo", headers={"X-CSRFToken": warden.cookies["csrftoken"].value})
    assert entered.json()["is_demo"], entered.content
    boards = warden.get("/api/boards").json()["builds"]
    assert len(boards) == 3
    for row in boards:
        at = f"/api/builds/{row['id']}"
        build = warden.get(at).json()
        saved = {"revision": build["revision"], "document": {**build["document"], "name": f"{row['name']}, later"}}
        assert warden.put(at, saved, content_type="application/json").status_code == 200
        for room in ("/controller-settings", "/bench-test", "/revisions", "/file"):
            assert warden.get(at + room).status_code == 200, room
        for asked in ("/overview",):
            body = {"document": build["document"]}
            assert warden.post(at + asked, body, content_type="application/json").status_code == 200
        job = warden.post(f"{at}/dossier").json()
        work_through.call()
        assert warden.get(f"/api/jobs/{job['id']}").json()["state"] == "done"
    assert warden.get("/api/parts").json()["count"] > 20


def test_there_are_backups_of_earlier_releases():
    assert len(DUMPS) >= 3
