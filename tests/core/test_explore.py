"""The explorer: 100,000 boards at once are the same boards as one by one, and what it says of them holds."""

import json
from pathlib import Path

import numpy as np
import pytest
from scipy.optimize import differential_evolution

from boardmath.buildfile import BuildFileError, read_build
from boardmath.buildfile.drivetrain import Motors
from boardmath.checks import findings
from boardmath.checks.electrical import charger_voltage
from boardmath.checks.power_path import charging_current
from boardmath.engine.histograms import CARRY, front
from boardmath.likelihood import LIKELY
from boardmath.model.evaluation import Evaluation
from boardmath.parts.cost import cost
from boardmath.parts.default_settings import first_settings
from boardmath.prediction.outcomes import headline_of, headlines
from planner.__main__ import main
from planner.explore.compatibility import RULES, Compatibility
from planner.explore.design_space import open_choices
from planner.explore.detail import looked_into
from planner.explore.factors import Tables
from planner.explore.picking import keeps_all, worked_out
from planner.explore.report import HOLDS_BACK, exploration
from planner.explore.search import NAMES, Explored, wanted_of
from planner.explore.space import PIECES, Open, OpenNumber, Space
from planner.explore.variants import rewound
from tests.core.boards import SPIT_RUNNER, bare, changed, spit_runner
from tests.core.test_proposals import LIBRARY

KV = OpenNumber(path="parts.motors.kv_rpm_per_v", low=150, high=230, step=40)
COUNT = OpenNumber(path="parts.motors.count", low=1, high=2)
MOTOR_TEETH = OpenNumber(path="parts.drive.motor_teeth", low=12, high=18, step=3)
WHEEL_TEETH = OpenNumber(path="parts.drive.wheel_teeth", low=36, high=48, step=6)
DIAMETER = OpenNumber(path="parts.wheels.diameter_mm", low=83, high=107, step=12)
SERIES = OpenNumber(path="parts.pack.series", low=6, high=12, step=2)
PARALLEL = OpenNumber(path="parts.pack.parallel", low=2, high=5)
SPACES = {
    "parts of the library": Open(kinds=["motors", "controller", "drive", "wheels", "pack"], numbers=[COUNT]),
    "packs made of cells": Open(kinds=["motors", "cell"], numbers=[COUNT, MOTOR_TEETH, SERIES, PARALLEL]),
    "decks and trucks": Open(kinds=["deck", "trucks", "wheels", "motors"], numbers=[COUNT]),
    "free numbers": Open(numbers=[KV, COUNT, MOTOR_TEETH, WHEEL_TEETH, DIAMETER, SERIES, PARALLEL]),
}
FEW_OF_EACH = {kind: parts[::3] for kind, parts in LIBRARY.items()}
BUILDS = {
    "a board on the bench": spit_runner(),
    "a board that was weighed before": read_build(
        changed(SPIT_RUNNER, {"existing": {"mass_kg": 8.1, "was": {"motors": {"count": 2, "mass_g": 900}}}})
    ),
    "no deck, trucks, remote and charger yet": spit_runner(
        parts__deck=None, parts__trucks=None, parts__remote=None, parts__charger=None
    ),
    "bricks in a bag, two packs to swap": spit_runner(parts__pack__place="in_a_bag", parts__pack__spares=2),
}


def some(space: Space, count: int, seed: int = 4) -> np.ndarray:
    boards = space.boards
    return np.random.default_rng(seed).choice(boards, min(count, len(boards)), replace=False)


@pytest.mark.parametrize("build", BUILDS.values(), ids=BUILDS)
@pytest.mark.parametrize("left_open", SPACES.values(), ids=SPACES)
def test_a_board_among_many_is_the_board_by_itself(build, left_open):
    """Every input, in the middle and in every sample, and every coin: the tables are the same model, not a second one."""
    space = Space(build, FEW_OF_EACH, left_open)
    boards = some(space, 40)
    tables = Tables(space)
    middles, (sampled, _) = tables.middles(boards), tables.sampled(boards, 8)
    for i, number in enumerate(boards):
        alone = Evaluation(space.board(int(number)), 8)
        for name in middles.dtype.names:
            np.testing.assert_allclose(
                middles[name][i], alone.boards[name][0], rtol=1e-9, err_msg=f"{name} of {number}"
            )
            own = sampled[name].reshape(len(boards), -1)[i]
            np.testing.assert_allclose(own, alone.boards[name], rtol=1e-9, atol=1e-12, err_msg=f"{name} of {number}")
        money = tables.money(boards)[i]
        assert money == pytest.approx(cost(alone.build).outlay, abs=0.005)


def test_every_design_is_whole_with_the_cheapest_that_fits_of_what_is_not_chosen():
    """Against trying every part of the library by itself; what is chosen or open stays as it is."""
    plan = spit_runner(parts={"motors": {"kv_rpm_per_v": 190, "kind": "outrunner", "price": 70}})
    space = Space(plan, LIBRARY, Open(kinds=["wheels", "drive", "cell", "controller"], numbers=[SERIES, PARALLEL]))
    for number in some(space, 30):
        board = space.board(int(number))
        fits = [
            c
            for c in LIBRARY["charger"]
            if not list(charger_voltage(with_charger := changed_part(board, charger=c)))
            and not list(charging_current(with_charger))
        ]
        cheapest = min((c.price for c in fits), default=None)
        assert (board.parts.charger.price if board.parts.charger else None) == cheapest
        assert board.parts.remote.price == min(r.price for r in LIBRARY["remote"])
        assert board.parts.deck.price == min(d.price for d in LIBRARY["deck"])
        assert board.parts.trucks.price == min(t.price for t in LIBRARY["trucks"] if t.hanger_mm >= 180)
        assert not cost(board).unpriced
    assert "a charger for each pack" in exploration(Explored(space).whole(), wanted_of(plan)).completed.text
    own = Space(spit_runner(), LIBRARY, Open(kinds=["deck"]))
    assert own.completed == {}
    assert {own.board(int(n)).parts.charger.name for n in own.boards} == {spit_runner().parts.charger.name}


def changed_part(build, **parts):
    return build.model_copy(update={"parts": build.parts.model_copy(update=parts)})


@pytest.mark.parametrize("left_open", SPACES.values(), ids=SPACES)
def test_what_does_not_go_together_is_the_same_whoever_asks(left_open):
    """A rule that is asked of two pieces says of them what it says of the whole board; and so does the table of all boards."""
    space = Space(spit_runner(), FEW_OF_EACH, left_open)
    boards = some(space, 60)
    fits, _ = Compatibility(space).of(boards)
    for number, fine in zip(boards, fits, strict=True):
        asked = [rule for rule, reads in RULES if space.are_open(reads)]
        found = [f for rule in asked for f in rule(space.board(int(number)))]
        assert fine == (not any(f.severity in ("danger", "stop") for f in found))
        whole, at = space.board(int(number)), space.pieces(int(number))
        for rule, reads in RULES:
            part = space.made_of(**{p: int(at[p]) for p in (r.partition(":")[0] for r in reads)})
            grave = [any(f.severity in ("danger", "stop") for f in rule(b)) for b in (whole, part)]
            assert grave[0] == grave[1], f"{rule.__name__} reads more than {reads}"


@pytest.mark.parametrize("size", [1, 7, 60, 400])
def test_the_front_is_what_brute_force_finds(size):
    chance = np.random.default_rng(size)
    for _ in range(25):
        money, carry, sure = (chance.integers(0, 7, size).astype(float) for _ in range(3))
        rows = list(zip(money, carry, -sure, strict=True))
        beaten = [any(all(a <= b for a, b in zip(o, r, strict=True)) and o != r for o in rows) for r in rows]
        found = front(money, carry, sure)
        assert sorted(rows[i] for i in found) == sorted({r for r, b in zip(rows, beaten, strict=True) if not b})


def test_chances_told_from_boards_alike_against_sampling_each():
    """How often all is kept, from the scatter of the nearest of 640 sampled boards, against 512 samples of the board itself."""
    space = Space(spit_runner(), FEW_OF_EACH, SPACES["free numbers"])
    explored = Explored(space).whole()
    wanted = wanted_of(spit_runner())
    chance = explored.chances(wanted)
    # Boards that are sure, or surely not, are no test.
    open_ones = np.flatnonzero((chance > 0.03) & (chance < 0.97))
    off = []
    for row in np.random.default_rng(1).choice(open_ones, 60, replace=False):
        evaluation = Evaluation(space.board(int(explored.boards[row])), 512)
        off.append(chance[row] - keeps_all(evaluation, headline_of(evaluation).outcomes, wanted))
    assert np.abs(off).mean() < 0.05
    assert np.abs(off).max() < 0.2
    assert abs(np.mean(off)) < 0.025, "not to one side"


def test_in_a_small_space_every_board_is_sampled():
    build = spit_runner()
    explored = Explored(Space(build, LIBRARY, Open(numbers=[MOTOR_TEETH, PARALLEL]))).whole()
    wanted = wanted_of(build)
    for number, told in zip(explored.boards, explored.chances(wanted), strict=True):
        evaluation = Evaluation(explored.space.board(int(number)), 64)
        assert told == keeps_all(evaluation, headline_of(evaluation).outcomes, wanted)


def test_the_least_to_give_up_against_an_independent_optimiser():
    """All wishes eased alike, sought over the numbers themselves and not over the list of boards."""
    build = spit_runner(brief__range_km=26, brief__hill_grade_pct=16, brief__carry_mass_kg=7)
    space = Space(build, LIBRARY, Open(numbers=[MOTOR_TEETH, WHEEL_TEETH, SERIES, PARALLEL]))
    explored, wanted = Explored(space).whole(), wanted_of(build)
    assert explored.chances(wanted).max() < LIKELY
    least = explored.least_together(wanted)
    rows = {int(n): i for i, n in enumerate(explored.boards)}

    def eased(x: np.ndarray) -> float:
        number = int(np.ravel_multi_index([int(v) for v in x], space.shape))
        if number not in rows:
            return 1.0
        evaluation = Evaluation(space.board(number), 64)
        values = [evaluation.headline_values[n][1:] for n in ("speed", "hill", "range", "carry")]
        money = headline_of(evaluation).outcomes[4].mid
        of = [v / w if p < CARRY else w / v for p, (v, w) in enumerate(zip(values, wanted[:4], strict=True))]
        worst = np.min([*of, np.full(64, wanted[4] / money)], axis=0)
        return 1.0 - float(np.quantile(worst, 1.0 - LIKELY, method="lower"))

    bounds = [(0, n - 1e-9) for n in space.shape]
    found = differential_evolution(eased, bounds, seed=1, maxiter=12, popsize=8, polish=False)
    assert least == pytest.approx(found.fun, abs=0.012)


def test_one_wish_given_up_is_the_most_that_any_board_bears():
    build = spit_runner(brief__hill_grade_pct=24)
    explored = Explored(Space(build, LIBRARY, Open(numbers=[MOTOR_TEETH, WHEEL_TEETH, PARALLEL]))).whole()
    wanted = wanted_of(build)
    attainable = explored.attainable(wanted)
    hill = NAMES.index("hill")
    assert attainable[hill] < 24
    # Just that is kept by one of them; a little more by none.
    for more, kept in ((-1e-6, True), (0.05, False)):
        eased = wanted.copy()
        eased[hill] = attainable[hill] + more
        assert (explored.chances(eased).max() >= LIKELY) == kept
    report = exploration(explored, wanted)
    assert report.give_up[0].attainable == attainable[hill]
    assert "conflict" in report.says.text or "Smallest compromise" in report.says.text


@pytest.mark.parametrize("stated", [{}, {"parts__pack__health_pct": 80}, {"assumptions__crr": 0.02}])
def test_the_worst_day_of_a_board_among_many_is_that_of_the_board_by_itself(stated):
    """Whatever is stated of its pack's age and its rolling resistance."""
    build = spit_runner(brief__range_means="worst_day", **stated)
    explored = Explored(Space(build, LIBRARY, Open(numbers=[MOTOR_TEETH, PARALLEL]))).whole()
    for number, promised in list(zip(explored.boards, explored.promised, strict=True))[::5]:
        alone = Evaluation(explored.space.board(int(number)), 0).values["worst"][0]
        assert promised[2] == pytest.approx(alone, rel=1e-9)


def test_what_is_shown_of_a_board_is_what_its_bench_shows():
    build = spit_runner()
    space = Space(build, LIBRARY, SPACES["packs made of cells"])
    report = exploration(Explored(space).whole(), wanted_of(build))
    assert report.picks
    for pick in report.picks:
        shown = next(b for b in report.front if b.number == pick.number)
        on_the_bench = headlines([space.board(pick.number)])[0].outcomes
        assert [p.mid for p in shown.outcomes] == [p.mid for p in on_the_bench]
        grave = [
            f for f in findings(space.board(pick.number), shown.outcomes, None) if f.severity in ("danger", "stop")
        ]
        assert not [f for f in grave if {"motors", "controller", "drive", "wheels"} >= set(f.about)]


def test_a_club_asks_which_board_for_600():
    """Nothing chosen but the deck and trucks: three boards unlike each other, each within the money and none with a misfit."""
    deck, trucks = LIBRARY["deck"][0], LIBRARY["trucks"][0]
    brief = {"top_speed_kmh": 25, "range_km": 10, "hill_grade_pct": 8, "budget": 600, "use": "commute"}
    build = bare(brief=brief, deck=deck.model_dump(exclude_none=True), trucks=trucks.model_dump(exclude_none=True))
    may = open_choices(build, LIBRARY)
    assert {"motors", "controller", "drive", "wheels", "cell"} == set(may.usual.kinds)
    # As it is opened for somebody who has chosen nothing: too many to try each, so a random choice of them.
    vast = Space(build, LIBRARY, may.usual)
    assert vast.chosen_from
    chosen = exploration(Explored(vast).whole(), wanted_of(build))
    assert chosen.of > 1_000_000
    assert chosen.picks
    assert all(b.outcomes[4].mid <= 600 for b in chosen.front if b.chance > 0)
    left_open = Open(kinds=["motors", "drive", "wheels", "pack"], numbers=[COUNT])
    build = build.model_copy(update={"parts": build.parts.model_copy(update={"controller": LIBRARY["controller"][0]})})
    report = exploration(Explored(Space(build, LIBRARY, left_open)).whole(), wanted_of(build))
    shown = {b.number: b for b in report.front}
    picks = [shown[p.number] for p in report.picks]
    assert len(picks) >= 2
    assert all(p.outcomes[4].mid <= 600 for p in picks)
    assert picks[0].outcomes[4].mid == min(p.outcomes[4].mid for p in picks), "enough, for the least money"
    assert len({tuple(c.label for c in p.chosen) for p in picks}) == len(picks)


@pytest.mark.parametrize("missing", [(), ("motors",), ("wheels", "controller"), ("pack",), ("drive", "pack")])
@pytest.mark.parametrize("kind", ["outrunner", "hub"])
def test_what_is_proposed_to_be_open_can_be_searched_and_is_what_is_missing(missing, kind):
    parts = {f"parts.{m}": None for m in missing}
    build = spit_runner(**{"parts.motors.kind": kind, **parts})
    may = open_choices(build, LIBRARY)
    bare_wheel = kind == "hub" and "motors" not in missing
    expected = {"cell" if m == "pack" else m for m in missing} - ({"drive"} if bare_wheel else set())
    assert set(may.usual.kinds) == expected
    for free in may.usual.numbers:
        span = next(n for n in may.numbers if n.path == free.path)
        assert span.least <= free.low < free.high <= span.most
        assert not (bare_wheel and free.path.startswith("parts.drive.")), "a hub motor has no pulleys"
    assert len(Space(build, LIBRARY, may.usual)) > 1
    # Without a library of cells a finished pack is looked for.
    packs_only = {k: v for k, v in LIBRARY.items() if k != "cell"}
    assert ("pack" in open_choices(build, packs_only).usual.kinds) == ("pack" in missing)


SHORT = {
    "nothing is asked": ({"brief": None}, "no targets yet"),
    "everything is out of reach": (
        {"brief": {"top_speed_kmh": 70, "range_km": 90, "hill_grade_pct": 30, "carry_mass_kg": 4}},
        "Lowering one target alone does not help",
    ),
    "the hill alone is too steep": ({"brief.hill_grade_pct": 26}, "hill"),
    "the range is too far for these packs": ({"brief.range_km": 34}, "larger pack"),
}


@pytest.mark.parametrize(("changes", "words"), SHORT.values(), ids=SHORT)
def test_what_no_board_keeps_is_said_with_what_could_be_had(changes, words):
    build = spit_runner(**changes)
    explored = Explored(Space(build, LIBRARY, Open(numbers=[MOTOR_TEETH, WHEEL_TEETH, PARALLEL]))).whole()
    wanted = wanted_of(build)
    report = exploration(explored, wanted)
    assert words in " ".join(m.text for m in (report.says, *report.lacks))
    assert (report.sure > 0) == bool(explored.chances(wanted).max() >= LIKELY)
    for given in report.give_up:
        alone = wanted.copy()
        alone[NAMES.index(given.name)] = given.attainable
        assert explored.chances(alone).max() >= LIKELY, "what is said to be had can be had, all else as it was"
    # Whichever cells the cloud is drawn in, each board is in one of them and each bar counts each board once.
    assert sum(c.boards for c in report.cloud.cells) == report.looked_at
    assert all(sum(s.boards) == report.looked_at for s in report.spreads)


REMEDIES = {
    # What gives way, a board on which it does, and the remedy that is named for it.
    "motor current": ({"settings.motor_current_a": 15}, {"settings.motor_current_a": 30}),
    "grip": ({}, {"parts.motors.count": 2, "parts.drive.driven_wheels": 2}),
    "pack current": ({"settings.pack_current_a": 6}, {"settings.pack_current_a": 20}),
    "pack voltage": ({}, {"parts.pack.series": 12}),
}


@pytest.mark.parametrize("limit", REMEDIES)
def test_what_is_named_as_lacking_is_what_helps(limit):
    before, remedy = REMEDIES[limit]
    one, other = (
        {p.name: p for p in headline_of(Evaluation(spit_runner(**changes), 0)).outcomes if p.name in ("speed", "hill")}
        for changes in (before, {**before, **remedy})
    )
    held_back = [name for name, p in one.items() if p.limit == limit]
    assert held_back
    assert max(other[name].mid / one[name].mid for name in held_back) > 1.02
    assert limit in HOLDS_BACK


def test_the_same_can_wound_for_another_kv_is_the_same_motor():
    """With as much copper the losses at a torque stay: torque is current over KV, and resistance goes with 1 / KV squared."""
    motor = Motors(count=1, kv_rpm_per_v=170, phase_resistance_mohm=30.0, no_load_current_a=1.4, max_current_a=65)
    other = rewound(motor, 240)
    loss = [(kv * i) ** 2 for kv, i in ((170 / 170, 1.0), (240 / 170, 1.0))]
    assert other.phase_resistance_mohm * loss[1] == pytest.approx(motor.phase_resistance_mohm * loss[0])
    assert other.max_current_a / other.kv_rpm_per_v == pytest.approx(65 / 170), "as much torque at its largest current"
    # Geared by as much more it is the same board, but for what the controller loses in the larger current.
    one = spit_runner(parts__motors=motor.model_dump(exclude_none=True), settings={}, parts__controller=None)
    twin = rewound(one.parts.motors, 170 * 42 / 36)
    two = one.model_copy(
        update={
            "parts": one.parts.model_copy(
                update={"motors": twin, "drive": one.parts.drive.model_copy(update={"wheel_teeth": 49})}
            )
        }
    )
    speeds = [Evaluation(b, 0).headline_values["speed"][0] for b in (one, two)]
    assert speeds[0] == pytest.approx(speeds[1], rel=0.01)


def test_the_builders_own_settings_stay_where_the_parts_that_they_are_set_for_do():
    build = spit_runner(settings__motor_current_a=41, settings__pack_current_a=23)
    count = build.parts.pack.parallel
    space = Space(build, LIBRARY, Open(numbers=[PARALLEL]))
    boards = [space.board(n) for n in range(len(space))]
    own = next(b for b in boards if b.parts.pack.parallel == count)
    other = next(b for b in boards if b.parts.pack.parallel != count)
    assert (own.settings.motor_current_a, own.settings.pack_current_a) == (41, 23)
    assert other.settings.motor_current_a == 41, "another pack has the same motor and controller"
    assert other.settings.pack_current_a == first_settings(other).pack_current_a
    explored = Explored(space).whole()
    row = next(i for i, n in enumerate(explored.boards) if space.board(int(n)).parts.pack.parallel == count)
    assert explored.promised[row, 0] == pytest.approx(Evaluation(own, 0).headline_values["speed"][0])


def test_a_step_of_each_part_and_the_nearest_real_parts():
    build = spit_runner()
    space = Space(build, LIBRARY, Open(kinds=["controller"], numbers=[KV, PARALLEL]))
    explored, wanted = Explored(space).whole(), wanted_of(build)
    number = exploration(explored, wanted).picks[0].number
    looked = looked_into(space, LIBRARY, number, wanted)
    for axis in looked.steps:
        here = [v for v in axis.values if v.here]
        assert [v.number for v in here] == [number]
        alone = worked_out(space, np.array([number]), wanted)[0].outcomes
        assert [p.mid for p in here[0].outcomes] == [p.mid for p in alone]
    further = next(s for s in looked.steps if s.path == "parts.pack.parallel").values
    ranges = [v.outcomes[2].mid for v in further]
    assert ranges == sorted(ranges), "each cell more side by side goes further"
    assert {r.path for r in looked.real} == {"parts.motors", "parts.pack"}
    assert all(read_build({**SPIT_RUNNER, "parts": r.parts}) for r in looked.real)


@pytest.mark.parametrize(
    ("left_open", "field", "reason"),
    [
        (Open(numbers=[OpenNumber(path="parts.pack.parallel", low=6, high=2)]), "open.numbers.0.low", "upper end"),
        (Open(numbers=[OpenNumber(path="parts.pack.series", low=0, high=99)]), "open.numbers.0.low", "outside"),
        (Open(kinds=["pack", "cell"]), "open.kinds", "not both"),
        (
            Open(numbers=[OpenNumber(path="parts.wheels.diameter_mm", low=40, high=400, step=0.004)]),
            "open.numbers.0.step",
            "makes 90,000 steps",
        ),
        (
            Open(
                kinds=["pack"],
                numbers=[
                    SERIES.model_copy(update={"low": 1, "high": 24, "step": 1}),
                    PARALLEL.model_copy(update={"low": 1, "high": 60}),
                ],
            ),
            "open",
            "2,000 at most",
        ),
        (Open(kinds=["wheels"]), "open.kinds.0", "no wheels to choose from"),
        (Open(numbers=[SERIES, SERIES]), "open.numbers", "twice"),
        (
            Open(
                numbers=[
                    *(SERIES, PARALLEL, MOTOR_TEETH, WHEEL_TEETH),
                    *(n.model_copy(update={"step": (n.high - n.low) / 1600}) for n in (KV, DIAMETER)),
                ]
            ),
            "open",
            "narrow",
        ),
        (Open(numbers=[OpenNumber(path="parts.motors.kv_rpm_per_v", low=20, high=6000, step=1e-4)]), "step", "steps"),
    ],
)
def test_what_cannot_be_open_is_said_by_its_field(left_open, field, reason):
    with pytest.raises(BuildFileError) as told:
        Space(spit_runner(), {"pack": LIBRARY["pack"], "cell": LIBRARY["cell"]}, left_open)
    assert any(field in f.field and reason in f.reason for f in told.value.faults)


def test_what_is_neither_chosen_nor_open_is_asked_for():
    with pytest.raises(BuildFileError, match="choose wheels, or let them change"):
        Space(spit_runner(parts__wheels=None), LIBRARY, Open(numbers=[PARALLEL]))


def test_the_pieces_are_numbered_in_one_order():
    space = Space(spit_runner(), LIBRARY, SPACES["packs made of cells"])
    for number in some(space, 20):
        at = space.pieces(int(number))
        assert np.ravel_multi_index([at[p] for p in PIECES], [space.sizes[p] for p in PIECES]) == number
        values = [a.values[i] for a, i in zip(space.axes, space.positions(int(number)), strict=True)]
        build = space.board(int(number))
        assert build.parts.motors.name == values[0].name
        assert build.parts.pack.cell.name in {v.name for v in LIBRARY["cell"]}


def test_the_command_line(tmp_path, capsys):
    brief, parts = tmp_path / "brief.json", tmp_path / "parts.json"
    brief.write_text(json.dumps(SPIT_RUNNER))
    rows = [{"part": k, **p.model_dump(exclude_none=True)} for k in ("motors", "cell") for p in LIBRARY[k][:4]]
    parts.write_text(json.dumps({"format": "sand-pocket/parts", "version": 1, "parts": rows}))
    (tmp_path / "open.json").write_text(json.dumps({"kinds": ["motors"]}))
    assert main(["explore", str(brief), "--library", str(parts), "--open", str(tmp_path / "open.json")]) == 0
    said = json.loads(capsys.readouterr().out)
    assert said["boards"] == said["looked_at"] <= 4
    assert said["picks"][0]["parts"]["motors"]["kv_rpm_per_v"]
    parts.write_text(json.dumps({"format": "sand-pocket/parts", "version": 1, "parts": []}))
    assert main(["explore", str(brief), "--library", str(parts)]) == 2
    told = capsys.readouterr()
    assert not told.out
    assert "the library is empty" in told.err
    assert Path(brief).exists()
