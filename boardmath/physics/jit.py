"""Scalar functions of the physics, compiled once and kept in the project's own folder.

``@kernel`` compiles with Numba (``njit``, ``nogil``) and keeps the code in a folder named after the sources, so that
compiled code never outlives the formula it came from: Numba itself looks only at the file of the function that is called,
not at those of the functions that it calls. With ``NUMBA_DISABLE_JIT=1`` the same functions run as plain Python.
"""

import hashlib
import os
import shutil
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar, cast

import numba

F = TypeVar("F", bound=Callable[..., Any])

_CORE = Path(__file__).resolve().parents[1]
_OWN = "SAND_POCKET_COMPILED"
"""Environment variable: the folder that keeps compiled code, instead of the project's own."""


def sources_stamp() -> str:
    """A short name for what the compiled code was made of: every source of kernels, and what compiles them."""
    digest = hashlib.sha256(f"{numba.__version__} {os.uname().machine}".encode())
    for path in sorted([*(_CORE / "physics").glob("*.py"), *(_CORE / "engine").glob("*.py")]):
        digest.update(path.read_bytes())
    return digest.hexdigest()[:16]


def _may_write(folder: Path) -> bool:
    """Whether files can really be made there: permissions alone do not tell on a read-only disk."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
        with tempfile.TemporaryFile(dir=folder):
            return True
    except OSError:
        return False


def compiled_folder() -> Path | None:
    """Where compiled code is kept: the project's own folder, or a copy of it where that cannot be written; None nowhere."""
    kept = Path(os.environ.get(_OWN) or _CORE.parent / ".local" / "compiled")
    own = kept / sources_stamp()
    if _may_write(own):
        return own
    # Numba asks for a folder that it may write in, even where everything is compiled already.
    copy = Path(tempfile.gettempdir()) / f"sand-pocket-compiled-{os.getuid()}" / own.name
    if not copy.exists() and own.is_dir() and _may_write(copy.parent):
        part = Path(tempfile.mkdtemp(dir=copy.parent))
        shutil.copytree(own, part, dirs_exist_ok=True)
        try:
            part.rename(copy)
        except OSError:  # another process was first
            shutil.rmtree(part, ignore_errors=True)
    # Nobody else's folder is believed: compiled code is run.
    if _may_write(copy) and copy.stat().st_uid == os.getuid():
        return copy
    return None


_CONFIG: Any = numba.config  # made at run time out of the environment
COMPILES = not _CONFIG.DISABLE_JIT
FOLDER = compiled_folder() if COMPILES else None
if FOLDER is not None:
    _CONFIG.CACHE_DIR = str(FOLDER)


def kernel(function: F) -> F:
    """A scalar function, or a loop over boards, that is compiled at its first call and kept."""
    compiled: Any = numba.njit(nogil=True, error_model="numpy", cache=FOLDER is not None)(function)
    return cast(F, compiled)
