"""The whole database, photos and files in it, as one file: by PostgreSQL's own tools."""

import os
import shutil
import subprocess
from datetime import datetime
from pathlib import Path
from tempfile import TemporaryDirectory

from django.db import connection

NAME = "sand-pocket-{at:%Y%m%d-%H%M%S}.dump"
PATTERN = "sand-pocket-*.dump"


class DumpFailed(RuntimeError):
    """PostgreSQL's tool ended with a fault; the text is its own."""


def tool(name: str) -> str:
    """Where PostgreSQL's tool is: on the path, or where Debian keeps the newest.

    Raises:
        DumpFailed: it is not installed.
    """
    found = shutil.which(name)
    if found is None:
        versions = sorted(Path("/usr/lib/postgresql").glob(f"*/bin/{name}"), key=lambda p: int(p.parts[4]))
        found = str(versions[-1]) if versions else None
    if found is None:
        raise DumpFailed(f"{name} is not installed: apt-get install postgresql-client")
    return found


def _run(name: str, *arguments: str) -> None:
    said = connection.settings_dict
    # Not on the command line, where every user of the machine may read it.
    env = {
        **os.environ,
        "PGHOST": str(said["HOST"] or ""),
        "PGPORT": str(said["PORT"] or ""),
        "PGUSER": str(said["USER"] or ""),
        "PGPASSWORD": str(said["PASSWORD"] or ""),
        "PGDATABASE": str(said["NAME"]),
    }
    env = {key: value for key, value in env.items() if value or not key.startswith("PG")}
    done = subprocess.run([tool(name), *arguments], env=env, capture_output=True, text=True)
    if done.returncode != 0:
        raise DumpFailed(done.stderr.strip() or f"{name} ended with {done.returncode}")


def back_up(folder: Path, at: datetime, keep: int | None = None) -> Path:
    """Writes a dump into ``folder``, whole or not at all, and takes away all but the newest ``keep``.

    Raises:
        DumpFailed: the database cannot be read, or the folder not be written.
    """
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    path = folder / NAME.format(at=at)
    unfinished = path.with_suffix(".part")
    try:
        _run("pg_dump", "--format=custom", "--no-owner", "--no-privileges", f"--file={unfinished}")
        unfinished.chmod(0o600)
        unfinished.rename(path)
    finally:
        unfinished.unlink(missing_ok=True)
    if keep is not None:
        for old in sorted(folder.glob(PATTERN))[:-keep]:
            old.unlink()
    return path


def bring_back(path: Path) -> None:
    """Puts the database back to what it was in a dump, in one transaction: all of it or nothing.

    Raises:
        DumpFailed: it is no dump, or does not go in; then everything is as it was.
    """
    if not path.is_file():
        raise DumpFailed(f"{path} does not exist")
    with TemporaryDirectory() as folder:
        script = Path(folder) / "restore.sql"
        _run("pg_restore", "--no-owner", "--no-privileges", f"--file={script}", str(path))
        connection.close()
        # What the dump does not know, such as the tables of a later release, goes too.
        _run(
            "psql", "--quiet", "--no-psqlrc", "--single-transaction", *_STOP, "--command", _EMPTY, "--file", str(script)
        )


_STOP = ("--set", "ON_ERROR_STOP=1")
_EMPTY = """DO $$ DECLARE t record; BEGIN
  FOR t IN SELECT tablename FROM pg_tables WHERE schemaname = 'public' LOOP
    EXECUTE format('DROP TABLE public.%I CASCADE', t.tablename);
  END LOOP;
END $$"""
