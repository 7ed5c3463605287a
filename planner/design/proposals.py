"""From a brief to builds that would keep it: the best of what the library makes, in three characters."""

from collections.abc import Callable, Mapping, Sequence

from pydantic import BaseModel

from boardmath.buildfile import BuildFileError
from boardmath.buildfile.build import Build
from boardmath.buildfile.drivetrain import Motors
from boardmath.buildfile.electrics import Enclosure
from boardmath.buildfile.figures import Part
from boardmath.messages import Message, message
from boardmath.model.sampling import FEW
from boardmath.parts.part_selection import with_part
from boardmath.parts.part_types import KINDS
from boardmath.prediction.outcomes import MISSED, Outcome, headlines
from boardmath.predictor import predict
from planner.design.best_boards import CHARACTERS, LAYOUTS, OTHERWISE, Character, Field, layout_of
from planner.design.finishing import FOLLOWING, Finish, charged_to_brake, grave, has_dangers
from planner.explore.report import HOLDS_BACK

DECIDING = ("pack", "motors", "drive", "wheels", "controller", "trucks", "deck")
"""Those that decide how a board is driven."""
_ASKED, _DIFFERENT, _TRIED = 8, 40, 3
"""Of how many of the best boards the findings are asked, of how many different ones where all of those have dangers, and how many
are finished."""


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
    build: Build,
    library: Mapping[str, Sequence[Part]],
    progress: Callable[[float], None] = lambda _: None,
    makes_packs: bool = False,
) -> list[Proposal]:
    """Up to three builds from ``library`` that keep the brief of ``build`` as well as they can.

    Parts that ``build`` already has stay: what lies in the drawer is built around. The parts that decide are looked for
    among all their combinations, and what follows is settled around the best for each character. Two characters that come to
    the same parts are one proposal.

    Args:
        library: parts by kind, as in :data:`boardmath.parts.part_types.KINDS`; kinds without parts are left open.
        progress: called with how much of it is done, 0 to 1; what it raises ends it.
        makes_packs: whether packs made of the library's cells are among them; they have to be welded.
    """
    kept = {kind for kind in (*DECIDING, *FOLLOWING) if getattr(build.parts, kind) is not None}
    library = {**library, "enclosure": _under_the_deck(library.get("enclosure", ()))}
    if not any(library.get(kind) for kind in (*DECIDING, *FOLLOWING) if kind not in kept):
        return []
    finish = Finish(library, kept)
    chosen: list[tuple[str, Build]] = []
    try:
        field = Field(build, library, makes_packs)
    except BuildFileError:
        # Something is missing without which no board can be judged: parts from the middle of the library, to begin with.
        chosen.append((OTHERWISE.name, finish.whole(_middling(build, library, kept))))
    else:
        field.search(lambda done: progress(0.5 * done))
        for i, character in enumerate((*CHARACTERS, OTHERWISE)):
            progress(0.5 + 0.5 * i / (len(CHARACTERS) + 1))
            if len(chosen) == len(CHARACTERS):
                break
            made = _best_of(field, character, finish, [b for _, b in chosen])
            if made is not None and not any(_alike(made, other) for _, other in chosen):
                chosen.append((character.name, made))
    judged = zip(chosen, headlines([b for _, b in chosen], samples=FEW), strict=True)
    # What misses the fewest targets comes first.
    several = sorted(judged, key=lambda each: sum(o.verdict in MISSED for o in each[1].outcomes))
    ready = [headline for _, headline in several]
    titles = _titles([h.outcomes for h in ready])
    return [
        Proposal(
            name=name,
            title=titles[i],
            build=made,
            outcomes=headline.outcomes,
            gives_up=_gives_up(i, [h.outcomes for h in ready]),
            lacks=_lacks(made, headline.outcomes, [h.outcomes for h in ready], library),
            dangers=sum(f.severity in ("danger", "stop") for f in predict(made, bands=False).findings),
        )
        for i, ((name, made), headline) in enumerate(several)
    ]


def _best_of(field: Field, character: Character, finish: Finish, others: Sequence[Build]) -> Build | None:
    """The finished board that is best for a character; for :data:`OTHERWISE` of those that are driven like none of the others."""
    layouts = [n for n in LAYOUTS if character is not OTHERWISE or n not in {_layout(b) for b in others}]
    best_few = field.ranked(character, layouts)[:_ASKED]
    deciding = [(low, field.board(number)) for low, number in best_few]
    if all(has_dangers(board) for _, board in deciding):
        # What speaks against all of them, which are nearly alike, need not speak against others.
        deciding += [(low, field.board(n)) for low, n in field.different(character, layouts, _DIFFERENT)]
    weighed = [(low + grave(board), i, board) for i, (low, board) in enumerate(deciding)]
    best, least = None, float("inf")
    for so_far, _, board in sorted(weighed)[:_TRIED]:
        made = finish.whole(board)
        score = so_far - grave(board) + grave(made)
        if score < least:
            best, least = made, score
        if not has_dangers(made):
            break
    return charged_to_brake(best) if best is not None else None


def _layout(build: Build) -> int:
    motors = build.parts.motors or Motors()
    return int(layout_of(motors.kind in ("hub", "direct"), motors.count or 1))


def _under_the_deck(boxes: Sequence[Part]) -> Sequence[Part]:
    """A case that stands on the deck, where the feet are, is for its builder to choose."""
    below = [b for b in boxes if not (isinstance(b, Enclosure) and b.place == "above")]
    return below or boxes


def _alike(one: Build, other: Build) -> bool:
    """Whether two boards are one to their builder: the same in all that decides how they are driven."""
    return all(getattr(one.parts, slot) == getattr(other.parts, slot) for slot in DECIDING)


def _middling(build: Build, library: Mapping[str, Sequence[Part]], kept: set[str]) -> Build:
    """A board of parts from the middle of the library."""
    for kind in (k for k in DECIDING if k not in kept and library.get(k)):
        build = with_part(build, kind, library[kind][len(library[kind]) // 2])
    return build


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
        if outcome.name == "money" and outcome.verdict == "uncertain":
            said.append(message("Costs at least {mid}: not every part has a price.", mid=mid))
            continue
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
