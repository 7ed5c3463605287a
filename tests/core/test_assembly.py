"""Putting a board together: an order that works, steps for what is there and for nothing else, measures that are judged."""

import json
import random
from datetime import date
from itertools import combinations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from boardmath import read_build
from boardmath.buildfile import write_build
from boardmath.geometry.fasteners import PITCHES, most_torque, motor_screws, truck_bolts
from boardmath.geometry.transmission import belt_path
from boardmath.geometry.views.rear import motor_room
from boardmath.model.inputs import marked
from planner.assembly.board import Board
from planner.assembly.measuring import judge
from planner.assembly.measuring_drive import belt_line_of
from planner.assembly.pictures import foam_picture
from planner.assembly.plan import assembly
from planner.assembly.report import assembly_report
from planner.enclosure.foam import layers as layers_of_foam
from planner.parts_list.accessories import forgotten
from planner.shared.log import Moved
from planner.shared.order import before, in_order, why_not
from planner.shared.report import HERE
from planner.shared.spans import cannot_be
from tests.core.assembled import BEGUN, KINDS, Written, board, in_the_application
from tests.core.boards import any_builds

TODAY = date(2026, 5, 6)
EVERYTHING = [*(pytest.param(board(kind), id=kind) for kind in KINDS)]


def ids(build):
    return [s.id for s in assembly(build)]


def step_of(build, id):
    return next(s for s in assembly(build) if s.id == id)


def report(build, written=None, today=TODAY, elsewhere=()):
    return assembly_report(build, (written or Written(build)).log, today, elsewhere)


def states(found):
    return {s.id: s.state for s in found.steps}


def measured(build, step, **values):
    return judge(build, step_of(build, step), {k.replace("_", "-"): v for k, v in values.items()})


# --- the order ---------------------------------------------------------------------------------------------------------


def sound(steps, gate=True):
    """``gate``: nothing is locked before all of the board was tried together."""
    place = {s.id: n for n, s in enumerate(steps)}
    assert len(place) == len(steps), "no step twice"
    for step in steps:
        assert all(place[a] < place[step.id] for a in step.after), step.id
        if step.threadlock == "medium":
            assert not gate or place["dry-look"] < place[step.id], f"{step.id} is locked before its dry fit"
            assert "threadlocker" in step.tools, step.id
        assert any(f.threadlock for f in step.fasteners) == (step.threadlock == "medium"), step.id
    for earlier, later in (("join-polarity", "join-loop"), ("join-fuse", "join-loop"), ("taps", "join-balance")):
        if earlier in place and later in place:
            assert earlier in before(steps, later), (earlier, later)
    if "bench-test" in place and "join-loop" in place:
        assert place["join-loop"] < place["bench-test"]


def test_over_any_builds_the_order_is_sound_and_every_chosen_part_has_its_step():
    for build in any_builds(250, seed=11):
        steps = assembly(build)
        sound(steps)
        b = Board(marked(build))
        asked = {path for step in steps for path in step.needs}
        assert asked == set(b.to_put_on), "each part has its step, and no step asks for a part that is not there"


@pytest.mark.parametrize("build", EVERYTHING)
def test_each_kind_of_board_has_its_own_steps_and_none_that_do_not_apply(build):
    steps, b = assembly(build), Board(build)
    sound(steps)
    there = {s.id for s in steps}
    belt = b.belt
    assert ({"belt-line", "belt-tension", "dry-belt"} <= there) == belt
    assert ("gear-mesh" in there) == (b.kind == "gear")
    assert ("motor-pulley" in there) == b.geared
    assert ("pulley-core" in there) == b.geared
    assert ("series-lead" in there) == b.bricks
    assert not ({"taps", "pack-block"} & there and b.bricks)
    assert ("set-up" in there) == (b.new("controller") and build.parts.controller.programmable is not False) or b.new(
        "motors"
    )
    assert ("dry-box-second" in there) == (build.parts.second_enclosure is not None)
    assert ("covers" in there) == (build.parts.covers is not None)
    words = " ".join(d.text for s in steps for d in s.do)
    assert ("idler" in words) == (belt and b.build.parts.drive.idler is True)
    assert ("Risers of" in words) == (
        build.parts.risers is not None and not b.drop_through and b.new("deck", "trucks", "risers")
    )
    assert ("Through the cutouts" in words) == b.drop_through


def test_hubs_bring_their_wheels_and_have_no_pulley_to_fit():
    steps = assembly(board("hub"))
    assert step_of(board("hub"), "bearings").title.text.endswith("two wheels")
    assert not [s.id for s in steps if "pulley" in s.id or "belt" in s.id or s.id == "run-true"]


def test_a_kit_is_unpacked_and_nothing_of_it_is_waited_for_by_itself():
    build = board("kit")
    assert ids(build)[1] == "kit-1"
    assert "parts.kits.0" in step_of(build, "motor").needs
    found = report(build)
    assert not [p.path for s in found.steps for p in s.parcels if p.path.startswith("parts.motors")]
    assert found.agenda.blocked[0].path == "parts.kits.0"


def test_on_a_board_that_was_there_only_what_is_new_is_put_on():
    there = ids(board("adapted"))
    assert "take-off" in there
    assert "trucks" not in there, "the trucks stay on"
    assert not {"pack-block", "join-plus", "join-board", "join-fuse"} & set(there), "what is joined stays joined"
    assert {"bearings", "motor", "belt-line"} <= set(there)
    assert "join-motors" in there
    off = step_of(board("adapted"), "take-off")
    assert "motors" in off.title.text
    assert "wheels" in off.title.text


def test_a_pack_that_was_bought_is_looked_at_and_not_opened():
    bought = board(parts__pack__price=200)
    assert "pack-check" in ids(bought)
    assert not {"taps", "pack-block", "join-board", "join-balance"} & set(ids(bought))
    assert "join-minus-pack" in ids(bought)
    made = board(parts__pack__cell__price=3)
    assert {"pack-block", "taps", "join-board", "join-balance"} <= set(ids(made))


@pytest.mark.parametrize(
    ("kind", "never"),
    [
        ("hub", ("pulley", "belt", "the plate", "the mount", "gear ratio", "grub screw", "key in its slot")),
        ("direct", ("pulley", "belt", "the plate", "the mount", "gear ratio", "grub screw")),
        ("gear", ("the belt", "straight edge")),
        ("belt", ("hub", "stator", "second box", "drop-through", "brick")),
        ("bricks", ("spot weld", "nickel", "balance lead", "BMS", "B−")),
        ("boxed controller", ("motor detection",)),
    ],
)
def test_no_word_is_of_a_part_that_is_not_there(kind, never):
    for s in assembly(board(kind, parts__spreaders=None)):
        told = [s.title, s.why, *s.do, s.right, s.wrong, s.caution, *(f.what for f in s.fasteners)]
        text = " ".join(t if isinstance(t, str) else t.text for t in told if t).casefold()
        assert not [w for w in never if w.casefold() in text], s.id


def test_a_pack_is_charged_when_its_board_and_its_port_are_joined():
    made = assembly(board(parts__pack__cell__price=3))
    assert {"taps", "join-board", "join-balance", "join-charge-port", "openings"} <= before(made, "first-charge")
    assert "join-motors" not in before(made, "first-charge"), (
        "the pack is charged while the drive is still on the bench"
    )
    whole = assembly(board(parts__pack__price=200, parts__pack__charge_plug="three pin"))
    assert before(whole, "first-charge") == {"lay-out", "pack-check"}
    assert "first-charge" not in ids(board("bricks")), "each is charged by itself already"


def test_a_box_that_is_made_is_waited_for_as_a_step_and_not_as_a_parcel():
    printed = in_the_application(board("printed box"))
    box = printed.parts.enclosure.model_copy(update={"owned": None})
    printed = printed.model_copy(update={"parts": printed.parts.model_copy(update={"enclosure": box})})
    assert "box-made" in before(assembly(printed), "dry-box")
    assert not report(printed).agenda.blocked
    ordered = board("printed box", parts__enclosure__purchase={"status": "ordered"})
    assert "box-made" not in ids(ordered), "somebody else makes it"
    assert "parts.enclosure" in [p.path for s in report(ordered).steps if s.id == "dry-box" for p in s.parcels]


def test_bricks_are_charged_alone_before_they_meet():
    build = board("bricks")
    assert "bricks" in before(assembly(build), "series-lead")
    assert "series-lead" in before(assembly(build), "join-loop")


@settings(max_examples=60, deadline=None)
@given(data=st.data(), kind=st.sampled_from(list(KINDS)))
def test_however_a_builder_moves_the_steps_the_order_stays_one_that_works(data, kind):
    build = board(kind)
    steps = assembly(build)
    there = [s.id for s in steps]
    moves = []
    for n in range(data.draw(st.integers(1, 6))):
        step = data.draw(st.sampled_from(there))
        target = data.draw(st.sampled_from([*there, None]))
        now = assembly(build, moves)
        allowed = why_not(now, step, target) is None
        move = Moved(kind="moved", id=f"00000000-0000-4000-8000-{n:012d}", at=BEGUN, step=step, before=target)
        after = assembly(build, [*moves, move])
        sound(after)
        if allowed and target != step:
            order = [s.id for s in after]
            assert order.index(step) == (order.index(target) - 1 if target else len(order) - 1)
            moves.append(move)


def test_two_steps_that_wait_for_each_other_are_named():
    first, second = assembly(board())[:2]
    with pytest.raises(ValueError, match="wait for each other"):
        in_order([first.model_copy(update={"after": [second.id]}), second.model_copy(update={"after": [first.id]})])


# --- bolts and screws ---------------------------------------------------------------------------------------------------


def test_the_truck_bolts_of_a_worked_example():
    # By hand: deck 13, riser 6, baseplate 6, nut and two threads 6: 31 mm, sold from there as 35.
    build = board(parts__deck__thickness_mm=13, parts__risers__height_mm=6)
    assert (truck_bolts(build).needed, truck_bolts(build).length) == (31.0, 35)
    assert "M5 x 35" in step_of(build, "trucks").title.text
    # A drop-through has no riser beneath: 13 + plate 2 + 6 + 6 = 27, so 30.
    through = board("drop-through", parts__deck__thickness_mm=13, parts__risers={"height_mm": 6})
    assert truck_bolts(through).length == 30


@pytest.mark.parametrize("build", EVERYTHING)
def test_bolts_of_the_steps_are_those_of_the_parts_list(build):
    small = {s.id: s.record for s in forgotten(build)}
    steps = {s.id: s for s in assembly(build)}
    if "trucks" in steps:
        bolt = next(f for f in steps["trucks"].fasteners if f.what == "Truck bolts")
        assert f"{bolt.thread}, set of eight" in small["truck-bolts"].name
        assert bolt.count == 8
    held = [s for id, s in steps.items() if id.startswith("box-inserts")]
    screws = sum(f.count for s in held for f in s.fasteners if f.what == "Box screws")
    if screws:
        assert f"{screws} of each" in small["box-screws"].name
    motor = next((f for f in (steps["motor"].fasteners if "motor" in steps else []) if f.what == "Motor screws"), None)
    if motor is not None:
        assert motor.count == 4 * (build.parts.motors.count or 1)


def test_motor_screws_hold_and_do_not_meet_the_windings():
    # By hand: plate 5, washers 1.8, 4 to 6 in the can: 10.8 to 12.8, so 12.
    assert motor_screws(5.0) == (12, pytest.approx(10.8), pytest.approx(12.8))
    for plate in (2.0, 3.0, 4.0, 5.0, 6.0, 8.0):
        found = motor_screws(plate)
        if found is not None:
            length, least, most = found
            assert least <= length <= most
    assert measured(board(), "motor", plate=5.0).said.text.startswith("M4 x 12")


def test_pitches_are_the_coarse_ones_of_iso_261():
    assert PITCHES == {3: 0.5, 4: 0.7, 5: 0.8, 6: 1.0, 8: 1.25}


@pytest.mark.parametrize(("size", "published"), [(4, 3.0), (5, 5.9), (6, 10.1), (8, 24.6)])
def test_torque_is_that_of_the_published_table(size, published):
    # VDI 2230-1, table of tightening torques for class 8.8, hexagon head, friction 0.12 in thread and under the head.
    assert most_torque(size) == pytest.approx(published, rel=0.05)


def test_no_torque_is_told_for_wood_plastic_or_aluminium():
    for kind in KINDS:
        for step in assembly(board(kind)):
            for fastener in step.fasteners:
                told = "Nm" in fastener.tighten.text
                assert told == (fastener.what == "Clamp bolts" and "VDI 2230" in fastener.tighten.text)


# --- measured while building --------------------------------------------------------------------------------------------


def test_a_pulley_that_is_too_wide_for_the_core_is_trimmed_by_so_much():
    tight = measured(board(), "pulley-core", core=6.0, lug=6.5)
    assert tight.verdict == "wrong"
    assert "0.6 mm" in tight.remedy.text, "what is too much and a tenth of play"
    assert measured(board(), "pulley-core", core=6.0, lug=5.8).verdict == "right"
    assert measured(board(), "pulley-core", core=6.0, lug=5.2).verdict == "unsure"
    assert measured(board(), "pulley-core", core=6.0).verdict == "open", "one figure says nothing"


def test_one_millimetre_in_a_hundred_throws_the_belt():
    build = board()
    assert measured(build, "belt-line", near_1=0.0, far_1=0.1).verdict == "right"
    aside = measured(build, "belt-line", near_1=0.55, far_1=0.55)
    assert aside.verdict == "unsure"
    assert "towards the straight edge" in aside.remedy.text
    assert "washers" in aside.remedy.text
    askew = measured(build, "belt-line", near_1=0.4, far_1=1.6)
    assert askew.verdict == "wrong"
    assert "crooked" in askew.remedy.text
    # What a caliper cannot tell apart is no fault: over a pulley of 24 mm a tenth would be a quarter of a degree.
    assert belt_line_of(build, 0.1, 0.2) == (0.0, pytest.approx(0.05 / 65.2, rel=0.05))


def test_which_side_the_straight_edge_lies_on_does_not_matter():
    for near, far in combinations((-0.6, -0.2, 0.0, 0.3, 0.9), 2):
        one, other = (measured(board(), "belt-line", near_1=s * near, far_1=s * far).verdict for s in (1.0, -1.0))
        assert one == other


def test_of_two_motors_the_worse_one_is_told():
    build = board("two motors")
    found = measured(build, "belt-line", near_1=0.0, far_1=0.0, near_2=0.0, far_2=1.5)
    assert found.verdict == "wrong"
    assert found.said.text.startswith("Motor 2")


def test_a_belt_that_is_too_short_is_told_before_it_is_tried():
    short = step_of(board(parts__drive__belt_teeth=30, parts__drive__wheel_teeth=60), "dry-belt")
    assert "too short" in short.why.text
    assert short.checks[0].plan is None, "nothing is planned that cannot be"


def test_a_long_run_gives_more_than_a_short_one():
    spans = []
    for teeth in (54, 60, 70):
        check = next(
            c for c in step_of(board(parts__drive__belt_teeth=teeth), "belt-tension").checks if c.id == "press-1"
        )
        spans.append((check.low, check.high))
        assert check.high / check.low == pytest.approx(8.0 / 5.0, rel=0.05)
    assert spans == sorted(spans)
    # Common practice, no source: a finger presses a run of 100 mm in by 5 to 8 mm.
    hundred = board(parts__drive__belt_teeth=72)
    check = next(c for c in step_of(hundred, "belt-tension").checks if c.id == "press-1")
    assert check.low == pytest.approx(5.2, abs=0.3)


def test_rock_hard_and_slack_are_told_apart():
    check = next(c for c in step_of(board(), "belt-tension").checks if c.id == "press-1")
    assert measured(board(), "belt-tension", press_1=(check.low + check.high) / 2).verdict == "right"
    assert "bearing" in measured(board(), "belt-tension", press_1=0.2).remedy.text
    assert "will skip" in measured(board(), "belt-tension", press_1=12.0).remedy.text


@given(plate=st.floats(3, 14))
def test_a_motor_screw_for_a_plate_is_one_that_is_sold_and_holds(plate):
    """Every length that is named lies between what would hold and what would touch the windings."""
    found = measured(board(), "motor", plate=plate)
    lengths = motor_screws(plate)
    if lengths is None:
        assert found.verdict == "unsure"
        return
    length, least, most = lengths
    assert found.verdict == "right"
    assert f"x {length}" in found.said.text
    assert plate < least <= length <= most


def test_the_centre_of_a_belt_is_told_from_the_shafts():
    build = board()
    planned = build.parts.drive.belt_teeth
    path = belt_path(build)
    assert measured(build, "dry-belt", centre=path.distance).verdict == "right"
    longer = measured(build, "dry-belt", centre=path.distance + 10.0)
    assert longer.verdict == "unsure"
    assert f"The plan has {planned}" in longer.remedy.text
    inside = measured(build, "dry-belt", centre=(path.large - path.small) * 0.9)
    assert inside.verdict == "wrong"
    assert "between the shafts" in inside.said.text
    # 10 mm more between the shafts is 20 mm more of belt, four teeth of 5 mm.
    assert longer.said.values["teeth"].value == pytest.approx(planned + 4, abs=0.4)


def test_a_belt_of_other_teeth_goes_into_the_plan():
    build = board()
    teeth = build.parts.drive.belt_teeth + 2
    found = measured(build, "belt-tension", teeth=teeth)
    after = changed_by(build, found)
    assert after.parts.drive.belt_teeth == teeth
    assert "belt_teeth" in after.parts.drive.measured
    assert measured(after, "belt-tension", teeth=teeth).changes == {}
    assert measured(build, "belt-tension", teeth=teeth + 0.5).changes == {}, "half a tooth is no belt"


def changed_by(build, judged):
    document = write_build(build)
    for path, value in judged.changes.items():
        *way, last = path.split(".")
        node = document
        for key in way:
            node = node.setdefault(key, {})
        node[last] = value
    return read_build(document)


def test_what_was_measured_goes_into_the_model():
    build = board()
    counted = changed_by(build, measured(build, "belt-tension", press_1=4.0, teeth=57))
    assert counted.parts.drive.belt_teeth == 57
    assert "belt_teeth" in counted.parts.drive.measured
    weighed = changed_by(build, measured(build, "weigh", board=8.2))
    assert weighed.weighed_kg == 8.2
    parts = changed_by(build, measured(build, "weigh-parts", deck=1700, motors=600))
    assert (parts.parts.deck.mass_g, parts.parts.motors.mass_g) == (1700, 600)
    assert not measured(parts, "weigh-parts", deck=1700, motors=600).changes, "once is enough"


def test_the_drawing_follows_where_the_motor_really_hangs():
    build = board(parts__trucks__height_mm=60, parts__drive__mount_angle_deg=5)
    plan = motor_room(build)
    found = measured(build, "lean", motor=plan + 6.0)
    assert motor_room(changed_by(build, found)) == pytest.approx(plan + 6.0, abs=0.2)
    assert not measured(build, "lean", motor=plan + 1.0).changes, "a millimetre is how it was read"
    assert measured(build, "lean", motor=-1.0).verdict == "wrong"


def test_the_gaps_over_a_flat_box_become_the_deck_and_the_foam():
    build = board(parts__deck__rocker_mm=0)
    gaps = {f"gap_{n}": g for n, g in enumerate((4.0, 1.5, 0.0, 2.0, 6.0), 1)}
    judged = measured(build, "dry-box", **gaps)
    curve = changed_by(build, judged).parts.deck.curve
    assert [p.below_mm for p in curve] == pytest.approx([-4.0, -1.5, 0.0, -2.0, -6.0])
    finer = board(parts__deck__curve=[{"at_mm": 100.0 * n, "below_mm": 1.0} for n in range(1, 8)])
    assert not measured(finer, "dry-box", **gaps).changes, "more places tell more"
    assert [layers_of_foam(g) for g in (0.0, 1.4, 1.6, 3.0, 6.0)] == [1, 1, 2, 2, 3]
    drawn = foam_picture([(100.0 + 80 * n, g) for n, g in enumerate(gaps.values())])
    assert sum(m.ink == "foam" for m in drawn.marks) == 2 + 1 + 1 + 2 + 3


def test_the_foam_is_drawn_from_the_gaps_of_the_dry_fit():
    build = board(parts__deck__rocker_mm=0)
    written = Written(build)

    def layers():
        found = report(build, written)
        return sum(m.ink == "foam" for m in next(s for s in found.steps if s.id == "foam").picture.marks)

    assert layers() == 5
    written.message(
        "measured", step="dry-box", values={f"gap-{n}": g for n, g in enumerate((6.0, 3.0, 0.0, 3.0, 6.0), 1)}
    )
    assert layers() == 3 + 2 + 1 + 2 + 3


def test_the_board_itself_is_drawn_where_it_is_looked_at_with_its_holes():
    found = {s.id: s for s in report(board()).steps}
    holes = [m for m in found["box-holes"].picture.marks if m.radius == 5.0 and m.ink == "wrong"]
    assert f"{len(holes)} holes" in found["box-holes"].title.text
    assert {s for s in found if found[s].picture} >= {"lean", "dry-belt", "trucks", "belt-line", "foam"}
    bitten = {s.id: s for s in report(board(parts__risers=None, parts__wheels__diameter_mm=110)).steps}
    assert any(m.ink == "wrong" for m in bitten["lean"].picture.marks), "what bites is marked before it is built"
    assert not [s for s in assembly_report(board(), Written(board()).log, TODAY, drawn=False).steps if s.picture]


def test_a_wheel_that_stops_at_once_is_too_tight():
    verdicts = [measured(board(), "free-wheels", spin=s).verdict for s in (1.0, 4.0, 9.0)]
    assert verdicts == ["wrong", "unsure", "right"]


def test_a_part_that_is_far_from_its_listing_is_asked_about():
    assert measured(board(), "weigh-parts", motors=620).verdict == "right"
    odd = measured(board(), "weigh-parts", motors=950)
    assert odd.verdict == "unsure"
    assert odd.changes["parts.motors.mass_g"] == 950


def test_a_caliper_read_in_metres_is_told_and_not_believed():
    steps = assembly(board())
    assert "another unit" in cannot_be(steps, "dry-belt", {"centre": 0.0652})[0].reason
    assert cannot_be(steps, "weigh", {"board": 7400.0})[0].field == "board"
    assert not cannot_be(steps, "dry-belt", {"centre": 65.0})
    assert not cannot_be(steps, "belt-line", {"near-1": -0.4})
    assert not cannot_be(steps, "no-such-step", {"x": 1e9})


# --- how it stands ------------------------------------------------------------------------------------------------------


def test_a_step_waits_for_the_steps_before_it_and_for_its_parcels():
    build = in_the_application(board(parts__wheels__price=50))
    late = build.model_copy(
        update={
            "parts": build.parts.model_copy(update={"wheels": build.parts.wheels.model_copy(update={"owned": None})})
        }
    )
    found = states(report(late))
    assert found["lay-out"] == "ready"
    assert found["bearings"] == "parcel"
    after = states(report(late, Written(late).done("lay-out")))
    assert after["dry-trucks"] == "ready"
    assert after["bearings"] == "parcel"
    blocked = report(late).agenda.blocked
    assert [b.path for b in blocked] == ["parts.wheels"]
    assert {"bearings", "driven-wheels", "belt-line", "bench-test"} <= set(blocked[0].steps)
    assert "dry-trucks" not in blocked[0].steps
    assert states(report(build, Written(build).done("lay-out")))["bearings"] == "ready"


def test_today_holds_what_is_here_and_the_weekend_what_will_have_come():
    build = in_the_application(board())
    wheels = build.parts.wheels.model_copy(
        update={
            "owned": None,
            "purchase": type(build.parts.deck.purchase or _bought())(status="ordered", due_on="2026-05-08"),
        }
    )
    build = build.model_copy(update={"parts": build.parts.model_copy(update={"wheels": wheels})})
    wednesday = report(build, Written(build).done("lay-out"), date(2026, 5, 6)).agenda
    assert wednesday.weekend_on == date(2026, 5, 9)
    assert "bearings" not in wednesday.today
    assert "bearings" in wednesday.weekend
    assert "dry-trucks" in wednesday.today
    saturday = report(build, Written(build).done("lay-out"), date(2026, 5, 9)).agenda
    assert saturday.weekend_on == date(2026, 5, 9)


def _bought():
    from boardmath.buildfile.figures import Purchase

    return Purchase()


def test_following_what_is_next_finishes_every_board():
    for kind in KINDS:
        build = in_the_application(board(kind))
        written = Written(build)
        for _ in range(90):
            following = report(build, written).next
            if following is None:
                break
            written.done(following)
        assert set(states(report(build, written)).values()) == {"done"}, kind


@pytest.mark.parametrize(
    ("changes", "again", "stands"),
    [
        (
            {"parts__drive__wheel_teeth": 36},
            {"pulley-core", "dry-belt", "belt-line", "belt-tension", "run-true", "set-up", "bench-test"},
            {"trucks", "box-holes", "taps", "join-fuse", "grip", "motor-pulley"},
        ),
        ({"parts__risers__height_mm": 10}, {"trucks", "dry-trucks", "lean"}, {"belt-line", "taps", "motor-pulley"}),
        ({"parts__fuse__a": 60}, {"join-fuse"}, {"join-polarity", "motor", "taps"}),
        ({"settings__motor_current_a": 40}, {"set-up", "bench-test"}, {"belt-line", "join-loop", "trucks"}),
        (
            {"parts__wheels__name": "Other wheels"},
            {"bearings", "pulley-core", "free-wheels"},
            {"trucks", "motor-pulley"},
        ),
        ({"parts__wheels__price": 12, "parts__deck__notes": "mine"}, set(), {"bearings", "trucks", "belt-line"}),
    ],
)
def test_a_change_opens_the_steps_that_stand_on_it_and_no_others(changes, again, stands):
    before_it = in_the_application(board())
    written = Written(before_it).all_done()
    found = report(in_the_application(board(**changes)), written)
    opened = {s.id for s in found.steps if s.state == "again"}
    assert again <= opened
    assert not opened & stands
    if not again:
        assert not opened
    for step in found.steps:
        assert bool(step.again) == (step.state == "again"), "it says why"


def test_the_reason_names_both_figures():
    written = Written(board()).all_done()
    found = report(board(parts__drive__wheel_teeth=36), written)
    said = next(s for s in found.steps if s.id == "belt-line").again[0].text
    assert "42" in said
    assert "36" in said
    written.message("still_right", step="belt-line", facts=next(s for s in found.steps if s.id == "belt-line").facts)
    assert states(report(board(parts__drive__wheel_teeth=36), written))["belt-line"] == "done"
    # And back to how it was: now it differs from what was looked at last.
    assert states(report(board(), written))["belt-line"] == "again"


def test_what_was_done_in_its_own_room_is_done():
    build = in_the_application(board())
    assert states(report(build))["bench-test"] != "done"
    assert states(report(build, elsewhere={"bench-test", "set-up"}))["bench-test"] == "done"
    opened = Written(build)
    opened.message("opened", step="bench-test", why="the brake drags")
    assert states(report(build, opened, elsewhere={"bench-test"}))["bench-test"] != "done"


def test_every_tool_of_a_step_stands_in_the_list_with_where_it_is_from():
    for kind in KINDS:
        found = report(board(kind))
        listed = {t.key: t for t in found.tools}
        for step in found.steps:
            assert set(step.tools) <= set(listed)
        assert all(t.steps for t in found.tools)
    written = Written(board())
    written.message("tool", tool="caliper", have="buy", price=14.0)
    written.message("tool", tool="drill", have="borrow", price=None)
    found = report(board(), written)
    assert found.tools_cost == 14.0
    assert next(t for t in found.tools if t.key == "drill").have == "borrow"


def test_ticks_of_steps_that_are_no_more_are_named_and_harm_nobody():
    written = Written(board()).done("belt-line", "lay-out")
    found = report(board("hub"), written)
    assert found.gone == ["belt-line"]
    assert states(found)["lay-out"] == "done"


def test_the_same_build_gives_the_same_steps_in_whatever_order_its_keys_come():
    document = write_build(board("two boxes"))
    shuffled = dict(random.Random(4).sample(list(document.items()), len(document)))
    assert json.dumps([s.model_dump(mode="json") for s in assembly(read_build(shuffled))]) == json.dumps(
        [s.model_dump(mode="json") for s in assembly(board("two boxes"))]
    )


def test_what_is_here_is_what_the_parts_list_says_is_here():
    assert set(HERE) == {"owned", "arrived", "replaced"}
