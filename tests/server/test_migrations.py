"""Migrations keep every stored thing: what was written before parts and revisions had apps of their own is found after."""

import uuid

import pytest
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

BEFORE = [("workshop", "0002_revisions_and_restored_parts"), ("library", None), ("revisions", None)]


@pytest.fixture
def latest():
    """Whatever a test leaves behind, the next one finds the newest tables."""
    yield
    executor = MigrationExecutor(connection)
    executor.migrate(executor.loader.graph.leaf_nodes())


@pytest.mark.django_db(transaction=True)
def test_parts_and_revisions_are_found_in_their_own_apps(latest):
    executor = MigrationExecutor(connection)
    executor.migrate(BEFORE)
    old = executor.loader.project_state([BEFORE[0]]).apps
    owner = old.get_model("auth", "User").objects.create(username=f"turnstone-{uuid.uuid4().hex[:6]}")
    # As version 1 of the build file has it.
    lived = {"trips": [{"id": "t"}], "upkeep": {"spares": []}}
    stored = {"version": 1, "name": "Spit runner", **lived}
    build = old.get_model("workshop", "Build").objects.create(owner=owner, document=stored)
    then = {"version": 1, "name": "then", **lived}
    old.get_model("workshop", "Revision").objects.create(build=build, name="Planned", document=then)
    old.get_model("workshop", "Part").objects.create(
        owner=owner, kind="deck", name="Old plank", figures={"length_mm": 900}
    )

    executor = MigrationExecutor(connection)
    executor.migrate(executor.loader.graph.leaf_nodes())
    from server.boards.models import Build
    from server.library.models import Part
    from server.revisions.models import Revision

    found = Build.objects.get(pk=build.pk)
    assert found.document == {"version": 2, "name": "Spit runner"}
    assert found.history == {"trips": [{"id": "t"}], "maintenance": {"spares": []}}
    assert Revision.objects.get(build_id=build.pk).document == {"version": 2, "name": "then"}
    assert Part.objects.get(owner_id=owner.pk).figures == {"length_mm": 900}
    Part.objects.create(owner_id=owner.pk, kind="deck", name="New plank")
    Build.objects.get(pk=build.pk).delete()
    assert not Revision.objects.filter(build_id=build.pk).exists()
    Part.objects.filter(owner_id=owner.pk).delete()


@pytest.mark.django_db
def test_the_models_and_the_migrations_say_the_same():
    from django.core.management import call_command

    call_command("makemigrations", check=True, dry_run=True, verbosity=0)
