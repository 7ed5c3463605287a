"""Makes the demonstration's season of rides: the ridden board with a truth of its own, ridden by the engine, written down by a
rider.

Run once; what it writes (server/demo/data/rides.json and track-wall.json) is kept with the project. Same seed, same season.
"""

import copy
import json
import sys
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import numpy as np

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))

from boardmath.buildfile import Build, read_build, write_build  # noqa: E402
from boardmath.calibration.day import on_that_day  # noqa: E402
from boardmath.calibration.observing import coast_forces, rest_volts, rolled_out  # noqa: E402
from boardmath.calibration.ride import Ride  # noqa: E402
from boardmath.calibration.simulated import Leg, ridden_log  # noqa: E402
from boardmath.engine import sweeps  # noqa: E402
from boardmath.model.model_inputs import COLUMN, FROM_RIDE_TO_RIDE, INPUTS  # noqa: E402
from boardmath.model.resolution import resolve  # noqa: E402
from boardmath.model.sampling import boards  # noqa: E402
from planner.rides.files import write_track  # noqa: E402

DATA = ROOT / "server" / "demo" / "data"
TRUTH = {"riding": 0.9, "crr": 0.7, "cda": -0.4, "mean_speed": 0.5, "kv": -0.6, "cell_capacity": -0.8, "stops": 0.3}
"""The warden hurries; the boardwalk is rough; the cells hold a little less than is printed: deviations of what is thought."""
WALL = (54.0, 8.5)
"""A place in the open sea: the island is invented."""
PLAN: list[tuple[str, float, float, float, dict[str, Any]]] = [
    # day, km, temperature, wind in m/s, and what else was written down
    ("2026-04-12", 7.2, 9, 3, {}),
    ("2026-04-19", 9.0, 11, 5, {"conditions": {"wet": True}}),
    ("2026-05-03", 11.4, 13, 2, {"note": "First time round all the hides."}),
    ("2026-05-10", 0, 15, 1, {"coast": True, "title": "Roll out on the jetty road"}),
    ("2026-05-17", 10.6, 15, 4, {}),
    ("2026-05-30", 12.1, 17, 3, {"pack": {"wh": True}}),
    ("2026-06-07", 99, 18, 2, {"title": "To the cut-off", "kind": "range_test"}),
    ("2026-06-14", 8.8, 19, 2, {}),
    ("2026-06-27", 11.9, 20, 4, {"speed": True, "note": "Both ways along the quay."}),
    ("2026-07-11", 10.2, 21, 3, {"broke": "Grub screw of the motor pulley loose; locked it."}),
    ("2026-07-25", 11.0, 22, 2, {"note": "New gearing: quieter."}),
    ("2026-08-02", 12.4, 22, 3, {"pack": {"wh": True}}),
    ("2026-08-09", 11.7, 23, 6, {"miles": True, "note": "Read off the ferryman’s counter."}),
    ("2026-08-23", 9.4, 21, 4, {"hill": True, "note": "The ramp to the old light, all of the thumb."}),
    ("2026-09-05", 11.2, 18, 3, {"track": True, "title": "Evening along the wall"}),
    ("2026-09-19", 10.8, 16, 5, {"conditions": {"wet": True}}),
    ("2026-10-03", 11.5, 13, 4, {"pack": {"wh": True}}),
    ("2026-10-17", 9.8, 10, 7, {"note": "Salt wind in the face all the way home."}),
    ("2026-10-31", 10.4, 8, 4, {"wish": "Deeper risers: a stone touched the wheel."}),
    (
        "2026-11-14",
        9.1,
        4,
        5,
        {"conditions": {"wet": True}, "note": "Cold fingers, weak brakes at the top of the charge."},
    ),
    ("2026-11-22", 8.6, 3, 3, {"pack": {"wh": True}}),
]


def then(document: dict[str, Any], day: str) -> Build:
    """The board as it was: the point that was kept last, as the demonstration has it."""
    points = [p for p in json.loads((DATA / "revisions.json").read_text()) if p["build"] == "build-3.json"]
    point = next((p for p in reversed(points) if p["on"] <= day), points[0])
    earlier = copy.deepcopy(document)
    for path, value in point["changes"].items():
        *way, last = path.split(".")
        node: Any = earlier
        for step in way:
            node = node[int(step)] if isinstance(node, list) else node[step]
        key: Any = int(last) if isinstance(node, list) else last
        if value is None:
            node.pop(key, None)
        else:
            node[key] = value
    return read_build(write_build(read_build(earlier)))


def main() -> None:
    """Rides the season and writes it down."""
    document = json.loads((DATA / "build-3.json").read_text())
    chance = np.random.default_rng(2026)
    rides: list[dict[str, Any]] = []
    for day, km, celsius, wind, told in PLAN:
        build = then(document, day)
        said: dict[str, Any] = {"conditions": {"temperature_c": celsius, "wind_ms": wind, **told.get("conditions", {})}}
        shape = Ride.model_validate({"day": day, "way": {"distance_km": max(km, 1)}, **said})
        resolved = resolve(on_that_day(build, shape))
        z = np.zeros((1, len(INPUTS)))
        for name, value in TRUTH.items():
            z[0, COLUMN[name]] = value
        for name, differs in FROM_RIDE_TO_RIDE.items():
            spread = resolved.inputs[name].spread
            z[0, COLUMN[name]] += differs / spread * 0.7 * float(chance.standard_normal()) if spread else 0.0
        z[0, COLUMN["swing_wind"]] = 0.5 * float(chance.standard_normal())
        b = boards([resolved], [z], middle=False)
        ride: dict[str, Any] = {"day": day, **said}
        ride |= {k: told[k] for k in ("note", "title", "kind", "broke", "wish") if k in told}
        if told.get("coast"):
            a, c, m = coast_forces(b)
            ride["kind"], ride["runs"] = "test", []
            for first in (16.0, 26.0):
                metres = float(rolled_out(a, c, m, first / 3.6, 5 / 3.6)[0]) * float(
                    np.exp(0.04 * chance.standard_normal())
                )
                run = {"kind": "coast", "from_kmh": first, "to_kmh": 5.0, "metres": round(metres), "both_ways": True}
                ride["runs"].append(run)
            rides.append(ride)
            continue
        there = sweeps.arrivals(b, np.array([km * 1000.0]))[0]
        if told.get("kind") == "range_test":
            km = float(there.to_the_end) / 1000.0
            ride["pack"] = {
                "ended": "cut_off",
                "start_v": round(rest_volts(resolved.fixed, float(b.charge_start[0])), 1),
            }
            there = sweeps.arrivals(b, np.array([km * 1000.0]))[0]
        else:
            volts = float(there.rest_v) + 0.05 * float(chance.standard_normal())
            start = rest_volts(resolved.fixed, float(b.charge_start[0])) + 0.05 * float(chance.standard_normal())
            ride["pack"] = {
                "start_v": round(start, 1),
                "end_v": round(volts, 1),
                "by": "meter",
                "rested_s": 600,
                "ended": "home",
            }
        ride["way"] = {"distance_km": round(km, 1), "ascent_m": round(float(b.ascent[0]) * km * 1000.0)}
        if chance.random() < 0.6:
            ride["way"]["moving_s"] = round(float(there.seconds))
        if told.get("pack", {}).get("wh"):
            ride["pack"]["wh"] = round(float(there.energy) / 3600.0 * 1.05)
        if told.get("miles"):
            ride["way"] = {"distance_km": round(km / 1.609344, 1)}
        if told.get("speed"):
            top = float(sweeps.highest_speeds(b, 0.0, 0.9)[0][0, 0]) * 3.6
            ride["runs"] = [{"kind": "speed", "kmh": [round(top + 0.6, 1), round(top - 0.9, 1)], "charge_pct": 90}]
        if told.get("hill"):
            top = float(sweeps.highest_speeds(b, 0.08, 0.85)[0][0, 0]) * 3.6
            foot = round(top + 3.0, 1)
            run = {
                "kind": "hill",
                "grade_pct": 8,
                "length_m": 140,
                "foot_kmh": foot,
                "top_kmh": round(top, 1),
                "charge_pct": 85,
            }
            ride["runs"] = [run]
        if told.get("track"):
            quick = float(sweeps.highest_speeds(b, 0.0, 0.9)[0][0, 0])
            legs = [
                Leg(900, 0.0, 6.4, 40),
                Leg(0, 0, 0),
                Leg(1300, 0.002, 6.4, 65),
                Leg(220, 0.06, 5.2, 80),
                Leg(500, 0.0, 6.4, 95),
                Leg(140, 0.0, 0.95 * quick, 95),
                Leg(160, 0.0, 1.0, 95, coast=True),
                Leg(900, -0.004, 6.6, 120),
                Leg(0, 0, 0),
                Leg(900, 0.004, 5.9, 300),
                Leg(260, 0.0, 0.92 * quick, 275),
                Leg(500, 0.0, 6.0, 275),
                Leg(220, -0.06, 5.2, 260),
                Leg(1300, -0.002, 5.9, 245),
                Leg(900, 0.0, 5.8, 220),
                Leg(0, 0, 0),
            ]
            track = ridden_log(b, legs, datetime(2026, 9, 5, 17, 20, tzinfo=UTC), *WALL)
            (DATA / "track-wall.json").write_text(json.dumps(write_track(track), separators=(",", ":")) + "\n")
            ride["way"]["distance_km"] = round(float(track.way[-1]) / 1000.0, 1)
            there = sweeps.arrivals(b, np.array([float(track.way[-1])]))[0]
            ride["way"].pop("moving_s", None)
            ride["pack"]["end_v"] = round(float(there.rest_v), 1)
            ride["track"] = "track-wall.json"
        rides.append(ride)
    lines = ",\n  ".join(json.dumps(r, ensure_ascii=False) for r in rides)
    (DATA / "rides.json").write_text(f'{{"build": "build-3.json", "rides": [\n  {lines}\n]}}\n')


if __name__ == "__main__":
    main()
