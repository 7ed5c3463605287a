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
    "Only where nobody else is, in protective gear, on a way that you know and where local rules let you ride so."
)

GUIDES: list[TestGuide] = [
    TestGuide(
        kind="coast",
        title="Roll out",
        minutes=20,
        tells=["rolling resistance", "drag area", "drag of belts or gears"],
        steps=[
            "Find a level street of 200 m without traffic, and a calm hour.",
            "Ride at a steady speed to a mark, let the throttle go there, stand as always, do not brake.",
            "Note the speed at the mark, the speed where you stop counting (5 km/h will do), and the metres between.",
            "The same the other way. Write down the mean of both ways.",
            "Once more from as fast as you ride: the air tells itself from the road only by that.",
        ],
        spoils=["a slope that the eye does not see", "wind over 3 m/s", "a wet road", "a remote that brakes at rest"],
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
            "The same street both ways, 300 m to come up to speed, charge near 90 %.",
            "Stand as you would ride fast; say whether upright or low.",
            "Hold it for five seconds each way. Write both speeds down.",
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
            "Find its length and its rise: a map with contours, a phone, or a long level and a rule.",
            "Roll down first, to know how steep it feels and whether the brake holds you.",
            "Come to the foot at your usual speed, then all of the throttle.",
            "Write down the speed at the foot and at the top, or where it stopped. Feel the motors.",
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
            "Until the controller cuts off. Write down the kilometres, the climb and the time on the move.",
            "After five minutes' rest read the pack's volts: each cell should stand at 3.3 to 3.4 V.",
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
        caution="Have a way home on foot. Charge the pack the same day: an empty one left standing is lost.",
    ),
    TestGuide(
        kind="charge",
        title="A charge by the meter",
        minutes=10,
        tells=["cell capacity", "capacity left"],
        steps=[
            "Read the pack's volts before you plug in, rested for five minutes.",
            "A meter at the wall, set to zero; charge until the charger ends by itself.",
            "Read the meter, and the volts after five minutes.",
        ],
        spoils=["a charge from half", "a meter that does not count small powers"],
        error_pct=5,
        enters=["charge.wh", "charge.at", "charge.from_v", "charge.to_v"],
    ),
    TestGuide(
        kind="unloaded",
        title="Wheels in the air",
        minutes=10,
        tells=["motor KV", "rolling radius"],
        steps=[
            "The board upside down and fast, nothing near the wheels; the pack's volts at rest.",
            "Full throttle for three seconds; read the speed off the remote or the controller.",
        ],
        spoils=["a remote that reckons its speed with another wheel", "a belt so tight that the motor grows warm"],
        error_pct=1.5,
        enters=["unloaded.kmh", "unloaded.pack_v"],
        caution="Fingers, hair and laces away from belts and wheels.",
    ),
    TestGuide(
        kind="weigh",
        title="On the scale",
        minutes=2,
        tells=["board as carried"],
        steps=[
            "Stand on the bathroom scale with the board in your arms, then without it. The difference is the board."
        ],
        spoils=["a scale on carpet"],
        error_pct=1,
        enters=["weighed_kg"],
    ),
]
