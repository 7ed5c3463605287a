"""The engine's compiled code: where it is kept, and the same answers from one core, from two, and after a fork."""

import os

import numpy as np

from boardmath.engine import sweeps
from boardmath.model.resolution import resolve
from boardmath.model.sampling import boards, normal_scores
from boardmath.physics import jit as kernel
from tests.core.boards import spit_runner


def test_a_read_only_install_runs_from_a_copy_of_what_was_compiled(tmp_path, monkeypatch):
    """Numba asks for a folder that it may write in: what is kept read-only is copied once to one's own."""
    kept, own = tmp_path / "kept", tmp_path / "own"
    own.mkdir()
    (kept / kernel.sources_stamp()).mkdir(parents=True)
    (kept / kernel.sources_stamp() / "ride.nbc").write_text("compiled")
    monkeypatch.setenv("SAND_POCKET_COMPILED", str(kept))
    monkeypatch.setattr(kernel.tempfile, "gettempdir", lambda: str(own))
    may_write = kernel._may_write
    monkeypatch.setattr(kernel, "_may_write", lambda folder: kept not in folder.parents and may_write(folder))
    folder = kernel.compiled_folder()
    assert folder is not None
    assert own in folder.parents
    assert (folder / "ride.nbc").read_text() == "compiled"


def test_one_core_says_what_two_say(monkeypatch):
    many = boards([resolve(spit_runner(assumptions__wind_ms=None))], [normal_scores(512)])
    several = sweeps.rides(many, profiles=True)
    monkeypatch.setattr(sweeps.os, "cpu_count", lambda: 1)
    alone = sweeps.rides(many, profiles=True)
    for name in several.dtype.names:
        np.testing.assert_array_equal(several[name], alone[name])


def test_threads_outlive_a_fork():
    """A web server forks after it was warmed up; the child makes its own threads."""
    many = boards([resolve(spit_runner())], [normal_scores(256)])
    expected = sweeps.headlines(many).top_speed.sum()
    child = os.fork()
    if child == 0:
        os._exit(0 if sweeps.headlines(many).top_speed.sum() == expected else 1)
    assert os.waitstatus_to_exitcode(os.waitpid(child, 0)[1]) == 0
