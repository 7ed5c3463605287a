"""From a brief to builds that would keep it: the library's parts, chosen slot by slot, in three characters."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from pydantic import BaseModel

from boardmath.buildfile.build import Build
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Charger, Controller, Enclosure, Pack
from boardmath.buildfile.figures import Part
from boardmath.checks import findings
from boardmath.messages import Message, message
from boardmath.model.evaluation import Evaluation, evaluate
from boardmath.model.inputs import full_voltage, hill_grade
from boardmath.model.sampling import FEW
from boardmath.parts.cost import cost
from boardmath.parts.default_settings import first_settings
from boardmath.parts.part_selection import with_part
from boardmath.parts.part_types import KINDS
from boardmath.prediction.braking import charge_that_brakes, holds_back
from boardmath.prediction.outcomes import AT_MOST, MISSED, Outcome, OutcomeName, headline_of, headlines
from boardmath.predictor import predict
from planner.design.candidates import value_of
from planner.explore.report import HOLDS_BACK

ORDER = (
    "pack",
    "motors",
    "drive",
    "wheels",
    "controller",
    "trucks",
    "deck",
    "enclosure",
    "risers",
    "switch",
    "wiring",
    "fuse",
    "charger",
    "remote",
)
"""The slots in the order in which they are settled: what decides most comes first."""
_MARGIN = {"speed": 1.07, "hill": 1.25, "range": 1.4, "carry": 1.0, "money": 1.0}
"""What a promise should have in hand over its notch, so that most of its band is on the right side."""
BRAKING = ORDER[:5]
"""Those that decide how well it brakes."""
DECIDING = ORDER[:7]
"""Those that decide how a board is driven; the rest follows from them."""

Weigh = Callable[[Mapping[str, float], Mapping[str, float]], float]


@dataclass(frozen=True)
class Character:
    """What one proposal cares for beside keeping the brief; ``weigh`` is small where it has much of it."""

    name: str
    weigh: Weigh


CHARACTERS = (
    Character("money", lambda mid, wanted: mid["money"] / max(wanted.get("money", 600.0), 1.0)),
    Character("carry", lambda mid, wanted: mid["carry"] / max(wanted.get("carry", 8.0), 1.0)),
    Character(
        "hand",
        lambda mid, wanted: (
            -min(mid["hill"] / max(wanted.get("hill", 10.0), 1.0), 2.5) / 2.0
            - min(mid["range"] / max(wanted.get("range", 12.0), 1.0), 2.5) / 2.0
        ),
    ),
)


NEUTRAL = Character("neutral", lambda mid, wanted: 0.3 * mid["money"] / max(wanted.get("money", 600.0), 1.0))


OTHERWISE = Character("otherwise", NEUTRAL.weigh)


@dataclass(frozen=True)
class Layout:
    """How a board is driven: the library with the motors for it, and how many of them; None where they are chosen."""

    library: Mapping[str, Sequence[Part]]
    motors: int | None


_ROUNDS = 2
_BRAKES_AT = 0.75
"""State of charge by which the brakes should hold the hill: charging to some 4.0 V a cell."""


class Proposal(BaseModel):
    """A whole build for the brief, with its outcomes and what it gives up."""

    name: str
    title: str
    build: Build
    outcomes: list[Outcome]
    gives_up: list[Message]
    lacks: list[Message] = []
    """Which kind of part the library would have to have for what the brief asks and this board does not keep."""
    dangers: int
    """Findings that the bench will show as dangers or misfits."""


def propose(
    build: Build, library: Mapping[str, Sequence[Part]], progress: Callable[[float], None] = lambda _: None
) -> list[Proposal]:
    """Up to three builds from ``library`` that keep the brief of ``build`` as well as they can.

    Parts that ``build`` already has stay: what lies in the drawer is built around. From a few beginnings (one motor on a
    belt, two, none with a belt) each slot is settled in turn; every character goes on from the end that suits it best. Two
    characters that come to the same parts are one proposal.

    Args:
        library: parts by kind, as in :data:`boardmath.parts.part_types.KINDS`; kinds without parts are left open.
        progress: called with how much of it is done, 0 to 1; what it raises ends it.
    """
    kept = {kind for kind in ORDER if getattr(build.parts, kind) is not None}
    library = {**library, "enclosure": _under_the_deck(library.get("enclosure", ()))}
    if not any(library.get(kind) for kind in ORDER if kind not in kept):
        return []
    ends: list[tuple[Build, Layout]] = []
    layouts = _layouts(library, kept)
    done = _Done(progress, len(layouts) * _ROUNDS * len(DECIDING) + len(CHARACTERS) * len(ORDER))
    for layout in layouts:
        end = _begin(build, layout, kept)
        for _ in range(_ROUNDS):
            end = _settle(end, layout, kept, NEUTRAL, done, DECIDING)
        ends.append((end, layout))
    chosen: list[tuple[Character, Build]] = []
    for character in CHARACTERS:
        best = _best([end for end, _ in ends], character)
        end, layout = next(e for e in ends if e[0] is best)
        made = _charged_to_brake(_settle(end, layout, kept, character, done))
        if not any(_alike(made, other) for _, other in chosen):
            chosen.append((character, made))
    if len(chosen) == 1:
        # One board has the most of everything; beside it stands the best of those that are driven otherwise.
        others = [e for e in ends if not _driven_alike(e[0], chosen[0][1])]
        if others:
            best = _best([end for end, _ in others], OTHERWISE)
            end, layout = next(e for e in others if e[0] is best)
            chosen.append((OTHERWISE, _charged_to_brake(_settle(end, layout, kept, OTHERWISE, done))))
    judged = zip(chosen, headlines([b for _, b in chosen], samples=FEW), strict=True)
    # What misses the fewest targets comes first.
    several = sorted(judged, key=lambda each: sum(o.verdict in MISSED for o in each[1].outcomes))
    ready = [headline for _, headline in several]
    titles = _titles([h.outcomes for h in ready])
    return [
        Proposal(
            name=character.name,
            title=titles[i],
            build=made,
            outcomes=headline.outcomes,
            gives_up=_gives_up(i, [h.outcomes for h in ready]),
            lacks=_lacks(made, headline.outcomes, [h.outcomes for h in ready], library),
            dangers=sum(f.severity in ("danger", "stop") for f in predict(made, bands=False).findings),
        )
        for i, ((character, made), headline) in enumerate(several)
    ]


def _under_the_deck(boxes: Sequence[Part]) -> Sequence[Part]:
    """A case that stands on the deck, where the feet are, is for its builder to choose."""
    below = [b for b in boxes if not (isinstance(b, Enclosure) and b.place == "above")]
    return below or boxes


def _alike(one: Build, other: Build) -> bool:
    """Whether two boards are one to their builder: the same in all that decides how they are driven."""
    return all(getattr(one.parts, slot) == getattr(other.parts, slot) for slot in DECIDING)


_LACKS = {
    "range": "a pack that holds more",
    "carry": "lighter parts: deck, trucks, pack",
    "money": "cheaper parts, or parts you already own",
}


def _lacks(
    build: Build,
    outcomes: Sequence[Outcome],
    of_all: Sequence[Sequence[Outcome]],
    library: Mapping[str, Sequence[Part]],
) -> list[Message]:
    """What of the brief falls short, and which kind of part would help; kinds that the library has none of.

    What another proposal meets is not for want of parts: it is what this one gives up.
    """
    met = {p.name for proposal in of_all for p in proposal if p.verdict not in MISSED}
    said = []
    for outcome in outcomes:
        if outcome.verdict in MISSED and outcome.name not in met:
            kind = _LACKS.get(outcome.name) or HOLDS_BACK.get(outcome.limit or "")
            if kind:
                said.append(
                    message("For the {title} target the library lacks {kind}.", title=outcome.title.lower(), kind=kind)
                )
    none = [KINDS[k].name.lower() for k in DECIDING if not library.get(k) and getattr(build.parts, k) is None]
    bare = build.parts.motors is not None and build.parts.motors.kind in ("hub", "direct")
    none = [n for n in none if not (bare and n == KINDS["drive"].name.lower())]
    if none:
        said.append(message("The library has none of these, so they stay unchosen: {none}.", none=", ".join(none)))
    return said


class _Done:
    """Says how much of the slots is settled."""

    def __init__(self, progress: Callable[[float], None], slots: int) -> None:
        self._progress, self._slots, self._settled = progress, slots, 0

    def slot(self) -> None:
        self._settled += 1
        self._progress(min(self._settled / self._slots, 1.0))


def _settle(
    build: Build,
    layout: Layout,
    kept: set[str],
    character: Character,
    done: _Done,
    order: Sequence[str] = ORDER,
) -> Build:
    """Slot by slot the part that scores best, once round."""
    now = build
    for kind in order:
        done.slot()
        if kind in kept or not layout.library.get(kind):
            continue
        now = _best([_finished(b) for b in _ways(now, kind, layout, kept)], character, kind in BRAKING)
    return now


def _layouts(library: Mapping[str, Sequence[Part]], kept: set[str]) -> list[Layout]:
    """One motor on pulleys, two, or motors without any; each with the motors that it is made of."""
    motors = [p for p in library.get("motors", ()) if isinstance(p, Motors)]
    if "motors" in kept or not motors:
        return [Layout(library, None)]
    geared = [m for m in motors if m.kind not in ("hub", "direct")]
    bare = [m for m in motors if m.kind in ("hub", "direct")]
    return [Layout({**library, "motors": pool}, n) for pool, n in ((geared, 1), (geared, 2), (bare, 2)) if pool]


def _begin(build: Build, layout: Layout, kept: set[str]) -> Build:
    """A whole board, so that the first look at a slot has something around it."""
    now = build
    # Motors last: those without pulleys take the drive away again.
    for kind in (*(k for k in ORDER if k != "motors"), "motors"):
        parts = layout.library.get(kind)
        if kind in kept or not parts:
            continue
        part = parts[len(parts) // 2]
        if kind == "trucks":
            # Wide ones first: everything fits beside each other on them.
            part = max(parts, key=lambda t: getattr(t, "hanger_mm", None) or 0.0)
        if isinstance(part, Motors):
            part = part.model_copy(update={"count": layout.motors})
        now = with_part(now, kind, part)
    return _finished(now)


_FOLLOWS = {"pack": ("charger", "enclosure", "fuse", "wiring")}
"""What is chosen for another part, and so stands aside while that part is looked at."""


def _ways(now: Build, kind: str, layout: Layout, kept: set[str]) -> list[Build]:
    """The build as it is and with each of the parts; risers also none.

    Wheels come with each drive that keys into them, decks with each box: alone neither would leave its place.
    """
    aside = {slot: None for slot in _FOLLOWS.get(kind, ()) if slot not in kept}
    if kind == "risers":
        aside["risers"] = None
    now = now.model_copy(update={"parts": now.parts.model_copy(update=aside)})
    motors, library = now.parts.motors, layout.library
    bare = motors is not None and motors.kind in ("hub", "direct")
    if kind == "drive" and bare:
        return [now]
    chosen = [with_part(now, kind, part) for part in library[kind]]
    # What stands aside is not left out because that is cheaper.
    found = chosen if getattr(now.parts, kind) is None and kind != "risers" else [now, *chosen]
    other = {"wheels": "drive", "deck": "enclosure"}.get(kind)
    if other is None or other in kept or (other == "drive" and bare):
        return found
    for one in chosen:
        core = one.parts.wheels.core if one.parts.wheels else None
        keyed = (p for p in library.get(other, ()) if not isinstance(p, Drive) or p.wheel_core == core)
        found += [with_part(one, other, p) for p in keyed]
    whole = [b for b in found if getattr(b.parts, other) is not None]
    return whole or found


def _finished(build: Build) -> Build:
    """What follows from the choices: driven wheels, as many controllers as motors need, settings within every rating."""
    parts = build.parts
    count = (parts.motors.count if parts.motors else 1) or 1
    drive, controller = parts.drive or Drive(kind="belt"), parts.controller
    changed: dict[str, Part] = {"drive": drive.model_copy(update={"driven_wheels": count})}
    if controller is not None:
        units = -(-count // (controller.motors or 1))
        changed["controller"] = controller.model_copy(update={"units": units})
    build = build.model_copy(update={"parts": parts.model_copy(update=changed)})
    return build.model_copy(update={"settings": first_settings(build)})


def _charged_to_brake(build: Build) -> Build:
    """Charged only so far that the brakes hold the hill from the start, where that helps."""
    volts, pack = charge_that_brakes(Evaluation(build, 0)), build.parts.pack
    if volts is None or pack is None:
        return build
    changed = build.parts.model_copy(update={"pack": pack.model_copy(update={"charge_to_v": volts})})
    return build.model_copy(update={"parts": changed})


def _driven_alike(one: Build, other: Build) -> bool:
    first, second = one.parts.motors, other.parts.motors
    return first is not None and second is not None and (first.count, first.kind) == (second.count, second.kind)


def _best(tried: Sequence[Build], character: Character, brakes: bool = True) -> Build:
    """The build of the lowest score; findings, which only add to it, are asked for while they can still decide."""
    found = evaluate(tried, 0)
    short_of_brakes = _short_of_brakes(found) if brakes else [0.0] * len(tried)
    rows = [
        (_against_the_brief(evaluation, character) + (_GRAVITY["danger"] + 6.0 * short if short else 0.0), i)
        for i, (evaluation, short) in enumerate(zip(found, short_of_brakes, strict=True))
    ]
    best, least = tried[0], float("inf")
    for low, i in sorted(rows):
        if low >= least:
            break
        score = low + _grave(found[i])
        if score < least:
            best, least = tried[i], score
    return best


# Weights of ours, against one whole promise missed, which is 10: tried on the briefs of the tests.
_GRAVITY = {"danger": 4.0, "stop": 4.0, "warn": 0.25, "note": 0.0}
_SPEED_TO_SPARE = 0.2
"""Gearing that the brief never rides weighs about as much as a warning."""


def _short_of_brakes(tried: Sequence[Evaluation]) -> list[float]:
    """By how much of the hill the brakes fall short, some of the charge used up."""
    hill = hill_grade(tried[0].build)
    if not hill:
        return [0.0] * len(tried)
    return [max(1.0 - 100.0 * held / hill, 0.0) for held in holds_back(tried, _BRAKES_AT)]


def _grave(evaluation: Evaluation) -> float:
    """Each danger or misfit weighs four. What the brief's shortfall says is counted already."""
    found = findings(evaluation.build, headline_of(evaluation).outcomes, None)
    weight = sum(_GRAVITY[f.severity] for f in found if f.kind != "brief")
    return weight + _SPEED_TO_SPARE * any(f.kind == "speed-to-spare" for f in found) + _mismatch(evaluation.build)


def _wanted(build: Build) -> dict[OutcomeName, float]:
    """What the brief asks for, by promise."""
    brief = build.brief
    asked: dict[OutcomeName, float | None] = {
        "speed": brief.top_speed_kmh,
        "hill": hill_grade(build),
        "range": brief.range_km,
        "carry": brief.carry_mass_kg,
        "money": brief.budget,
    }
    return {name: value for name, value in asked.items() if value is not None}


def _against_the_brief(evaluation: Evaluation, character: Character) -> float:
    """Shortfall against the brief weighs ten times, then the character."""
    if evaluation.needs:
        return 1e6
    mids = {"money": cost(evaluation.build).outlay}
    for name in ("speed", "hill", "range", "carry"):
        shown = value_of(evaluation.build, name)
        mids[name] = float(
            evaluation.values[shown][0] if shown == "worst" else evaluation.headline_values[shown or name][0]
        )
    wanted = _wanted(evaluation.build)
    score = 2.0 * character.weigh(mids, wanted)  # type: ignore[arg-type]
    for name, asked in wanted.items():
        target = asked * _MARGIN[name]
        short = (mids[name] - target if name in AT_MOST else target - mids[name]) / max(target, 1e-9)
        score += 10.0 * max(short, 0.0)
    return score


def _mismatch(build: Build) -> float:
    """Parts that no finding compares but nobody would put together."""
    parts = build.parts
    score = 0.0
    if isinstance(parts.charger, Charger) and isinstance(parts.pack, Pack) and parts.charger.v and parts.pack.series:
        score += 2.0 * abs(parts.charger.v - full_voltage(parts.pack)) / full_voltage(parts.pack)
    if isinstance(parts.controller, Controller) and parts.controller.programmable is False:
        score += 0.1
    return score


_WORDS = {
    "speed": "Slowest of these: {mid}.",
    "hill": "Weakest on hills: {mid}.",
    "range": "Shortest range: {mid}.",
    "carry": "Heaviest of these: {mid}.",
    "money": "Most expensive of these: {mid}.",
}


_MOST = {
    "money": "Cheapest",
    "carry": "Lightest",
    "hill": "Most reserve on hills",
    "range": "Most reserve in range",
    "speed": "Fastest",
}


def _titles(all_outcomes: Sequence[Sequence[Outcome]]) -> list[str]:
    """What each has the most of among them, each said once; by what came out, not by what was aimed at."""
    titles = ["Driven otherwise"] * len(all_outcomes)
    for name, title in _MOST.items():
        row = [next(p for p in outcomes if p.name == name) for outcomes in all_outcomes]
        if any(p.mid is None for p in row):
            continue
        sign = 1.0 if row[0].more_is_better else -1.0
        best = max(range(len(row)), key=lambda i: sign * (row[i].mid or 0.0))
        if titles[best] == "Driven otherwise":
            titles[best] = title
    # Two that have the most of nothing lie between the others.
    left = [i for i, title in enumerate(titles) if title == "Driven otherwise"]
    for i, title in zip(left[1:], ("Between the others", "A compromise"), strict=False):
        titles[i] = title
    return titles


def _gives_up(own: int, all_outcomes: Sequence[Sequence[Outcome]]) -> list[Message]:
    """Where it misses the brief, and where the others are better."""
    said: list[Message] = []
    for column, outcome in enumerate(all_outcomes[own]):
        if outcome.mid is None:
            continue
        mid = (outcome.mid, outcome.quantity)
        if outcome.verdict in {*MISSED, "uncertain"} and outcome.wanted is not None:
            word = "misses" if outcome.verdict in MISSED else "may miss"
            said.append(
                message(
                    "{title} {word} the brief: {mid} of {wanted}.",
                    mid=mid,
                    wanted=(outcome.wanted, outcome.quantity),
                    title=outcome.title,
                    word=word,
                )
            )
            continue
        others = [p[column].mid for i, p in enumerate(all_outcomes) if i != own]
        known = [m for m in others if m is not None]
        sign = 1.0 if outcome.more_is_better else -1.0
        if known and all(sign * (m - outcome.mid) > 0.03 * max(abs(m), 1e-9) for m in known):
            said.append(message(_WORDS[outcome.name], mid=mid))
    return said
