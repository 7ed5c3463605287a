"""How a board begins: six questions in a builder's words, or a board that is there already, of which some parts stay.

What stands beside a question is common practice, no source.
"""

from math import pi
from typing import Any

from pydantic import BaseModel
from scipy.optimize import brentq

from boardmath.buildfile.build import Build, Existing, Parts, Rider
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Cell, Pack
from boardmath.buildfile.migration import VERSION
from boardmath.buildfile.rolling import Wheels
from boardmath.model.defaults import USUAL
from boardmath.model.evaluation import Evaluation
from boardmath.model.inputs import cell_voltages, full_voltage, gear_ratio
from boardmath.parts.part_types import KINDS


def new_build(name: str = "New board") -> Build:
    """An empty bench: only a rider of usual mass."""
    return Build(
        format="sand-pocket/build", version=VERSION, name=name, stage="planned", currency="EUR", rider=Rider(mass_kg=75)
    )


class Question(BaseModel):
    """``fields`` are asked first, by their paths; ``why`` says what the board gets out of the answer."""

    slug: str
    asks: str
    why: str
    fields: list[str]
    labels: dict[str, str] = {}
    """What a field is called here, where its own title leaves open of what it is."""


QUESTIONS = [
    Question(
        slug="who",
        asks="Who rides?",
        why="As you step on, in clothes and shoes, with your bag. Weight affects hills and range more than any "
        "single part.",
        fields=["rider.mass_kg", "rider.carried_kg"],
    ),
    Question(
        slug="what",
        asks="What for, and on what ground?",
        why="Boardwalks and gravel use far more charge than smooth asphalt.",
        fields=["brief.use", "brief.surface"],
    ),
    Question(
        slug="far",
        asks="How far on one charge?",
        why="There and back, without a socket on the way. The pack follows from it, and the price from the pack.",
        fields=["brief.range_km"],
    ),
    Question(
        slug="steep",
        asks="How steep is the worst hill?",
        why="5 % is hardly noticed, 10 % gets a cyclist out of the saddle, 20 % is a very steep street.",
        fields=["brief.hill_grade_pct", "brief.hill_length_m"],
    ),
    Question(
        slug="fast",
        asks="How fast?",
        why="Find out for yourself what is allowed where you ride. 20 km/h keeps up with a bicycle.",
        fields=["brief.top_speed_kmh"],
    ),
    Question(
        slug="much",
        asks="What may it cost and weigh?",
        why="Cost without what you already own; weight as you would carry it up the stairs.",
        fields=["brief.budget", "brief.carry_mass_kg"],
    ),
]


MORE = [
    "rider.height_m",
    "rider.stance",
    "brief.cruise_kmh",
    "brief.reserve_pct",
    "brief.stops_per_km",
    "brief.ascent_m_per_km",
    "brief.wind_ms",
    "brief.wind",
    "brief.temperature_c",
    "brief.wet",
    "brief.local_speed_limit_kmh",
    "brief.quiet_zone_kmh",
]
"""What may be said besides: all of it has a usual value."""

OF_A_BOARD = [
    Question(
        slug="rides",
        asks="Who rides it?",
        why="As you step on, in clothes and shoes, with your bag.",
        fields=["rider.mass_kg", "rider.carried_kg"],
    ),
    Question(
        slug="drives",
        asks="What drives it?",
        why="A hub motor is part of the wheel; with a belt the motor is beside it. Leave the teeth empty for hub "
        "motors.",
        fields=["parts.motors.kind", "parts.motors.count", "parts.drive.motor_teeth", "parts.drive.wheel_teeth"],
        labels={"parts.motors.kind": "Kind of motor", "parts.motors.count": "How many"},
    ),
    Question(
        slug="overview",
        asks="What are deck and wheels?",
        why="Measure the wheels across with a ruler, and the deck from end to end.",
        fields=["parts.wheels.diameter_mm", "parts.deck.length_mm"],
        labels={"parts.wheels.diameter_mm": "Wheels across", "parts.deck.length_mm": "Deck, end to end"},
    ),
    Question(
        slug="feeds",
        asks="What is the pack?",
        why="The voltage printed on its charger gives the cells in series; the pack says its ampere hours.",
        fields=["parts.charger.v", "parts.charger.a", "parts.pack.series", "parts.pack.cell.capacity_ah"],
        labels={
            "parts.charger.v": "Charger voltage",
            "parts.charger.a": "Charger current",
            "parts.pack.cell.capacity_ah": "Pack capacity",
        },
    ),
    Question(
        slug="does",
        asks="What does it do now?",
        why="As measured: flat out on a full pack with you on it; weighed; one whole ride. Each figure narrows the "
        "prediction.",
        fields=["existing.top_speed_kmh", "existing.mass_kg", "existing.range_km"],
        labels={
            "existing.top_speed_kmh": "Flat out",
            "existing.mass_kg": "Weighed",
            "existing.range_km": "One whole ride",
        },
    ),
    Question(
        slug="should",
        asks="What should it do?",
        why="The targets of the change. The budget is for new parts alone.",
        fields=["brief.range_km", "brief.hill_grade_pct", "brief.top_speed_kmh", "brief.budget"],
    ),
]
REPLACEABLE = ["pack", "charger", "controller", "motors", "wheels", "deck", "trucks", "remote", "enclosure"]
"""The kinds of part of a board that is there which somebody replaces."""
_THERE = ("deck", "trucks", "wheels", "motors", "drive", "pack", "controller", "charger", "remote", "enclosure")
"""What every driven board has, said or not."""
_AS_IT_IS = "as it is"
MOST_KV = 1500.0


def adapted(said: Build, replaced: list[str]) -> Build:
    """A board that is there: what stays is in hand, and what is replaced has its place empty for something new.

    Cells in series follow from the charger's volts, and the motor's KV from the measured top speed, where they are not said.

    Args:
        said: the board as it is, as far as it was described; replaced: the kinds of part that will be others.
    """
    parts = _described(said.parts)
    parts = _cells_from_charger(parts)
    whole = said.model_copy(update={"parts": parts})
    before = said.existing or Existing()
    motors = parts.motors or Motors()
    if motors.kv_rpm_per_v is None and before.top_speed_kmh is not None and "motors" not in replaced:
        # Of a pack that nobody described it cannot be said what it bears; then the speed wheels in the air says the KV.
        pack = said.parts.pack
        described = pack is not None and (
            pack.parallel is not None or (pack.cell is not None and pack.cell.capacity_ah)
        )
        find = kv_from_speed if described else kv_by_the_usual_share
        found = find(whole, before.top_speed_kmh)
        if found is not None:
            told = f"from its measured top speed of {before.top_speed_kmh:g} km/h"
            motors = motors.model_copy(update={"kv_rpm_per_v": found, "source": told})
            parts = parts.model_copy(update={"motors": motors})
    gone = [k for k in _THERE if k in replaced or (k == "drive" and "motors" in replaced)]
    was = Parts(**{k: getattr(parts, k) for k in gone})
    stays = parts.model_copy(update=dict.fromkeys(gone))
    existing = before.model_copy(update={"was": was if gone else None})
    return said.model_copy(update={"parts": stays, "existing": existing, "stage": "planned"})


def _described(parts: Parts) -> Parts:
    """Every part that such a board has, in hand; what was not described is there all the same."""
    found: dict[str, Any] = {}
    for name in _THERE:
        part = getattr(parts, name) or KINDS[name].model()
        words = f"{KINDS[name].name}, {_AS_IT_IS}"
        found[name] = part.model_copy(update={"owned": True, "name": part.name or words})
    motors: Motors = found["motors"]
    found["motors"] = motors = motors.model_copy(update={"count": motors.count or 1, "kind": motors.kind or "hub"})
    if motors.kind in ("hub", "direct"):
        found["drive"] = Drive(kind=motors.kind, name=found["drive"].name, owned=True)
    else:
        drive: Drive = found["drive"]
        usual = {"motor_teeth": int(USUAL["drive.motor_teeth"]), "wheel_teeth": int(USUAL["drive.wheel_teeth"])}
        found["drive"] = drive.model_copy(
            update={"kind": "belt", **{k: getattr(drive, k) or v for k, v in usual.items()}}
        )
    wheels = found["wheels"]
    found["wheels"] = wheels.model_copy(update={"diameter_mm": wheels.diameter_mm or USUAL["wheels.diameter_mm"]})
    return parts.model_copy(update=found)


def _cells_from_charger(parts: Parts) -> Parts:
    """As many cells in series as the charger's volts fill; a usual number where neither is said."""
    pack, charger = parts.pack or Pack(), parts.charger
    if pack.series is not None:
        return parts
    full = cell_voltages(pack)[0]
    volts = charger.v if charger else None
    series = max(round(volts / full), 1) if volts else int(USUAL["pack.series"])
    cell = pack.cell or Cell(chemistry="nmc")
    return parts.model_copy(
        update={"pack": pack.model_copy(update={"series": series, "parallel": pack.parallel or 1, "cell": cell})}
    )


LOADED_OVER_UNLOADED = 0.85
"""Top speed on the road over that of the wheels in the air (common practice, no source: 35 against 41)."""


def kv_by_the_usual_share(build: Build, top_speed_kmh: float) -> float | None:
    """The KV by which the wheels in the air turn as much faster than the measured top speed as they usually do."""
    wheels, pack = build.parts.wheels or Wheels(), build.parts.pack or Pack()
    around = pi * (wheels.diameter_mm or USUAL["wheels.diameter_mm"]) / 1000.0
    turns = top_speed_kmh / 3.6 / LOADED_OVER_UNLOADED / around * 60.0 * gear_ratio(build)
    volts = full_voltage(pack)
    return round(turns / volts, 0) if volts > 0.0 and turns / volts <= MOST_KV else None


def kv_from_speed(build: Build, top_speed_kmh: float) -> float | None:
    """The KV with which the board reaches a measured top speed on the flat with a full pack; None where no KV does.

    The least that does: above it something else than the motor's volts ends the speed.
    """
    motors = build.parts.motors or Motors()

    def speed(kv: float) -> float:
        tried = motors.model_copy(update={"kv_rpm_per_v": kv})
        evaluation = Evaluation(
            build.model_copy(update={"parts": build.parts.model_copy(update={"motors": tried})}), samples=0
        )
        return float("nan") if evaluation.needs else float(evaluation.headlines.top_speed[0]) * 3.6

    span = Motors.model_json_schema()["properties"]["kv_rpm_per_v"]
    low = float(span["low"])
    steps = [low * (MOST_KV / low) ** (i / 12.0) for i in range(13)]
    last = low
    for kv in steps:
        reached = speed(kv)
        if reached != reached:
            return None
        if reached >= top_speed_kmh:
            if kv == low:
                return low
            return round(float(brentq(lambda k: speed(k) - top_speed_kmh, last, kv, xtol=0.5)), 0)
        last = kv
    return None
