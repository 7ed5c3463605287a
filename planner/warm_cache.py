"""Compiles every kernel once, so that no person waits for it: what the set-up runs.

The kernels are compiled by use: a few boards are taken through everything that the interface asks for.
"""

import shutil
from pathlib import Path

from boardmath.buildfile import read_build
from boardmath.buildfile.build import FORMAT, Build
from boardmath.buildfile.drivetrain import Motors
from boardmath.buildfile.migration import VERSION
from boardmath.buildfile.trips import Trip, TripDay, TripLeg
from boardmath.engine import sweeps
from boardmath.model.resolution import resolve
from boardmath.model.sampling import nominal_boards
from boardmath.physics.jit import COMPILES, FOLDER
from boardmath.prediction.curves import curves
from boardmath.prediction.unloaded import on_the_stand
from boardmath.predictor import predict
from planner.compare import compare
from planner.controller_settings import controller_settings
from planner.design.candidates import candidates
from planner.design.proposals import propose
from planner.explore.report import exploration
from planner.explore.search import Explored, wanted_of
from planner.explore.space import Open, OpenNumber, Space
from planner.trips.report import trip_report

TEETH = OpenNumber(path="parts.drive.motor_teeth", low=14, high=18)


def any_board(**parts: object) -> Build:
    """A board of usual parts."""
    return read_build(
        {
            "format": FORMAT,
            "version": VERSION,
            "rider": {"mass_kg": 75},
            "brief": {"hill_grade_pct": 8, "range_km": 15},
            "parts": {
                "wheels": {"diameter_mm": 90},
                "motors": {"count": 2, "kv_rpm_per_v": 170},
                "drive": {"motor_teeth": 16, "wheel_teeth": 40, "driven_wheels": 2},
                "pack": {"series": 10, "parallel": 3},
                "controller": {"units": 1},
                "charger": {"v": 42, "a": 3},
                **parts,
            },
        }
    )


def compile_all() -> Path | None:
    """Goes once through everything; the folder where the compiled code is kept, None where it is not kept."""
    build = any_board()
    predict(build)
    curves(build)
    controller_settings(build)
    on_the_stand(build, 40.0)
    compare([build, any_board(pack={"series": 12, "parallel": 2})], ["a", "b"])
    motors = [Motors(kv_rpm_per_v=kv, count=2) for kv in (140, 190)]
    candidates(build, "motors", motors)
    propose(build, {"motors": motors})
    boards = nominal_boards([resolve(build)])
    sweeps.most_brakings(boards, 3.0, 0.5)
    sweeps.at_rest(boards, 0.5)
    trip_report(
        build, Trip(id="t", name="t", days=[TripDay(legs=[TripLeg(distance_km=3, ascent_m=20, bearing_deg=90)])])
    )
    for wish in (wanted_of(build), wanted_of(build, {"range": 900.0, "hill": 60.0})):
        exploration(Explored(Space(build, {}, Open(numbers=[TEETH]))).whole(), wish)
    if COMPILES and FOLDER is not None:
        _forget_others(FOLDER)
    return FOLDER


def _forget_others(own: Path) -> None:
    """What was compiled from sources that are no more."""
    for other in own.parent.iterdir():
        if other != own and other.is_dir() and len(other.name) == len(own.name):
            shutil.rmtree(other, ignore_errors=True)
