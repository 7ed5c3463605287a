"""Geometry against the textbook, against shapely, and the drawings against the findings."""

from itertools import pairwise
from math import dist, hypot, isfinite, pi, radians, tan

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import Point, Polygon, unary_union

from boardmath.buildfile import read_build
from boardmath.checks import findings
from boardmath.geometry import belt
from boardmath.geometry.axle import across, room_between_motors
from boardmath.geometry.enclosures import room, stowed
from boardmath.geometry.shapes import VIEWS
from boardmath.geometry.stance import axles, deck_height, wheel_radius
from boardmath.geometry.transmission import belt_path, least_distance, stock_belts
from boardmath.geometry.views.rear import motor_room, wheel_room
from boardmath.geometry.views.view import draw
from boardmath.messages import Figure
from boardmath.model.inputs import hill_grade
from boardmath.prediction.outcomes import headlines
from tests.core.boards import any_builds, bare, changed, spit_runner
from tests.core.test_fit_and_power import FAULTS, sound

teeth = st.integers(9, 30)
wheel_teeth = st.integers(30, 80)
apart = st.floats(110.0, 250.0)


def hull(small, large, distance):
    """The taut belt as shapely sees it: the convex hull of two finely drawn circles."""
    return unary_union([Point(0, 0).buffer(small, 2000), Point(distance, 0).buffer(large, 2000)]).convex_hull


@given(teeth, wheel_teeth, apart)
def test_belt_length_is_the_hull_of_two_circles(motor, wheel, distance):
    small, large = belt.pitch_radius(motor, 5.0), belt.pitch_radius(wheel, 5.0)
    assert belt.length(distance, small, large) == pytest.approx(hull(small, large, distance).length, rel=1e-6)


@given(teeth, wheel_teeth, apart)
def test_belt_length_is_near_the_textbooks_approximation(motor, wheel, distance):
    """``2 C + pi (D + d) / 2 + (D - d)^2 / (4 C)``: the approximate formula of every machine elements textbook."""
    d, D = 2 * belt.pitch_radius(motor, 5.0), 2 * belt.pitch_radius(wheel, 5.0)
    textbook = 2 * distance + pi * (D + d) / 2 + (D - d) ** 2 / (4 * distance)
    assert belt.length(distance, d / 2, D / 2) == pytest.approx(textbook, rel=4e-3)


@given(teeth, wheel_teeth, apart)
def test_teeth_in_mesh_are_the_hull_that_lies_on_the_small_pulley(motor, wheel, distance):
    small, large = belt.pitch_radius(motor, 5.0), belt.pitch_radius(wheel, 5.0)
    steps = pairwise(hull(small, large, distance).exterior.coords)
    on_small = [dist(a, b) for a, b in steps if max(hypot(*a), hypot(*b)) < small * 1.0001]
    assert belt.teeth_in_mesh(distance, motor, small, large) == pytest.approx(sum(on_small) / 5.0, abs=0.05)


@given(teeth, wheel_teeth, apart)
def test_centre_distance_and_length_undo_each_other(motor, wheel, distance):
    small, large = belt.pitch_radius(motor, 5.0), belt.pitch_radius(wheel, 5.0)
    assert belt.centre_distance(belt.length(distance, small, large), small, large) == pytest.approx(distance)


def test_a_15_to_40_drive_runs_a_270_mm_belt():
    """Common practice, no source: 5 mm pitch, 8 mm shafts; the stock list offers it for a usual can."""
    board = bare(
        wheels={"diameter_mm": 90}, drive={"motor_teeth": 15, "wheel_teeth": 40}, motors={"can_diameter_mm": 63}
    )
    assert 270.0 in [b.length_mm for b in stock_belts(board)]


def test_stock_belts_clear_everything_and_longer_ones_wrap_more():
    board = sound()
    found = stock_belts(board)
    assert all(b.centre_distance_mm >= least_distance(board) for b in found)
    meshes = [b.teeth_in_mesh for b in found]
    assert meshes == sorted(meshes)
    assert [b.chosen for b in found].count(True) == 1


# --- the board leans ------------------------------------------------------------------------------------------------


def test_the_deck_comes_down_by_the_tangent_of_the_lean():
    board = sound(parts__deck__cutouts=None, parts__trucks__lean_deg=8)
    half = 235 / 2
    assert wheel_room(board) == pytest.approx(deck_height(board) - 90 - half * tan(radians(8)) + 8), (
        "and concave takes 8 mm back"
    )
    assert wheel_room(sound()) is None, "cut away there"


def test_leaning_further_and_bigger_wheels_leave_less_room():
    def rooms(**c):
        board = sound(parts__deck__cutouts=None, **c)
        return wheel_room(board), motor_room(board)

    usual = rooms()
    for other in (rooms(parts__trucks__lean_deg=14), rooms(parts__risers__height_mm=3)):
        assert other[0] < usual[0]
        assert other[1] < usual[1]
    assert rooms(parts__wheels__diameter_mm=97)[0] < usual[0]


def test_two_motors_need_the_wide_hanger():
    """184 mm usual, 218 mm wide, for two cans of 55 mm (common practice, no source)."""
    two = {"parts__motors__count": 2}
    assert room_between_motors(sound(**two)) < 0
    assert room_between_motors(sound(**two, parts__trucks__hanger_mm=218, parts__trucks__axle_mm=284)) > 0
    assert room_between_motors(sound()) is None


# --- the box --------------------------------------------------------------------------------------------------------


def boxes_of(items):
    return [(i, Polygon([(i.x[0], i.y[0]), (i.x[1], i.y[0]), (i.x[1], i.y[1]), (i.x[0], i.y[1])])) for i in items]


@pytest.mark.parametrize("layout", ["flat", "stacked", None])
@pytest.mark.parametrize("size", ["18650", "21700"])
@pytest.mark.parametrize("depth", [34, 46, 80])
def test_nothing_in_the_box_is_in_something_elses_place_and_every_cell_is_there(layout, size, depth):
    board = sound(
        parts__enclosure__depth_mm=depth,
        parts__pack__layout=layout,
        parts__pack__cell__size=size,
        parts__pack__parallel=2,
    )
    ((boxed, inside),) = stowed(board)
    cells = [i for i in inside.items if i.part == "pack"]
    assert len(cells) == 20
    shapes = boxes_of(inside.items)
    for n, (a, area) in enumerate(shapes):
        for b, other in shapes[n + 1 :]:
            over = min(a.z[1], b.z[1]) - max(a.z[0], b.z[0])
            assert over <= 0.01 or area.intersection(other).area < 0.01
    if inside.fits:
        x0, x1 = boxed.span
        assert all(x0 <= i.x[0] and i.x[1] <= x1 + 1e-6 and i.z[1] <= depth for i in inside.items)


def test_stacking_and_a_deeper_box_never_take_more_length():
    flat, stacked = (
        stowed(sound(parts__pack__layout=w, parts__enclosure__depth_mm=60))[0][1] for w in ("flat", "stacked")
    )
    assert stacked.needed_length <= flat.needed_length


def test_the_room_for_a_box_ends_before_axles_and_motor():
    board = sound()
    front, rear = axles(board)
    start, end = room(board)
    assert front + 38 < start < end < rear - belt_path(board).distance
    without = room(spit_runner(parts__motors=None, parts__drive=None))
    assert without[1] > end, "the motor takes room away"


def test_more_wheelbase_is_as_much_more_room():
    longer = sound(parts__deck__wheelbase_mm=700)
    assert room(longer)[1] - room(longer)[0] == pytest.approx(room(sound())[1] - room(sound())[0] + 60)


# --- drawings -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("view", VIEWS)
def test_the_sound_board_is_drawn_without_a_clash_and_within_its_frame(view):
    drawing = draw(sound(), view)
    assert drawing.clashes == []
    for s in drawing.shapes:
        for p in s.points:
            r = s.radius or 0.0
            if view != "drive" or s.part != "deck":
                assert drawing.left <= p.x - r
                assert p.x + r <= drawing.right
                assert drawing.bottom <= p.y - r
                assert p.y + r <= drawing.top


CLASHES = {
    "wheel-bite": ("behind", "wheel bite"),
    "motors-side-by-side": ("under", "motors overlap"),
    "box-contents": ("under", "does not fit the enclosure"),
    "motor-deck": ("behind", "motor in the leaned deck"),
    "pulley-ground": ("behind", "in the ground"),
    "box-length": ("side", "motor in the enclosure"),
}


@pytest.mark.parametrize("id", CLASHES)
def test_what_a_finding_says_collides_is_hatched_in_the_drawing(id):
    view, words = CLASHES[id]
    faulty = {**FAULTS[id][0], **({"parts__enclosure__length_mm": 600} if id == "box-length" else {})}
    assert words in [c.message.text for c in draw(sound(**faulty), view).clashes]
    assert words not in [c.message.text for c in draw(sound(**FAULTS[id][1]), view).clashes]


def test_drawn_to_scale():
    board = sound()
    side = draw(board, "side")
    wheels = [s for s in side.shapes if s.part == "wheels" and s.role == "body"]
    assert [w.radius for w in wheels] == [45.0, 45.0]
    assert wheels[1].points[0].x - wheels[0].points[0].x == pytest.approx(640.0)
    under = draw(board, "under")
    tips = [p.y for s in under.shapes if s.part == "trucks" for p in s.points]
    assert max(tips) - min(tips) == pytest.approx(250.0)
    assert across(board).axle == 125.0
    assert wheel_radius(board) == 45.0


def test_a_hill_may_be_given_as_rise_and_length():
    """30 m of rise over 250 m along the slope: sin a = 0.12, tan a = 12.09 %."""
    board = spit_runner(brief__hill_grade_pct=None, brief__hill_rise_m=30, brief__hill_length_m=250)
    assert hill_grade(board) == pytest.approx(12.09, abs=0.01)


def test_any_valid_build_is_drawn_and_judged_in_finite_figures_and_its_fixes_are_valid():
    for build in any_builds(200):
        for view in VIEWS:
            assert all(isfinite(v) for s in draw(build, view).shapes for p in s.points for v in (p.x, p.y))
        document = build.model_dump(mode="json", exclude_none=True)
        for finding in findings(build, headlines([build])[0].outcomes, None):
            figures = [v.value for v in finding.message.values.values() if isinstance(v, Figure)]
            assert all(map(isfinite, figures)), finding.id
            for fix in finding.fixes:
                read_build(changed(document, dict(fix.changes)))


@pytest.mark.parametrize("view", VIEWS)
def test_an_empty_bench_is_drawn_as_usual_and_accuses_nothing(view):
    drawing = draw(bare(), view)
    assert drawing.clashes == []
    assert all(s.guessed for s in drawing.shapes if s.role == "body")
    assert stock_belts(bare()) == []


def test_a_pulley_too_big_for_the_wheel_is_hatched_whatever_the_belt():
    board = sound(parts__drive__wheel_teeth=72, parts__drive__belt_teeth=40)
    assert belt_path(board).too_short
    assert "in the ground" in [c.message.text for c in draw(board, "side").clashes]
