"""What the prediction means on the road."""

from collections.abc import Iterator, Sequence

from boardmath.advice.finding import Finding, finding
from boardmath.buildfile.build import Build
from boardmath.predict.promises import Promise
from boardmath.saying import say

_ABOUT = {
    "speed": ["motors", "drive", "pack"],
    "hill": ["motors", "drive", "controller"],
    "range": ["pack"],
    "carry": ["pack", "deck"],
    "money": [],
}

_CURES = {
    "grip": "The driven wheels slip before the motor gives up: a second driven wheel, grippier wheels or a dry day.",
    "pack power": "A pack with less resistance cures it: more cells in parallel, or cells for more current.",
}


def cannot_move(build: Build, promises: Sequence[Promise]) -> Iterator[Finding]:
    """A board that does not move, with the ability that stops it."""
    by_name = {p.name: p for p in promises}
    speed, hill = by_name["speed"], by_name["hill"]
    if speed.mid is not None and speed.mid <= 0.0:
        yield finding(
            "cannot-move", "stop", "Cannot move on the flat", _ABOUT["speed"], [],
            say(f"With the rider aboard {speed.limit} gives way before the wheels turn. More cells in parallel, more motor "
                "current, or a shorter gear."),
        )  # fmt: skip
    elif hill.mid is not None and hill.wanted is not None and hill.mid < hill.wanted and hill.verdict == "falls short":
        yield finding(
            "cannot-start-on-hill", "stop", "No start on the hill", _ABOUT["hill"],
            ["brief.hill_grade_pct"],
            say(f"From rest it manages {{can}}, the hill has {{hill}}: {hill.limit} gives way. "
                + _CURES.get(hill.limit or "", "A shorter gear, more motor current or a second motor cures it."),
                can=(hill.mid, "grade"), hill=(hill.wanted, "grade")),
        )  # fmt: skip


def short_of_brief(build: Build, promises: Sequence[Promise]) -> Iterator[Finding]:
    """Promises that fall short of what the brief asks for."""
    verb = {"carry": "is", "money": "comes to"}
    for p in promises:
        if p.verdict != "falls short" or p.name == "hill" or p.mid is None or p.wanted is None or not p.mid:
            continue
        yield finding(
            f"brief-{p.name}", "warn", f"{p.title} misses the brief", _ABOUT[p.name], [],
            say(f"The build {verb.get(p.name, 'gives')} {{mid}}; the brief asks for {{wanted}}"
                + (f". What decides it: {p.limit}." if p.name in ("speed", "range") else "."),
                mid=(p.mid, p.quantity), wanted=(p.wanted, p.quantity)),
        )  # fmt: skip


def faster_than_the_rule(build: Build, promises: Sequence[Promise]) -> Iterator[Finding]:
    """A board that can go faster than the limit that the builder noted down."""
    limit, speed = build.brief.local_speed_limit_kmh, promises[0]
    if limit is None or speed.mid is None or speed.mid <= limit:
        return
    yield finding(
        "faster-than-local-rule", "note", "It can go faster than the rule you noted", ["brief", "controller"],
        ["brief.local_speed_limit_kmh"],
        say("Flat out it does {speed}; you noted {limit}. Rules differ from place to place: ask who knows, and ride to them.",
            speed=(speed.mid, "speed"), limit=(limit, "speed")),
    )  # fmt: skip
