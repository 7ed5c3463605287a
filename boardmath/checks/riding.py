"""What the prediction means on the road."""

from collections.abc import Iterator, Sequence

from boardmath.buildfile.build import Build
from boardmath.checks.finding import Facts, Finding, finding, fix
from boardmath.messages import message
from boardmath.model.estimate import CELL_LIMIT_C
from boardmath.model.inputs import hill_grade
from boardmath.prediction.outcomes import MISSED, Outcome

_ABOUT = {
    "speed": ["motors", "drive", "pack"],
    "hill": ["motors", "drive", "controller"],
    "range": ["pack"],
    "carry": ["pack", "deck"],
    "money": [],
}

OF_THE_RIDE = ("cannot-move", "cannot-start-on-hill")
"""What stops a board by what it can do, not by how its parts fit."""

_FIXES = {
    "grip": (
        "The driven wheels slip before the motor reaches its limit: use a second driven wheel or grippier wheels, or "
        "ride it dry."
    ),
    "pack power": "Use a pack with less resistance: more cells in parallel, or cells for more current.",
}


def cannot_move(build: Build, outcomes: Sequence[Outcome]) -> Iterator[Finding]:
    """A board that does not move, with the ability that stops it."""
    by_name = {p.name: p for p in outcomes}
    speed, hill = by_name["speed"], by_name["hill"]
    if speed.mid is not None and speed.mid <= 0.0:
        yield finding(
            kind="cannot-move",
            severity="stop",
            title="Cannot move on the flat",
            about=_ABOUT["speed"],
            fields=[],
            message=message(
                "With the rider on board the limit is reached before the wheels turn: {limit}. Use more cells "
                "in parallel, more motor current, or more gear reduction.",
                limit=speed.limit,
            ),
        )
    elif hill.mid is not None and hill.wanted is not None and hill.mid < hill.wanted and hill.verdict in MISSED:
        yield finding(
            kind="cannot-start-on-hill",
            severity="stop",
            title="Cannot start on the hill",
            about=_ABOUT["hill"],
            fields=["brief.hill_grade_pct"],
            message=message(
                "From rest it manages {can}, the hill has {hill}. Limit: {limit}. {fix}",
                limit=hill.limit,
                fix=_FIXES.get(hill.limit or "", "Use more gear reduction, more motor current or a second motor."),
                can=(hill.mid, "grade"),
                hill=(hill.wanted, "grade"),
            ),
        )


def short_of_brief(build: Build, outcomes: Sequence[Outcome]) -> Iterator[Finding]:
    """Outcomes that fall short of what the brief asks for."""
    verb = {"carry": "is", "money": "comes to"}
    for p in outcomes:
        if p.verdict not in MISSED or p.name == "hill" or p.mid is None or p.wanted is None or not p.mid:
            continue
        yield finding(
            kind="brief",
            of=p.name,
            severity="warn",
            title=message("{title} misses the target", title=p.title),
            about=_ABOUT[p.name],
            fields=[],
            message=message(
                "This design {gives} {mid}; the target is {wanted}"
                + (". Limit: {limit}." if p.name in ("speed", "range") and p.limit != "reserve" else "."),
                gives=verb.get(p.name, "gives"),
                limit=p.limit,
                mid=(p.mid, p.quantity),
                wanted=(p.wanted, p.quantity),
            ),
        )


def faster_than_the_rule(build: Build, outcomes: Sequence[Outcome]) -> Iterator[Finding]:
    """A board that can go faster than the limit that the builder noted down."""
    limit, speed = build.brief.local_speed_limit_kmh, outcomes[0]
    if limit is None or speed.mid is None or speed.mid <= limit:
        return
    yield finding(
        kind="faster-than-local-rule",
        severity="note",
        title="Faster than the rule you noted",
        about=["brief", "controller"],
        fields=["brief.local_speed_limit_kmh"],
        message=message(
            "Flat out it does {speed}; you noted {limit}. Rules differ from place to place: ask locally, and "
            "ride to them.",
            speed=(speed.mid, "speed"),
            limit=(limit, "speed"),
        ),
    )


def speed_to_spare(build: Build, outcomes: Sequence[Outcome]) -> Iterator[Finding]:
    """A top speed far above what the brief rides, while the hill could use it."""
    wanted = build.brief.top_speed_kmh or build.brief.cruise_kmh
    by_name = {p.name: p for p in outcomes}
    speed, hill = by_name["speed"], by_name["hill"]
    if wanted is None or speed.mid is None or speed.mid < 1.4 * wanted or hill.limit == "grip":
        return
    yield finding(
        kind="speed-to-spare",
        severity="note",
        title="Speed to spare for hills",
        about=["drive", "motors"],
        fields=["parts.drive.motor_teeth"],
        message=message(
            "It does {speed}; the target is {wanted}. A smaller motor pulley or a lower KV would trade that for "
            "climbing and a cooler motor.",
            speed=(speed.mid, "speed"),
            wanted=(wanted, "speed"),
        ),
    )


def heat_before_the_top(build: Build, facts: Facts) -> Iterator[Finding]:
    """A hill that the board can start on but not hold to its top."""
    hill = hill_grade(build)
    if hill is None or facts.held_grade_pct >= hill or "heat" not in facts.held_limit:
        return
    yield finding(
        kind="heat-before-the-top",
        severity="warn",
        title="Overheats before the top of the hill",
        about=["motors", "controller", "drive"],
        fields=["brief.hill_grade_pct", "brief.hill_length_m"],
        message=message(
            "Over {length} it holds {held} before {limit} reduces the power; the hill has {hill}. Use "
            "more gear reduction, a bigger or a second motor, or rest halfway.",
            length=(facts.climb_m, "way"),
            held=(facts.held_grade_pct, "grade"),
            hill=(hill, "grade"),
            limit=facts.held_limit,
        ),
    )


def brakes_on_a_full_pack(build: Build, facts: Facts) -> Iterator[Finding]:
    """A hill that the motors cannot hold back when the pack is too full to take the energy."""
    hill = hill_grade(build)
    if hill is None or facts.full_pack_brake_grade_pct >= hill:
        return
    volts = facts.brakes_hold_up_to_v
    yield finding(
        kind="full-pack-brakes",
        severity="danger",
        title="Brakes cannot hold on a full pack",
        about=["pack", "controller", "settings"],
        fields=["parts.pack.charge_to_v", "brief.hill_grade_pct"],
        message=message(
            "On a full pack the motors hold {held} at cruising speed; the hill has {hill}. A full pack cannot "
            "take braking energy. Charge to less or use some charge first, and be able to stop on foot.",
            held=(facts.full_pack_brake_grade_pct, "grade"),
            hill=(hill, "grade"),
        ),
        fixes=[fix("Charge to {volts} a cell", {"parts.pack.charge_to_v": volts}, volts=(volts, "cell_voltage"))]
        if volts
        else (),
    )


def hot_cells(build: Build, facts: Facts) -> Iterator[Finding]:
    """Cells that get warmer on the brief's ride than their makers end a discharge at."""
    if facts.cells_c <= CELL_LIMIT_C:
        return
    yield finding(
        kind="cells-hot",
        severity="danger",
        title="The ride overheats the cells",
        about=["pack"],
        fields=["parts.pack.parallel", "brief.cruise_kmh"],
        message=message(
            "On your ride the cells reach {warm}; makers end discharging at {most}. Hot cells age fast, and may "
            "vent. Use more cells in parallel, cells with less resistance, or ride slower.",
            warm=(facts.cells_c, "temperature"),
            most=(CELL_LIMIT_C, "temperature"),
        ),
    )
