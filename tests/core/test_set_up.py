"""A machine on which something is missing: one sentence with what it is and the command that installs it."""

from pathlib import Path
from types import SimpleNamespace

import pytest

from scripts import check_words, cluster, walking


def test_without_a_browser_the_tests_say_what_to_install(monkeypatch):
    monkeypatch.setattr(walking, "BROWSER", Path("/nowhere/chromium-headless-shell"))
    with pytest.raises(SystemExit) as ended:
        walking.launch(SimpleNamespace())
    assert str(ended.value) == (
        "chromium-headless-shell is not installed: make setup-test, or apt-get install chromium-headless-shell"
    )


def test_without_a_database_server_the_start_says_what_to_install(monkeypatch):
    monkeypatch.setattr(Path, "glob", lambda *_: iter(()))
    monkeypatch.setattr(cluster.shutil, "which", lambda _: None)
    with pytest.raises(SystemExit) as ended:
        cluster.programs()
    assert "PostgreSQL" in str(ended.value)
    assert "apt-get install postgresql" in str(ended.value)


def test_the_newest_database_server_is_taken(monkeypatch):
    installed = [Path(f"/usr/lib/postgresql/{version}/bin/initdb") for version in ("9.6", "15", "13")]
    monkeypatch.setattr(Path, "glob", lambda *_: iter(installed))
    assert cluster.programs() == Path("/usr/lib/postgresql/15/bin")


def test_a_former_word_is_found_and_a_fingers_tap_is_not(tmp_path, monkeypatch):
    """The check of words works on what git lists; here on two files of its own."""
    (tmp_path / "one.py").write_text('storey = 1\nphone.tap()\nphone.locator("a").tap()\n')
    (tmp_path / "two.md").write_text("The staff shows a promise.\nA balance lead.\n")
    monkeypatch.setattr(check_words, "ROOT", tmp_path)
    listed = SimpleNamespace(stdout="one.py\ntwo.md\n")
    monkeypatch.setattr(check_words.subprocess, "run", lambda *_, **__: listed)
    assert check_words.former_words() == ["one.py:1: storey (today: stage)", "two.md:1: staff (today: gauge)"]
