"""What the device keeps without current: its settings, and how often it was started."""

import json
import os
from pathlib import Path
from typing import Any


class Memory:
    """A file with the device's settings; None keeps them only while the process lives.

    Args:
        factory: what it holds when nothing was ever kept.
    """

    def __init__(self, path: Path | None, factory: dict[str, Any]):
        self.path, self.factory = path, factory
        self.values: dict[str, Any] = dict(factory)
        self.boots = 0
        self.kept = 0
        if path is not None and path.exists():
            found = json.loads(path.read_text())
            self.values, self.boots, self.kept = found["values"], found["boots"], found["kept"]

    def start(self) -> int:
        """Counts a start of the device."""
        self.boots += 1
        self._store()
        return self.boots

    def keep(self, changes: dict[str, Any]) -> None:
        """Keeps ``changes`` beside what stands there."""
        self.values |= changes
        self.kept += 1
        self._store()

    def forget(self) -> None:
        """Everything as it left the factory."""
        self.values = dict(self.factory)
        self.kept += 1
        self._store()

    def _store(self) -> None:
        if self.path is None:
            return
        beside = self.path.with_suffix(".new")
        beside.write_text(json.dumps({"values": self.values, "boots": self.boots, "kept": self.kept}))
        os.replace(beside, self.path)
