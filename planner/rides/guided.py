"""Tests that somebody can do with a board, a street and a phone: what to do, what spoils it, how sure it is, what it tells.

All of it common practice, no source.
"""

from typing import Literal

from pydantic import BaseModel

TestKind = Literal["speed", "hill", "range", "coast", "weigh", "unloaded", "charge"]


class TestGuide(BaseModel):
    """A guided test. ``enters`` are the fields that it asks for: of its run, of the ride, or of the build where it is weighed;
    ``error_pct`` is how far it is off.
    """

    kind: TestKind
    title: str
    minutes: float
    tells: list[str]
    """Titles of what it makes surer."""
    steps: list[str]
    spoils: list[str]
    error_pct: float
    enters: list[str]
    caution: str | None = None


_OPEN_ROAD = (
    "Only where nobody else is, in protective gear, on a route that you know and where local rules let you ride."
)

GUIDES: list[TestGuide] = [
    TestGuide(
        kind="coast",
        title="Roll out",
        minutes=20,
        tells=["rolling resistance", "drag area", "drag of belts or gears"],
        steps=[
            "Find a level street of 200 m without traffic, and a calm hour.",
            "Ride at a steady speed to a mark, release the throttle there, stand as always, do not brake.",
            "Note the speed at the mark, the speed where you stop counting (5 km/h will do), and the metres between.",
            "Do the same the other way. Enter the mean of both.",
            "Repeat it from as fast as you ride: only that separates air drag from rolling resistance.",
        ],
        spoils=["a slope too small to see", "wind over 3 m/s", "a wet road", "a remote that brakes at rest"],
        error_pct=5,
        enters=["coast.from_kmh", "coast.to_kmh", "coast.metres", "coast.both_ways", "coast.drive_off"],
        caution=_OPEN_ROAD,
    ),
    TestGuide(
        kind="speed",
        title="Top speed, both ways",
        minutes=20,
        tells=["motor KV", "rolling resistance", "drag area"],
        steps=[
            "Use the same street both ways, with 300 m to reach top speed, at about 90 % charge.",
            "Stand as you would ride fast; note whether upright or low.",
            "Hold it for five seconds each way. Enter both speeds.",
        ],
        spoils=["one way only", "wind over 4 m/s", "a pack below half", "a phone that rounds to whole km/h"],
        error_pct=1.5,
        enters=["speed.kmh", "speed.kmh", "speed.charge_pct"],
        caution=_OPEN_ROAD,
    ),
    TestGuide(
        kind="hill",
        title="A hill",
        minutes=20,
        tells=["motor current limit", "pack current limit", "phase resistance"],
        steps=[
            "Find its length and its rise: a map with contours, a phone, or a long spirit level and a ruler.",
            "Roll down first, to feel how steep it is and whether the brake holds you.",
            "Reach the foot at your usual speed, then full throttle.",
            "Note the speed at the foot and at the top, or where it stopped. Feel how warm the motors are.",
        ],
        spoils=["a running start onto a short hill", "a pack below half", "loose ground"],
        error_pct=6,
        enters=["hill.grade_pct", "hill.rise_m", "hill.length_m", "hill.foot_kmh", "hill.top_kmh", "hill.charge_pct"],
        caution="Walk down if the brake did not hold you on the way up. " + _OPEN_ROAD,
    ),
    TestGuide(
        kind="range",
        title="To the cut-off",
        minutes=90,
        tells=["how you ride", "capacity left", "cell capacity"],
        steps=[
            "Charge fully, and let the pack rest for half an hour.",
            "Ride as you always do, out and back, near home towards the end.",
            "Continue until the controller cuts off. Note the kilometres, the climb and the moving time.",
            "After five minutes' rest measure the pack: each cell should have 3.3 to 3.4 V.",
        ],
        spoils=["riding more gently because it is a test", "a colder day than usual", "a wind that turns"],
        error_pct=3,
        enters=[
            "way.distance_km",
            "way.ascent_m",
            "way.moving_s",
            "pack.start_v",
            "pack.end_v",
            "conditions.temperature_c",
            "conditions.wind_ms",
        ],
        caution="Have a way home on foot. Charge the pack the same day: left empty it is ruined.",
    ),
    TestGuide(
        kind="charge",
        title="A charge measured at the wall",
        minutes=10,
        tells=["cell capacity", "capacity left"],
        steps=[
            "Measure the pack before you plug in, after five minutes' rest.",
            "Set a meter at the wall to zero; charge until the charger stops by itself.",
            "Read the meter, and the pack's voltage after five minutes.",
        ],
        spoils=["starting at half charge", "a meter that does not count low power"],
        error_pct=5,
        enters=["charge.wh", "charge.at", "charge.from_v", "charge.to_v"],
    ),
    TestGuide(
        kind="unloaded",
        title="Wheels in the air",
        minutes=10,
        tells=["motor KV", "rolling radius"],
        steps=[
            "Put the board upside down and fix it, with nothing near the wheels; measure the pack at rest.",
            "Full throttle for three seconds; read the speed from the remote or the controller.",
        ],
        spoils=[
            "a remote that calculates its speed with another wheel size",
            "a belt so tight that the motor gets warm",
        ],
        error_pct=1.5,
        enters=["unloaded.kmh", "unloaded.pack_v"],
        caution="Keep fingers, hair and laces away from belts and wheels.",
    ),
    TestGuide(
        kind="weigh",
        title="On the scale",
        minutes=2,
        tells=["board as carried"],
        steps=["Stand on a bathroom scale with the board in your arms, then without it. The difference is the board."],
        spoils=["a scale on carpet"],
        error_pct=1,
        enters=["weighed_kg"],
    ),
]
