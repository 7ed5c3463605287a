"""CONTRIBUTING's "A new page", walked in a copy: one folder in each layer and one record, and every layer knows the page."""

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
PLANNER = '''"""What fits into a hand."""

from pydantic import BaseModel

from boardmath.buildfile import Build


class TenthPageReport(BaseModel):
    motors: int


def tenth_page_report(build: Build) -> TenthPageReport:
    """How many motors the board has."""
    return TenthPageReport(motors=(build.parts.motors.count if build.parts.motors else 0) or 0)
'''
SERVER = '''"""The tenth page of a build that need not be saved."""

from django.http import HttpRequest
from ninja import Router

from planner.tenth_page import TenthPageReport, tenth_page_report
from server.boards.schemas import DocumentIn

router = Router(tags=["tenth page"])


@router.post("/tenth-page", response=TenthPageReport)
def tenth_page(request: HttpRequest, payload: DocumentIn) -> object:
    """How many motors the board has."""
    return tenth_page_report(payload.document)
'''
ASKS = """
import json
import django
django.setup()
from django.urls import resolve
from scripts.generate_types import tables
from boardmath.buildfile import read_build
from planner.navigation import PAGES
from planner.tenth_page import tenth_page_report
from tests.core.boards import SPIT_RUNNER
print(json.dumps({
    "asked by": resolve("/api/tenth-page").url_name,
    "titles": [p.title for p in PAGES if p.stage == "ride"],
    "table": '"slug": "tenth-page"' in tables(),
    "motors": tenth_page_report(read_build(SPIT_RUNNER)).motors,
}))
"""


@pytest.fixture(scope="module")
def copy(tmp_path_factory) -> Path:
    """The sources in a folder of their own, with a page added as CONTRIBUTING says."""
    folder = tmp_path_factory.mktemp("walk")
    for name in ("boardmath", "planner", "controller", "server", "scripts", "tests", "pyproject.toml"):
        source = ROOT / name
        if source.is_dir():
            shutil.copytree(source, folder / name, ignore=shutil.ignore_patterns("__pycache__"))
        else:
            shutil.copy(source, folder / name)
    for place, text in (("planner/tenth_page/__init__.py", PLANNER), ("server/tenth_page/api.py", SERVER)):
        file = folder / place
        file.parent.mkdir()
        file.write_text(text)
    (folder / "server/tenth_page/__init__.py").touch()
    navigation = folder / "planner/navigation.py"
    text = navigation.read_text()
    record = '    Page(slug="tenth-page", title="Tenth page", stage="ride"),\n    Page(slug="revisions"'
    text = text.replace('    "review",\n', '    "review",\n    "tenth-page",\n', 1)
    navigation.write_text(text.replace('    Page(slug="revisions"', record, 1))
    return folder


def test_a_page_is_one_folder_a_layer_and_one_record(copy):
    env = {**os.environ, "PYTHONPATH": str(copy), "DJANGO_SETTINGS_MODULE": "server.settings"}
    done = subprocess.run([sys.executable, "-c", ASKS], cwd=copy, env=env, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr[-2000:]
    found = json.loads(done.stdout)
    assert found["asked by"] == "tenth_page"
    assert "Tenth page" in found["titles"]
    assert found["table"], "the interface takes its pages from this table, and loads features/<slug>/Page.svelte"
    assert found["motors"] == 1


def test_every_page_has_its_folders():
    """A record without its page in the interface, or a page without a record, is found here and not by a person."""
    from planner.navigation import PAGES

    features = ROOT / "frontend/src/features"
    apart = {"account", "boards", "compare", "library", "new-board"}
    assert {p.parent.name for p in features.glob("*/Page.svelte")} == ({p.slug for p in PAGES} | apart) - {"account"}
