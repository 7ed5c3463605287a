"""Where a number comes from: its formula in words, the inputs with their origin, and the source."""

from collections.abc import Mapping

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.messages import Figure
from boardmath.model.inputs import Input, Origin
from boardmath.model.model_inputs import BY_NAME
from boardmath.parts.part_types import KINDS, kind_of

_AT_REST = ["crr", "load", "board_mass", "wheel_radius"]
_ROAD = ["cda", *_AT_REST]
_MOTOR = ["kv", "phase_resistance", "no_load_current", "drive_efficiency"]
_CURRENT = ["cell_resistance", "path_resistance", "conduction"]
_PACK = ["duty", "held_back", *_CURRENT]

_FORMULAS: dict[str, tuple[str, str, list[str]]] = {
    "speed": (
        (
            "The speed at which the first limit is reached. Rolling, air and drive drag give the force; force times "
            "wheel radius over gear ratio and efficiency gives the motor's torque; torque over its constant (8.27 / "
            "KV) gives its current; speed over KV plus current times resistance gives the voltage it needs, compared "
            "with the pack's voltage under load. On the flat, in still air, at 90 % charge."
        ),
        "docs/model.md, road to cell; air by ISO 2533; copper by IEC 60028",
        [*_MOTOR, "motor_current_limit", *_PACK, *_ROAD, "temperature"],
    ),
    "hill": (
        (
            "The steepest grade on which the board can hold itself under power: weight times the sine of the slope "
            "plus rolling resistance, compared with motor current times torque constant times gear ratio over wheel "
            "radius, with what the pack gives, and with the grip of the driven wheels."
        ),
        "docs/model.md, limits; the rider's lean is common practice, no source",
        ["grip", "motor_current_limit", *_AT_REST, *_MOTOR, *_CURRENT],
    ),
    "range": (
        (
            "The charge that each kilometre uses: on the flat at the mean speed, out and back in the wind, climbs "
            "and what rolls back from them, stops, and how you ride. It is added up from the charge at the start "
            "down to the reserve, with the cells' voltage and resistance at each charge as they warm up."
        ),
        "docs/model.md, results; cell curves of Chen 2020, Kim 2011, Prada 2012, Ramadass 2004 by way of PyBaMM",
        [
            "riding",
            "mean_speed",
            "cell_capacity",
            "health",
            "weakest_group",
            *_ROAD,
            "stops",
            "ascent",
            "swing_wind",
            "temperature",
            "charge_start",
            "idle",
            *_PACK,
            *_MOTOR,
        ],
    ),
    "carry": (
        (
            "The sum of the parts as carried, without remote and charger. A part that is not chosen yet counts as a "
            "typical one; a part without a stated mass is estimated from its size."
        ),
        "docs/model.md, results; estimates by size are common practice, no source",
        ["board_mass"],
    ),
    "money": (
        "Prices times numbers, in exact decimals, without what you own already.",
        "docs/model.md, results",
        [],
    ),
}


class WhyInput(BaseModel):
    """An input of a number: its value, where it comes from, and what would make it surer."""

    name: str
    figure: Figure
    origin: Origin
    rule: str | None = None
    measure: str | None = None
    field: str


class Why(BaseModel):
    """Why a number is what it is."""

    formula: str
    source: str
    inputs: list[WhyInput]


def whys(build: Build, known: Mapping[str, Input], masses: Mapping[str, Input]) -> dict[str, Why]:
    """The why of every outcome; of what is carried every part's mass, of the others their inputs once the build is far enough."""
    found = {
        name: Why(formula=formula, source=source, inputs=[_shown(i, known[i]) for i in inputs if i in known])
        for name, (formula, source, inputs) in _FORMULAS.items()
    }
    heaviest = sorted(masses.items(), key=lambda m: -m[1].value)
    parts = [_weighed(build, name, mass) for name, mass in heaviest if mass.value > 0.0]
    return found | {"carry": found["carry"].model_copy(update={"inputs": [*found["carry"].inputs, *parts]})}


_NOT_PARTS = {"small_parts": "small things that are on no list"}


def _weighed(build: Build, name: str, mass: Input) -> WhyInput:
    kind = kind_of(f"parts.{name}") or name
    known = KINDS.get(kind)
    called = _NOT_PARTS.get(name) or (known.name if known else name)
    if known is not None and known.several:
        of, _, place = name.partition(".")
        called = getattr(build.parts, of)[int(place)].name or called
    return WhyInput(
        name=called,
        figure=Figure(value=mass.value, quantity="mass"),
        origin=mass.origin,
        rule=mass.rule,
        measure="weigh it on a kitchen scale" if mass.origin == "estimated" and name not in _NOT_PARTS else None,
        field=mass.field,
    )


def _shown(name: str, given: Input) -> WhyInput:
    record = BY_NAME[name]
    measured = given.origin == "measured" or given.spread <= 0.0
    return WhyInput(
        name=record.title,
        figure=Figure(value=given.value, quantity=record.quantity),
        origin=given.origin,
        rule=given.rule,
        measure=record.measure.how if record.measure is not None and not measured else None,
        field=given.field,
    )
