"""What a missing figure is taken to be: rules that a builder would nod at, each in its direction and within its usual span."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from boardmath.buildfile.build import Brief, Rider
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Cell, Wiring
from boardmath.buildfile.rolling import Deck, Trucks, Wheels
from boardmath.model import estimate
from boardmath.model.inputs import cell_capacity, cell_charge_rating, cell_rating, cell_resistance
from boardmath.model.mass import board_mass, resolve_masses
from tests.core.boards import bare, spit_runner

# --- road and air -----------------------------------------------------------------------------------------------------


@given(st.floats(70, 200), st.floats(1.01, 1.5), st.sampled_from(["urethane", "rubber", "pneumatic"]))
def test_bigger_wheels_roll_easier(diameter, bigger, kind):
    small, big = (
        estimate.rolling_resistance(Wheels(kind=kind, diameter_mm=d), Brief()).value
        for d in (diameter, min(diameter * bigger, 400))
    )
    assert big < small


@pytest.mark.parametrize("kind", ["urethane", "rubber", "pneumatic"])
def test_rougher_ground_rolls_harder_and_soft_tyres_feel_it_least(kind):
    order = ["smooth_asphalt", "fair_asphalt", "rough_asphalt", "packed_gravel"]
    rolls = [estimate.rolling_resistance(Wheels(kind=kind), Brief(surface=s)).value for s in order]
    assert rolls == sorted(rolls)
    assert rolls[-1] / rolls[1] < {"urethane": 2.7, "rubber": 2.1, "pneumatic": 1.4}[kind]


@given(st.floats(40, 130), st.floats(1.45, 2.0))
def test_drag_area_grows_with_the_body_and_shrinks_with_a_crouch(mass, height):
    stances = [
        estimate.drag_area(Rider(mass_kg=mass, height_m=height, stance=s)).value
        for s in ("upright", "relaxed", "crouched")
    ]
    assert stances == sorted(stances, reverse=True)
    assert 0.35 < stances[0] < 0.8
    assert estimate.drag_area(Rider(mass_kg=mass * 1.1, height_m=height)).value > stances[0]


def test_a_height_that_is_said_makes_the_drag_area_surer():
    said, unsaid = (estimate.drag_area(Rider(mass_kg=74, height_m=h)).spread for h in (1.78, None))
    assert said < unsaid


@pytest.mark.parametrize("surface", ["fair_asphalt", "boardwalk", "packed_gravel"])
def test_wet_ground_holds_less(surface):
    dry, wet = (estimate.grip(Wheels(), Brief(surface=surface, wet=w)).value for w in (False, True))
    assert wet == pytest.approx(0.6 * dry)


# --- drive, motor, controller -----------------------------------------------------------------------------------------


@given(st.integers(9, 30))
def test_a_small_motor_pulley_bends_the_belt_more(teeth):
    one, more = (estimate.drive_efficiency("belt", Drive(motor_teeth=t)).value for t in (teeth, teeth + 1))
    assert one < more < 1.0
    with_idler = estimate.drive_efficiency("belt", Drive(motor_teeth=teeth, idler=True)).value
    assert with_idler == pytest.approx(one - 0.02)


@given(st.floats(60, 300))
def test_half_the_kv_has_four_times_the_resistance_and_the_same_motor_constant(kv):
    """The same copper wound with twice the turns: Kt / sqrt R is the can's, not the winding's."""
    slow, fast = (
        estimate.phase_resistance(Motors(kv_rpm_per_v=k, can_diameter_mm=63, can_length_mm=55)).value
        for k in (kv, 2 * kv)
    )
    assert slow == pytest.approx(4 * fast)
    assert (1 / kv) / math.sqrt(slow) == pytest.approx((1 / (2 * kv)) / math.sqrt(fast))


@given(st.floats(60, 300), st.floats(1.1, 2.0))
def test_a_bigger_can_has_less_resistance_drags_more_and_bears_more_torque(kv, longer):
    small, big = (
        Motors(kv_rpm_per_v=kv, can_diameter_mm=63, can_length_mm=length) for length in (50, min(50 * longer, 200))
    )
    assert estimate.phase_resistance(big).value < estimate.phase_resistance(small).value
    assert estimate.no_load_current(big).value > estimate.no_load_current(small).value
    assert estimate.motor_current(big).value / kv > estimate.motor_current(small).value / kv
    heat = [estimate.motor_heat(m, estimate.motor_mass(m).value) for m in (small, big)]
    assert heat[1]["case_to_air"].value < heat[0]["case_to_air"].value
    assert heat[1]["winding_heat_capacity"].value > heat[0]["winding_heat_capacity"].value


def test_a_hub_sheds_its_heat_worse_than_an_open_motor_of_its_size():
    hub, open_ = (
        estimate.motor_heat(Motors(kind=kind, can_diameter_mm=70, can_length_mm=40), 900)["case_to_air"].value
        for kind in ("hub", "outrunner")
    )
    assert hub == pytest.approx(1.5 * open_)


def test_a_boxed_controller_loses_more_opens_further_and_takes_less():
    boxed, programmable = (estimate.controller_class(p) for p in (False, True))
    assert boxed["conduction"].value > programmable["conduction"].value
    assert boxed["pack_current"].value < programmable["pack_current"].value
    assert 0.93 <= programmable["duty"].value <= boxed["duty"].value <= 1.0
    assert estimate.controller_class(None) == programmable, "one that does not say is taken for a programmable one"


def test_a_controller_for_two_motors_takes_as_much_as_two_for_one_each():
    from boardmath.model.evaluation import Evaluation

    two = {"count": 2, "kv_rpm_per_v": 170}
    common = {"wheels": {"diameter_mm": 90}, "drive": {"motor_teeth": 16, "wheel_teeth": 40, "driven_wheels": 2}}
    pack = {"series": 10, "parallel": 8, "cell": {"chemistry": "nmc", "capacity_ah": 3.0, "max_discharge_a": 20}}
    limits = [
        Evaluation(bare(**common, motors=two, pack=pack, controller={"units": units})).resolved.inputs[
            "pack_current_limit"
        ]
        for units in (1, 2)
    ]
    assert limits[0].value == limits[1].value == 100.0
    assert limits[0].origin == "estimated"


def test_what_cells_are_rated_for_holds_no_current_back():
    from boardmath.model.evaluation import Evaluation

    build = spit_runner(
        parts__controller={"units": 1},
        parts__pack__protection=None,
        parts__pack__parallel=1,
        parts__pack__cell__max_discharge_a=8,
        settings={},
    )
    limit = Evaluation(build).resolved.inputs["pack_current_limit"]
    assert limit.value > 20.0
    assert limit.spread >= 0.25
    assert "usual for" in limit.rule


# --- cells ------------------------------------------------------------------------------------------------------------

NEW = {"chemistry": "nmc", "size": "18650", "capacity_ah": 2.6, "max_discharge_a": 10, "resistance_mohm": 30}


def _pack(**cell):
    return bare(pack={"series": 10, "parallel": 4, "cell": cell}).parts.pack


def test_salvaged_cells_bear_an_ampere_for_each_ampere_hour_and_never_more_than_is_printed():
    old = _pack(**NEW, origin="salvaged")
    assert cell_rating(old).value == pytest.approx(cell_capacity(old).value)
    feeble = _pack(**{**NEW, "max_discharge_a": 1.2}, origin="salvaged")
    assert cell_rating(feeble).value == 1.2
    assert cell_charge_rating(old).value < 0.6 * cell_charge_rating(_pack(**{**NEW, "max_charge_a": None})).value


@pytest.mark.parametrize("key", ["capacity_ah", "max_discharge_a", "resistance_mohm"])
def test_what_was_measured_of_a_salvaged_cell_counts_as_it_is(key):
    asked = {"capacity_ah": cell_capacity, "max_discharge_a": cell_rating, "resistance_mohm": cell_resistance}[key]
    before = asked(_pack(**NEW, origin="salvaged"))
    after = asked(_pack(**NEW, origin="salvaged", measured=[key]))
    assert before.origin == "estimated"
    assert before.rule.startswith("salvaged")
    assert after.origin == "measured"
    assert after.value == NEW[key]
    assert after.spread < before.spread or before.spread == 0.0


def test_a_salvaged_cell_was_new_by_its_print():
    """Its resistance has grown from that of the cell as it was sold, whether its capacity was measured since or not."""
    sold = {"chemistry": "nmc", "size": "18650", "origin": "salvaged"}
    printed = cell_resistance(_pack(**sold, capacity_ah=2.6)).value
    kept = round(2.6 * estimate.SALVAGED_KEEPS, 6)
    measured = cell_resistance(_pack(**sold, capacity_ah=kept, measured=["capacity_ah"])).value
    assert printed == pytest.approx(1.6 * 360.0 / (2.0 * 2.6))
    assert measured == pytest.approx(printed)


@given(st.integers(2, 24), st.integers(1, 12))
def test_the_weakest_of_many_groups_is_weaker_and_more_cells_in_a_group_even_out(series, parallel):
    cell = Cell(chemistry="nmc", origin="salvaged")
    share = estimate.weakest_group(cell, series, parallel, False).value
    assert estimate.weakest_group(cell, series + 1, parallel, False).value <= share <= 1.0
    assert estimate.weakest_group(cell, series, parallel + 1, False).value >= share
    assert estimate.weakest_group(cell, series, parallel, True).value >= share, "measured and sorted"


def test_the_least_of_ten_draws_lies_one_and_a_half_deviations_below_the_mean():
    """Order statistics of the normal distribution: the expected least of ten is -1.539 (Harter 1961, from memory)."""
    share = estimate.weakest_group(Cell(chemistry="nmc", origin="salvaged"), 10, 1, False).value
    assert (1.0 - share) / 0.10 == pytest.approx(1.539, rel=0.02)


def test_one_cell_in_series_has_no_weaker_one():
    assert estimate.weakest_group(Cell(), 1, 3, False).value == 1.0


def test_a_pack_of_twice_the_mass_holds_twice_the_heat_and_sheds_more():
    light, heavy = (estimate.pack_heat(grams) for grams in (1000, 2000))
    assert heavy["pack_heat_capacity"].value == pytest.approx(2 * light["pack_heat_capacity"].value)
    assert heavy["pack_to_air"].value < light["pack_to_air"].value


@given(st.floats(8, 16), st.floats(200, 2000))
def test_longer_and_thinner_wire_costs_more_volts(awg, length):
    usual = estimate.path_resistance(10, Wiring(awg=awg, length_mm=length)).value
    assert estimate.path_resistance(10, Wiring(awg=awg + 2, length_mm=length)).value > usual
    assert estimate.path_resistance(10, Wiring(awg=awg, length_mm=length + 100)).value > usual
    assert estimate.path_resistance(12, Wiring(awg=awg, length_mm=length)).value > usual


# --- mass -------------------------------------------------------------------------------------------------------------


def test_masses_by_size_are_those_of_the_scale():
    """Usual decks, trucks, wheels and motors on a kitchen scale; common practice, no source."""
    usual = {
        1600: estimate.deck_mass(Deck(length_mm=960, width_mm=240, thickness_mm=12)).value,
        900: estimate.trucks_mass(Trucks(hanger_mm=184)).value,
        850: estimate.wheels_mass(Wheels(diameter_mm=90, width_mm=52)).value,
        620: estimate.motor_mass(Motors(can_diameter_mm=63, can_length_mm=55)).value,
    }
    for grams, found in usual.items():
        assert found == pytest.approx(grams, rel=0.2)


def test_what_is_listed_as_an_extra_is_not_counted_twice():
    """Grip tape and fasteners entered as extras take the place of what nobody lists."""
    none = resolve_masses(bare())["small_parts"].value
    board = spit_runner(parts__extras=[{"name": "Grip", "mass_g": 180}, {"name": "Bolts", "mass_g": 90}])
    listed = resolve_masses(board)
    assert listed["small_parts"].value < none
    total = board_mass(board, listed).value * 1000
    assert total == pytest.approx(sum(m.value for m in listed.values()))


def test_a_boards_mass_is_surer_than_its_parts_are():
    """Errors of parts that were weighed apart cancel out to some degree."""
    board = bare()
    masses = resolve_masses(board)
    whole = board_mass(board, masses)
    share = {n: m.value / whole.value / 1000 for n, m in masses.items()}
    assert whole.spread < sum(share[n] * m.spread for n, m in masses.items())
    assert whole.spread == pytest.approx(math.sqrt(sum((share[n] * m.spread) ** 2 for n, m in masses.items())))
