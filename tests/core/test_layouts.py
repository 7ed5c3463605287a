"""Boards as they are really laid out: bent ends, routed decks, two boxes, packs outside, motors behind the axle."""

import itertools
import math

import pytest
from shapely import unary_union

from boardmath.buildfile import BuildFileError
from boardmath.checks.register import findings
from boardmath.geometry.beam import ALONG, LOWER_TWENTIETH, WOODS, bending, section
from boardmath.geometry.enclosures import boxes, gap_under_curves, ground_clearance, pocket_in, room, stowed
from boardmath.geometry.shapes import VIEWS
from boardmath.geometry.stance import axles, deck_height, hollow_at, mounts, sag, under_deck, under_deck_at
from boardmath.geometry.transmission import motor_centre, motor_reach
from boardmath.geometry.views.underside import bolt_holes, old_holes
from boardmath.geometry.views.view import draw
from boardmath.model.mass import board_mass, resolve_masses
from boardmath.predictor import predict
from planner.parts_list.accessories import forgotten
from tests.core.boards import spit_runner
from tests.core.test_fit_and_power import sound


def kinds(board) -> dict[str, str]:
    """Every finding on the build with how grave it is."""
    return {f.kind: f.severity for f in predict(board, bands=False).findings}


# --- the deck as a beam -----------------------------------------------------------------------------------------------


def test_a_channel_is_as_stiff_as_in_the_textbook():
    """Gere and Goodno, Mechanics of Materials, a beam of channel section: 300 wide, 80 high, 12 thick (from memory)."""
    channel = section(300.0, 80.0, 276.0, 68.0)
    assert channel.to_top == pytest.approx(18.48, abs=0.01)
    assert channel.to_bottom == pytest.approx(61.52, abs=0.01)
    assert channel.inertia == pytest.approx(2.469e6, rel=1e-3)


def test_a_whole_board_is_a_rectangle_and_a_pocket_the_whole_way_is_a_thinner_one():
    assert section(230.0, 12.0).inertia == pytest.approx(230.0 * 12.0**3 / 12.0)
    nearly = section(230.0, 12.0, 229.999, 4.0)
    assert nearly.inertia == pytest.approx(230.0 * 8.0**3 / 12.0, rel=2e-3)
    with pytest.raises(ValueError, match="nothing"):
        section(230.0, 12.0, 200.0, 12.0)


def test_a_load_in_the_middle_bends_a_deck_by_the_handbooks_formula():
    """P L^3 / 48 E I of a beam on two supports, against an integration of the curvature by hand."""
    board = sound(parts__deck__routed_mm=4, parts__deck__routed_length_mm=300, parts__deck__routed_width_mm=180)
    deck, bent = board.parts.deck, bending(board)
    whole, thin = section(deck.width_mm, deck.thickness_mm), section(deck.width_mm, deck.thickness_mm, 180, 4)
    span, steps = deck.wheelbase_mm, 20_000
    flexibility = 0.0
    for i in range(steps):
        x = (i + 0.5) * span / steps
        moment = min(x, span - x) / 2.0  # of a load of one, and so is the virtual one
        inertia = thin.inertia if abs(x - span / 2.0) < 150.0 else whole.inertia
        flexibility += moment * moment / inertia * span / steps
    assert bent.stiffness_share == pytest.approx(span**3 / 48.0 / whole.inertia / flexibility, rel=1e-4)
    assert sag(board) == pytest.approx(sag(sound()) / bent.stiffness_share)


def test_usual_decks_bear_their_riders_and_one_routed_to_half_breaks():
    for thickness, mass in ((11, 74), (13, 90)):
        assert bending(sound(parts__deck__thickness_mm=thickness, rider__mass_kg=mass)).left > 1.2
    assert "deck-routed" not in kinds(sound())
    routed = {"parts__deck__routed_length_mm": 400, "parts__deck__routed_width_mm": 180}
    assert kinds(sound(parts__deck__routed_mm=6, **routed))["deck-routed"] == "danger"
    assert kinds(sound(parts__deck__routed_mm=1, parts__deck__thickness_mm=15, **routed))["deck-routed"] == "note"
    assert kinds(sound(parts__deck__routed_mm=11, **routed))["deck-routed"] == "danger", "through it"


def test_wood_is_as_strong_as_the_handbook_says_less_what_varies():
    """Wood Handbook FPL-GTR-282, table 5-3a: sugar maple 109 MPa; 1 in 20 is weaker than 74 % of the mean."""
    assert WOODS["maple"] == 109.0
    assert pytest.approx(0.737, abs=0.001) == LOWER_TWENTIETH
    assert bending(sound()).bears_mpa == pytest.approx(109.0 * ALONG * LOWER_TWENTIETH)


def test_a_pocket_gives_the_box_its_depth_only_where_it_is_large_enough():
    deep = sound(
        parts__deck__thickness_mm=18,
        parts__deck__routed_mm=5,
        parts__deck__routed_length_mm=500,
        parts__deck__routed_width_mm=200,
    )
    ((boxed, inside),) = stowed(deep)
    ((plain, before),) = stowed(sound(parts__deck__thickness_mm=18))
    assert pocket_in(deep, boxed) == 5
    assert inside.inner[2] == before.inner[2] + 5
    assert min(i.z[0] for i in inside.items) == pytest.approx(-5)
    narrow = sound(parts__deck__routed_mm=5, parts__deck__routed_length_mm=300, parts__deck__routed_width_mm=100)
    assert pocket_in(narrow, plain) == 0


# --- bent ends, moved holes, measured undersides -----------------------------------------------------------------------

MOUNTAIN = {
    "parts__deck__length_mm": 950,
    "parts__deck__wheelbase_mm": 900,
    "parts__deck__front_axle_mm": 25,
    "parts__deck__ends_deg": 30,
    "parts__deck__bend_mm": 85,
    "parts__deck__tail_mm": 0,
    "parts__deck__concave_mm": 0,
}


def test_trucks_on_bent_ends_stand_out_and_the_middle_hangs_lower():
    board = sound(**MOUNTAIN, parts__trucks__height_mm=80, parts__risers=None)
    (front, rear), (axle, _) = mounts(board), axles(board)
    assert front - axle == pytest.approx(80 * math.sin(math.radians(30)))
    assert rear - front == pytest.approx(900 - 80)
    flat = sound(**{**MOUNTAIN, "parts__deck__ends_deg": 0}, parts__trucks__height_mm=80, parts__risers=None)
    assert deck_height(flat) - deck_height(board) == pytest.approx(80 * (1 - math.cos(math.radians(30))))
    assert deck_height(board) - under_deck(board) == pytest.approx(85 * math.sin(math.radians(30)))
    assert under_deck_at(board, 475) == pytest.approx(under_deck(board), abs=0.01), "flat in the middle"
    start, end = room(board)
    assert end - start < 900 - 2 * 85 * math.cos(math.radians(30)), "no box in the bends"


def test_trucks_beyond_the_decks_end_are_refused_with_their_numbers():
    board = sound(**{**MOUNTAIN, "parts__deck__front_axle_mm": -50, "parts__deck__ends_deg": 0})
    found = next(f for f in findings_of(board) if f.kind == "trucks-beyond-deck")
    assert found.severity == "stop"
    assert any(ch.isdigit() for ch in found.text)
    assert "trucks-beyond-deck" not in kinds(sound(**MOUNTAIN)), "bent ends bring the bolts in"


def findings_of(board):
    return predict(board, bands=False).findings


def test_a_truck_moved_by_less_than_three_holes_splits_the_wood():
    assert kinds(sound(parts__deck__moved_mm=8))["holes-close"] == "warn"
    assert kinds(sound(parts__deck__moved_mm=50))["holes-close"] == "warn", "one pattern's width on"
    assert "holes-close" not in kinds(sound(parts__deck__moved_mm=30))
    board = sound(parts__deck__moved_mm=30)
    assert len(old_holes(board)) == 4
    assert {round(x - u) for (x, _), (u, _) in zip(bolt_holes(board)[4:], old_holes(board), strict=True)} == {30}


def test_an_underside_measured_at_points_counts_instead_of_concave_and_rocker():
    at = [(200, 4, 6), (440, 14, 12), (680, 5, 7)]
    curve = [{"at_mm": x, "below_mm": below, "hollow_mm": hollow} for x, below, hollow in at]
    board = sound(parts__deck__curve=curve, parts__deck__concave_mm=3, parts__deck__rocker_mm=0)
    for x, below, hollow in at:
        assert deck_height(board) - under_deck_at(board, x) == pytest.approx(below)
        assert hollow_at(board, x) == pytest.approx(hollow)
    (boxed,) = boxes(board)
    across, along = gap_under_curves(board, boxed)
    assert across > gap_under_curves(sound(parts__deck__concave_mm=3), boxes(sound())[0])[0]
    assert 2 < along < 14
    assert under_deck(board) == pytest.approx(deck_height(board) - 14)


def test_a_deck_hollower_than_thick_is_asked_about():
    assert kinds(sound(parts__deck__concave_mm=20))["deck-hollow"] == "warn"
    with pytest.raises(BuildFileError, match="outside"):
        sound(parts__deck__concave_mm=60)


# --- motors, boxes, packs ----------------------------------------------------------------------------------------------


def test_a_motor_behind_the_axle_leaves_the_room_to_the_box():
    before, behind = sound(), sound(parts__drive__motor_place="behind")
    rear = axles(before)[1]
    assert motor_centre(before)[0] < rear < motor_centre(behind)[0]
    assert rear - motor_centre(before)[0] == pytest.approx(motor_centre(behind)[0] - rear), "mirrored about the axle"
    assert motor_reach(behind) == 0
    assert room(behind)[1] > room(before)[1]


def test_the_mount_as_a_part_counts_before_what_the_drive_says_of_one():
    board = sound(parts__drive__mount_angle_deg=20, parts__mount={"angle_deg": 0, "profile": "square"})
    assert motor_centre(board)[1] == pytest.approx(45.0), "level with the axle"
    assert kinds(board)["mount-profile"] == "stop"


def test_four_motors_take_room_at_both_ends():
    two, four = sound(parts__motors__count=2), sound(parts__motors__count=4, parts__drive__driven_wheels=4)
    assert room(four)[0] > room(two)[0]
    assert room(four)[1] == room(two)[1]


TWO = {
    "parts__deck__length_mm": 1000,
    "parts__deck__wheelbase_mm": 780,
    "parts__deck__concave_mm": 2,
    "parts__enclosure": {"length_mm": 370, "width_mm": 180, "depth_mm": 34, "seat": "gasket"},
    "parts__second_enclosure": {"length_mm": 160, "width_mm": 150, "depth_mm": 34, "seat": "gasket"},
}


def test_two_boxes_hold_pack_and_electronics_and_ask_for_a_harness():
    board = sound(**TWO)
    (first, one), (second, other) = stowed(board)
    assert first.span[1] < second.span[0]
    assert {i.part for i in one.items} <= {"pack", "protection"}
    assert {i.part for i in other.items} == {"controller"}
    assert not any(k.startswith("box") for k in kinds(board))
    assert "harness" in {c.id for c in forgotten(board)}
    assert resolve_masses(board)["second_enclosure"].value > 100


def test_two_boxes_in_each_others_place_or_longer_than_their_room_are_refused():
    assert kinds(sound(**TWO, parts__second_enclosure__back_mm=-200))["boxes-overlap"] == "stop"
    assert kinds(sound(**TWO, parts__second_enclosure__length_mm=400))["box-length"] == "stop"


def test_a_case_on_the_deck_leaves_the_ground_alone_and_takes_standing_room():
    above = sound(parts__enclosure__place="above")
    assert ground_clearance(above) == pytest.approx(under_deck(above))
    assert "ground-clearance" not in kinds(sound(parts__enclosure__place="above", parts__enclosure__depth_mm=90))
    assert kinds(above)["standing-room"] == "warn"
    assert "standing-room" not in kinds(sound(parts__enclosure__place="above", parts__enclosure__length_mm=300))
    box = next(s for s in draw(above, "side").shapes if s.part == "enclosure")
    deck = next(s for s in draw(above, "side").shapes if s.part == "deck" and s.role == "body")
    assert box.area.intersection(deck.area).area < 1.0, "on it, not in it"


def test_a_pack_in_a_bag_is_carried_by_the_rider_not_with_the_board():
    bag = spit_runner(parts__pack__place="in_a_bag")
    inside = spit_runner()
    pack = resolve_masses(inside)["pack"].value / 1000
    lighter = board_mass(inside, resolve_masses(inside)).value - board_mass(bag, resolve_masses(bag)).value
    assert lighter == pytest.approx(pack)
    assert predict(bag, bands=False).mass_kg.rolling == pytest.approx(predict(inside, bands=False).mass_kg.rolling)
    assert kinds(bag)["pack-in-a-bag"] == "warn"


def test_a_second_pack_to_swap_doubles_the_way_but_for_its_weight():
    one, two = spit_runner(), spit_runner(parts__pack__spares=1)
    single, double = (predict(b, bands=False).range_km.mid for b in (one, two))
    assert 1.9 * single < double < 2.0 * single
    assert predict(two, bands=False).mass_kg.rolling > predict(one, bands=False).mass_kg.rolling + 1.0


@pytest.mark.parametrize("view", VIEWS)
@pytest.mark.parametrize(
    "board",
    [
        sound(**TWO),
        sound(parts__enclosure__place="above", parts__enclosure__length_mm=330, parts__enclosure__depth_mm=70),
        sound(parts__drive__motor_place="behind"),
        sound(parts__mount={"plate_mm": 8}, parts__covers={"over": "both"}, parts__charge_port={"hole_mm": 16}),
        sound(parts__deck__moved_mm=30, parts__spreaders={"height_mm": 2}),
    ],
    ids=["two boxes", "a case on the deck", "a motor behind", "mount, covers, port", "moved holes, plates"],
)
def test_a_board_that_someone_builds_is_drawn_without_anything_in_anything_else(board, view):
    """No clash is drawn, and shapely finds that no two solid parts of different kinds lie in each other's place."""
    drawing = draw(board, view)
    assert drawing.clashes == []
    if view in ("under", "behind"):
        return  # parts lie above and behind each other there
    solid = {
        p: [s.area for s in drawing.shapes if s.part == p and s.role == "body"] for p in ("deck", "enclosure", "motors")
    }
    for a, b in (("deck", "enclosure"), ("deck", "motors"), ("enclosure", "motors")):
        assert unary_union(solid[a]).intersection(unary_union(solid[b])).area < 5.0, (a, b)
    for shape in drawing.shapes if view == "side" else []:  # the drive is seen close up
        for point in shape.points:
            assert drawing.left - 1 <= point.x <= drawing.right + 1, shape.part
            assert drawing.bottom - 1 <= point.y <= drawing.top + 1, shape.part


# --- the smaller parts -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("changes", "kind", "severity", "right"),
    [
        ({"parts__pack__protection__series": 8}, "protection-cells", "danger", {"parts__pack__protection__series": 10}),
        (
            {"parts__pack__protection__balances": False, "parts__charger__balance": False},
            "protection-balance",
            "warn",
            {"parts__pack__protection__balances": True},
        ),
        ({"parts__charge_port": {"max_a": 1.5}}, "charge-port-current", "warn", {"parts__charge_port": {"max_a": 5}}),
        (
            {"brief__wet": True, "parts__charge_port": {"cap": False}},
            "charge-port-open",
            "warn",
            {"parts__charge_port": {"cap": True}},
        ),
        (
            {"parts__loads": [{"v": 12, "a": 0.5, "supply": "pack"}]},
            "load-voltage",
            "danger",
            {"parts__loads": [{"v": 12, "a": 0.5, "supply": "converter"}]},
        ),
        (
            {"parts__loads": [{"v": 12, "a": 0.5, "supply": "some_cells"}]},
            "load-some-cells",
            "danger",
            {"parts__loads": [{"v": 12, "a": 0.5, "supply": "own_battery"}]},
        ),
        (
            {"parts__remote__runtime_h": 0.5, "brief__range_km": 20},
            "remote-hours",
            "stop",
            {"parts__remote__runtime_h": 8},
        ),
        ({"parts__covers": {"over": "motors"}}, "covered-motors", "note", {"parts__covers": {"over": "belts"}}),
        ({"brief__surface": "packed_gravel"}, "open-belts", "note", {"parts__covers": {"over": "belts"}}),
        (
            {"parts__deck__mount": "drop_through", "parts__deck__thickness_mm": 9},
            "bolts-through",
            "note",
            {"parts__spreaders": {"height_mm": 2}},
        ),
    ],
)
def test_what_does_not_go_together_is_said_and_what_does_is_not(changes, kind, severity, right):
    assert kinds(spit_runner(**changes))[kind] == severity
    assert kind not in kinds(spit_runner(**{**changes, **right}))


def test_a_light_costs_as_much_of_the_range_as_it_takes_watts():
    dark = spit_runner()
    lit = spit_runner(parts__loads=[{"name": "Headlight", "v": 12, "a": 0.85, "supply": "converter", "mass_g": 0}])
    watts = 12 * 0.85 / 0.85
    before, after = (predict(b, bands=False) for b in (dark, lit))
    hours = 1.0 / (before.range_km.mean_kmh)
    more = after.consumption_wh_per_km.mid - before.consumption_wh_per_km.mid
    assert more == pytest.approx(watts * hours, rel=0.06)
    own = spit_runner(parts__loads=[{"v": 5, "a": 2, "supply": "own_battery", "mass_g": 0}])
    assert predict(own, bands=False).range_km.mid == pytest.approx(before.range_km.mid)


def test_a_covered_motor_gets_hotter_on_the_hill():
    open_, covered = spit_runner(), spit_runner(parts__covers={"over": "both", "mass_g": 0})
    a, b = (predict(x, bands=False).hill.held_grade_pct.mid for x in (open_, covered))
    assert b <= a
    assert len(findings(covered, predict(covered, bands=False).outcomes, None)) >= 1


def test_spreader_plates_make_the_truck_bolts_longer():
    def length(board) -> int:
        name = next(c.record.name for c in forgotten(board) if c.id == "truck-bolts")
        return int(name.split("M5 x ")[1].split(" ")[0])

    assert length(sound(parts__spreaders={"height_mm": 8})) > length(sound())


def test_what_is_routed_out_of_a_deck_is_no_longer_carried():
    whole = sound(parts__deck__mass_g=None, parts__deck__thickness_mm=16)
    routed = sound(
        parts__deck__mass_g=None,
        parts__deck__thickness_mm=16,
        parts__deck__routed_mm=3,
        parts__deck__routed_length_mm=400,
        parts__deck__routed_width_mm=180,
    )
    grams = resolve_masses(whole)["deck"].value - resolve_masses(routed)["deck"].value
    assert grams == pytest.approx(0.3 * 40 * 18 * 0.72), "cm3 of wood at 0.72"


def test_bricks_lie_side_by_side_where_the_box_is_wide_enough():
    """Three bricks 140 x 45 x 25 mm: one row across in a wide box, one behind the other in a narrow one."""
    brick = {
        "parts__pack__layout": "bricks",
        "parts__pack__bricks": 3,
        "parts__pack__series": 9,
        "parts__pack__length_mm": 140,
        "parts__pack__width_mm": 45,
        "parts__pack__height_mm": 25,
        "parts__pack__protection": None,
        "parts__pack__cell": {"chemistry": "polymer", "size": "brick", "capacity_ah": 5},
    }
    ((_, wide),) = stowed(sound(**brick))
    ((_, narrow),) = stowed(sound(**brick, parts__enclosure__width_mm=110))
    rows = [{round(i.y[0]) for i in inside.items if i.part == "pack"} for inside in (wide, narrow)]
    assert len(rows[0]) == 3
    assert len(rows[1]) == 2
    assert narrow.needed_length > wide.needed_length
    packed = sorted((i for i in wide.items if i.part == "pack"), key=lambda i: i.y[0])
    assert all(a.y[1] <= b.y[0] + 1e-6 for a, b in itertools.pairwise(packed))
