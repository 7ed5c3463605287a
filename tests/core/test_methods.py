"""Where builders differ, each way is offered with its reason, changes the work, and stays within what holds."""

import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from boardmath.buildfile.methods import Methods
from boardmath.checks.power_path import charging_current
from boardmath.geometry.enclosures import contents, enclosure_bolts
from boardmath.geometry.fasteners import INCHES, LENGTHS, WOOD_SCREWS, bolt_size, enclosure_screw, truck_bolts
from boardmath.model.bricks import charged_parallel
from boardmath.model.inputs import cell_charge_rating
from planner.assembly.board import Board
from planner.assembly.methods import QUESTIONS, methods_of
from planner.assembly.plan import assembly
from planner.charging.report import charging_report
from planner.parts_list.accessories import forgotten
from planner.wiring.report import wiring_report
from tests.core.assembled import KINDS, board
from tests.core.boards import any_builds
from tests.core.test_assembly import sound
from tests.core.test_bricks import of_bricks

WAYS = [(q.field, way.value) for q in QUESTIONS for way in q.ways]


def with_methods(build, **methods):
    return build.model_copy(update={"methods": Methods(**methods)})


def all_that_follows(build):
    """Steps, wires, joints, small parts and charging of a board, without what only names the choice."""
    steps = [s.model_dump(exclude={"method"}) for s in assembly(build)]
    wiring = wiring_report(build)
    parts = [(p.id, p.record.name) for p in forgotten(build)]
    charging = charging_report(build).model_dump(exclude={"charges"})
    return steps, wiring.wires, [j.model_dump() for j in wiring.joints], parts, charging


@pytest.mark.parametrize(("field", "value"), WAYS)
def test_each_way_changes_the_work_on_a_board_where_it_arises(field, value):
    usual = next(q for q in QUESTIONS if q.field == field).ways[0].value
    build = of_bricks(12, 1, 3, charger_v=16.8) if field == "brick_charging" else board()
    offered = {m.field: m for m in methods_of(Board(with_methods(build, **{field: value})))}
    assert offered[f"methods.{field}"].holds == value
    same = all_that_follows(with_methods(build, **{field: value})) == all_that_follows(build)
    assert same == (value == usual)


def test_any_choices_on_any_board_leave_a_sound_order():
    chance = random.Random(5)
    boards = [*any_builds(60, seed=12), *(board(kind) for kind in KINDS)]
    for build in boards:
        chosen = {q.field: chance.choice(q.ways).value for q in QUESTIONS}
        steps = assembly(with_methods(build, **chosen))
        sound(steps, gate=chosen["locking"] == "after_dry_fit")
        place = {s.id: n for n, s in enumerate(steps)}
        if chosen["locking"] == "as_you_go":
            assert "dry-look" not in place
            # Each part is tried before it is locked all the same.
            for dry, locked in (("dry-trucks", "trucks"), ("lean", "mount"), ("dry-belt", "motor-pulley")):
                assert dry not in place or locked not in place or place[dry] < place[locked], (dry, locked)
        if chosen["mount_fixing"] == "welded" and {"mount", "trucks"} <= place.keys():
            assert place["mount"] < place["trucks"], "a hanger is welded off the board"


def test_a_board_is_asked_only_what_it_leaves_open():
    asked = {m.field.removeprefix("methods.") for m in methods_of(Board(board("hub")))}
    assert asked == {"enclosure_fixing", "fuse_poles", "locking", "hardware"}
    assert "brick_charging" in {m.field.removeprefix("methods.") for m in methods_of(Board(board("bricks")))}


def test_an_enclosure_that_is_made_has_its_rim_at_the_deck_and_no_floor():
    made = board("printed box", methods={"enclosure_fixing": "through_floor"})
    fixing = next(m for m in methods_of(Board(made)) if m.field == "methods.enclosure_fixing")
    assert "through_floor" not in {w.value for w in fixing.ways}
    assert fixing.holds == "threaded_inserts"


# --- screws -----------------------------------------------------------------------------------------------------------


@given(
    thick=st.floats(8.0, 25.0),
    wall=st.floats(1.0, 6.0),
    fixing=st.sampled_from([w.value for w in QUESTIONS[0].ways]),
    hardware=st.sampled_from(["metric", "inch"]),
)
def test_an_enclosure_screw_holds_and_does_not_come_through_the_top(thick, wall, fixing, hardware):
    build = board(
        parts__deck__thickness_mm=thick,
        parts__enclosure__wall_mm=wall,
        methods={"enclosure_fixing": fixing, "hardware": hardware},
    )
    screw = enclosure_screw(build, Board(build).boxes[0])
    through = wall + 2.0
    if fixing == "wood_screws" and thick < 10.0:
        assert "wood_screws" not in {w.value for m in methods_of(Board(build)) for w in m.ways}
        fixing = "threaded_inserts"
    if fixing == "through_floor":
        # From above through both, with a nut and two threads to spare inside.
        assert screw.length >= thick + through + 6.0
    else:
        assert screw.length <= through + thick, "it would be felt through the grip tape"
        assert 0.0 < screw.holds <= thick
        # The next longer one that is sold would come through, except where a threaded insert ends first.
        lengths = (
            WOOD_SCREWS if fixing == "wood_screws" else LENGTHS if hardware == "metric" else [25.4 * i for i in INCHES]
        )
        longer = [length for length in lengths if length > screw.length]
        spare = {"threaded_inserts": 1.0, "t_nuts": 0.0, "wood_screws": 2.0}[fixing]
        assert longer[0] > min(through + thick - spare, through + 8.0 if fixing == "threaded_inserts" else 1e9)
    assert str(round(screw.length)) in screw.size or hardware == "inch"


def test_inch_bolts_are_named_as_a_shop_does():
    # 13 + 6 + 6 + 6 = 31 mm: 1 1/4 in are 31.75.
    build = board(parts__deck__thickness_mm=13, parts__risers__height_mm=6, methods={"hardware": "inch"})
    assert truck_bolts(build).size == "10-32 x 1 1/4 in"
    assert bolt_size("inch", 25.4) == "10-32 x 1 in"
    assert bolt_size("inch", 0.875 * 25.4) == "10-32 x 7/8 in"


def test_hardware_follows_the_trucks_unless_it_was_chosen():
    inch = board(parts__trucks__threads="inch")
    assert truck_bolts(inch).size.startswith("10-32")
    assert truck_bolts(board(parts__trucks__threads="inch", methods={"hardware": "metric"})).size.startswith("M5")
    nut = next(f for s in assembly(inch) for f in s.fasteners if s.id == "free-wheels")
    assert nut.thread == "5/16-24"


def test_floor_bolts_keep_clear_of_the_sides_and_are_those_of_the_parts_list():
    build = board(methods={"enclosure_fixing": "through_floor"})
    boxed = Board(build).boxes[0]
    places = enclosure_bolts(build, boxed)
    assert all(boxed.span[0] < x < boxed.span[1] and abs(y) < boxed.width / 2.0 - boxed.wall for x, y in places)
    name = next(p.record.name for p in forgotten(build) if p.id == "box-screws")
    assert f"{len(places)} of each" in name
    assert contents(build, boxed) is not None


# --- fuse -------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ["belt", "two motors", "boxed controller"])
@pytest.mark.parametrize("poles", ["positive", "both_poles"])
def test_every_way_of_the_current_passes_its_fuse(kind, poles):
    report = wiring_report(board(kind, methods={"fuse_poles": poles}))
    boxes = {b.id: b for b in report.diagram.boxes}
    for carries, fuse in (("plus", "fuse"), ("minus", "negative_fuse")):
        into = {w.end: w.start for w in report.wires if w.carries == carries}
        for end in [e for e in into if e.startswith("controller")]:
            passed = [end]
            while passed[-1] in into:
                passed.append(into[passed[-1]])
            assert passed[-1] == "pack"
            assert (fuse in passed) == (carries == "plus" or poles == "both_poles")
    drawn = {line.id for line in report.diagram.lines}
    assert {w.id for w in report.wires} == drawn, "each wire is drawn"
    joined = [id for joint in report.joints for id in joint.wires]
    assert {w.id for w in report.wires if w.carries in ("plus", "minus")} <= set(joined), "each has its turn"
    apart = list(boxes.values())
    for n, a in enumerate(apart):
        for b in apart[n + 1 :]:
            beside = a.x + a.width <= b.x or b.x + b.width <= a.x or a.y + a.height <= b.y or b.y + b.height <= a.y
            assert beside, f"{a.id} is drawn over {b.id}"


# --- bricks -----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("series", "parallel", "bricks"), [(12, 1, 3), (8, 2, 4), (12, 2, 4)])
def test_bricks_together_share_the_charger_and_take_one_turn(series, parallel, bricks):
    alone = of_bricks(series, parallel, bricks, charger_v=16.8)
    together = with_methods(alone, brick_charging="together")
    one, all_at_once = charging_report(alone).timetable, charging_report(together).timetable
    assert [t.brick for t in one.turns] == list(range(1, bricks + 1))
    assert [t.brick for t in all_at_once.turns] == [None]
    # The same ampere hours from the same charger: no quicker while its current is the limit, but for one tail instead of several.
    assert 0.6 * one.mid_min < all_at_once.mid_min <= one.mid_min * 1.001


def test_unlike_bricks_are_never_charged_together():
    offered = {m.field: [w.value for w in m.ways] for m in methods_of(Board(of_bricks(10, 1, 3)))}
    assert offered["methods.brick_charging"] == ["one_by_one"]
    unlike = with_methods(of_bricks(10, 1, 3, charger_v=16.8), brick_charging="together")
    assert [t.brick for t in charging_report(unlike).timetable.turns] == [1, 2, 3]


@given(
    sets=st.integers(1, 3),
    in_series=st.integers(1, 3),
    own=st.integers(1, 2),
    amperes=st.floats(0.5, 60.0),
    how=st.sampled_from(["one_by_one", "together"]),
)
def test_a_charger_is_held_against_the_cells_that_share_it(sets, in_series, own, amperes, how):
    """By the definition: what the charger gives, by the cells in parallel at its leads, against the rating of one cell."""
    build = with_methods(
        of_bricks(4 * in_series, sets * own, sets * in_series, charger_v=16.8, brick_sets=sets), brick_charging=how
    )
    charger = build.parts.charger.model_copy(update={"a": amperes})
    build = build.model_copy(update={"parts": build.parts.model_copy(update={"charger": charger})})
    bricks = sets * in_series
    sharing = own * (bricks if how == "together" and bricks > 1 else 1)
    assert charged_parallel(build) == sharing
    found = list(charging_current(build))
    assert bool(found) == (amperes > cell_charge_rating(build.parts.pack).value * sharing)
