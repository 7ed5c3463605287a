"""How a board begins: from questions, from a board that is there, from a kit; and what follows when a part is chosen."""

from datetime import date

import pytest

from boardmath.buildfile import read_build
from boardmath.buildfile.drivetrain import Drive, Motors
from boardmath.buildfile.electrics import Charger, Controller, Fuse, Pack, Remote, Wiring
from boardmath.buildfile.kits import Kit, KitContents
from boardmath.buildfile.rolling import Deck, Wheels
from boardmath.model.evaluation import Evaluation
from boardmath.model.inputs import gear_ratio
from boardmath.model.limits import recommended_taper
from boardmath.model.mass import board_mass, resolve_masses
from boardmath.parts.cost import cost, priced_parts
from boardmath.parts.part_selection import with_part, with_parts
from boardmath.parts.part_types import KINDS
from boardmath.physics.wire import ampacity
from boardmath.prediction.part_columns import fields_not_of
from boardmath.predictor import predict
from planner.design.beginning import MORE, OF_A_BOARD, REPLACEABLE, adapted, kv_from_speed
from planner.design.candidates import choice
from planner.parts_list.accessories import forgotten
from planner.parts_list.lines import list_lines, to_choose
from tests.core.boards import bare, spit_runner
from tests.core.test_fit_and_power import sound
from tests.core.test_navigation import field

HUBS = {
    "kind": "hub",
    "count": 2,
    "kv_rpm_per_v": 70,
    "can_diameter_mm": 60,
    "can_length_mm": 40,
    "price": 120,
    "name": "Hubs",
}


def board_that_is_there(**changes):
    """A hub board as somebody describes it who knows no KV and no cells."""
    said = {
        "format": "sand-pocket/build",
        "version": 1,
        "rider": {"mass_kg": 80},
        "currency": "EUR",
        "brief": {"range_km": 20, "budget": 250},
        "parts": {
            "motors": {"kind": "hub", "count": 2},
            "wheels": {"diameter_mm": 90},
            "charger": {"v": 42, "a": 2},
            "pack": {"cell": {"capacity_ah": 4.4}},
        },
        "existing": {"top_speed_kmh": 33, "mass_kg": 7.6, "range_km": 14},
    }
    return read_build(said | changes)


def test_the_questions_of_a_board_that_is_there_are_answered_by_fields_that_there_are():
    paths = [path for question in OF_A_BOARD for path in question.fields] + MORE
    assert len(set(paths)) > 25
    for path in paths:
        assert field(path).title
    for question in OF_A_BOARD:
        assert set(question.labels) <= set(question.fields)
    assert set(REPLACEABLE) <= set(KINDS)


def test_what_stays_is_in_hand_and_costs_nothing_and_what_goes_has_its_place_empty():
    board = adapted(board_that_is_there(), ["pack", "charger"])
    assert board.parts.pack is None
    assert board.parts.charger is None
    assert board.existing.was.pack.series == 10, "from the charger's 42 V"
    for name in ("deck", "trucks", "wheels", "motors", "controller", "remote"):
        assert getattr(board.parts, name).owned, name
    assert cost(board).to_spend == 0
    assert set(to_choose(board)) == {"pack", "charger", "switch", "fuse", "wiring"}, "hubs need no pulleys"
    with_new = with_part(board, "pack", Pack(name="Block", series=10, parallel=3, price=180))
    assert cost(with_new).to_spend == 180


def test_the_motors_kv_follows_from_the_measured_top_speed():
    board = adapted(board_that_is_there(), [])
    assert predict(board, bands=False).top_speed_kmh.mid == pytest.approx(33, abs=0.6)
    assert 55 < board.parts.motors.kv_rpm_per_v < 80, "as hub motors have it (common practice, no source)"
    assert "33" in board.parts.motors.source


def test_a_pack_that_nobody_described_holds_no_speed_back():
    """41 km/h in the air against 35 on the road (common practice, no source)."""
    said = board_that_is_there()
    parts = said.parts.model_copy(update={"pack": None})
    board = adapted(said.model_copy(update={"parts": parts}), ["pack"])
    turns = board.parts.motors.kv_rpm_per_v * 42.0
    assert turns * 3.1416 * 0.09 * 60 / 1000 == pytest.approx(33 / 0.85, rel=0.01)


def test_a_top_speed_that_no_motor_gives_on_these_cells_leaves_the_kv_open():
    one = board_that_is_there(rider={"mass_kg": 150}, existing={"top_speed_kmh": 115})
    assert adapted(one, []).parts.motors.kv_rpm_per_v is None
    assert kv_from_speed(bare(), 30) is None, "nothing to reckon with"


def test_the_changed_board_weighs_what_it_weighed_less_what_went_plus_what_came():
    board = adapted(board_that_is_there(), ["pack"])
    heavier = with_part(board, "pack", Pack(name="Block", series=10, parallel=4, mass_g=2600))
    was = resolve_masses(adapted(board_that_is_there(), []))["pack"].value / 1000
    found = board_mass(heavier, resolve_masses(heavier))
    assert found.value == pytest.approx(7.6 - was + 2.6, abs=0.01)
    whole = board_mass(spit_runner(), resolve_masses(spit_runner()))
    assert found.spread < whole.spread, "surer than a sum of parts"
    same = adapted(board_that_is_there(), [])
    assert board_mass(same, resolve_masses(same)).value == pytest.approx(7.6)


def test_what_is_replaced_later_is_remembered_as_it_was():
    board = adapted(board_that_is_there(), [])
    changed = with_part(board, "wheels", Wheels(name="Bigger", diameter_mm=100, mass_g=900))
    assert changed.existing.was.wheels.diameter_mm == 90
    before, after = (board_mass(b, resolve_masses(b)).value for b in (board, changed))
    assert before == pytest.approx(7.6)
    assert after != pytest.approx(before)


# --- kits --------------------------------------------------------------------------------------------------------------

KIT = Kit(
    name="Hub kit",
    price=189,
    contents=KitContents(
        motors=Motors(**HUBS),
        wheels=Wheels(name="Pair", diameter_mm=90, in_set=2, price=26),
        controller=Controller(name="Boxed", programmable=False, max_v=26, fixed_cells=6, motors=2),
        charger=Charger(name="Charger", v=25.2, a=3),
    ),
)


def test_a_kit_is_one_purchase_that_brings_several_parts():
    board = with_part(bare(), "kit", KIT)
    assert board.parts.motors.kv_rpm_per_v == 70
    assert board.parts.drive.kind == "hub", "what the motor decides is decided"
    assert [(p.path, float(p.part.price)) for p in priced_parts(board)] == [("parts.kits.0", 189.0)]
    (line,) = list_lines(board, date(2026, 5, 1))
    assert line.kind == "kit"
    assert set(line.brings) == {"Motor", "Wheels", "Controller", "Charger"}
    assert predict(board, bands=False).cost.total == 189


def test_a_kit_taken_twice_is_there_once_and_a_file_with_two_says_so():
    board = with_part(with_part(bare(), "kit", KIT), "kit", KIT)
    assert len(board.parts.kits) == 1
    twice = board.model_copy(update={"parts": board.parts.model_copy(update={"kits": board.parts.kits * 2})})
    found = [f for f in predict(twice, bands=False).findings if f.kind == "kit-twice"]
    assert [f.severity for f in found] == ["warn"]


def test_taking_a_kit_off_takes_off_what_came_in_it_and_nothing_else():
    board = with_part(with_part(bare(), "kit", KIT), "deck", Deck(name="Plank", length_mm=800))
    bare_again = with_parts(board, board.parts.model_copy(update={"kits": []}))
    assert bare_again.parts.motors is None
    assert bare_again.parts.deck.name == "Plank"


def test_a_part_of_a_kit_that_is_replaced_is_bought_by_itself():
    board = with_part(with_part(bare(), "kit", KIT), "charger", Charger(name="Faster", v=25.2, a=5, price=30))
    assert {p.path for p in priced_parts(board)} == {"parts.kits.0", "parts.charger"}


# --- kinds know themselves ---------------------------------------------------------------------------------------------


def hub_board(**changes):
    return spit_runner(**{"parts__motors": HUBS, "parts__drive": None} | changes)


def test_a_hub_board_is_offered_no_belts_and_billed_for_none():
    board = with_part(spit_runner(), "motors", Motors(**HUBS))
    assert "parts.drive" not in {p.path for p in priced_parts(board)}
    for kind in ("drive", "mount"):
        found = choice(board, kind, [Drive(name="Belt", kind="belt", motor_teeth=15, wheel_teeth=40)])
        assert found.candidates == []
        assert "hub" in found.nothing.text
    assert not {c.id for c in forgotten(board)} & {"spare-belts", "mount-bolts", "motor-mount"}
    assert {"parts.drive.motor_teeth", "parts.drive.belt_teeth"} <= set(fields_not_of(board))


def test_hubs_are_wheels_and_those_are_not_bought_twice():
    two = hub_board(parts__wheels={"diameter_mm": 90, "price": 40, "name": "Set"})
    assert {p.path: p.count for p in priced_parts(two)}["parts.wheels"] == 1
    pair = hub_board(parts__wheels={"diameter_mm": 90, "price": 20, "in_set": 2, "name": "Pair"})
    assert {p.path: p.count for p in priced_parts(pair)}["parts.wheels"] == 1
    four = hub_board(parts__motors={**HUBS, "count": 4}, parts__wheels={"diameter_mm": 90, "price": 40, "name": "Set"})
    assert "parts.wheels" not in {p.path for p in priced_parts(four)}
    assert resolve_masses(two)["wheels"].value == pytest.approx(
        resolve_masses(spit_runner())["wheels"].value / 2, rel=0.2
    )
    belt = spit_runner(parts__wheels={"diameter_mm": 90, "price": 20, "in_set": 2, "name": "Pair"})
    assert {p.path: p.count for p in priced_parts(belt)}["parts.wheels"] == 2


def test_a_boxed_controller_has_its_few_settings():
    boxed = spit_runner(parts__controller__programmable=False, settings={})
    hidden = set(fields_not_of(boxed))
    assert {"settings.motor_current_a", "settings.taper_end_v", "settings.ramp_s"} <= hidden
    assert not {"settings.cells_in_series", "settings.ride_mode", "parts.controller.fixed_cells"} & hidden
    assert "parts.controller.fixed_cells" in fields_not_of(spit_runner())
    for path in hidden:
        assert field(path).title, path


COLUMNS = {
    "charger": (Charger(name="4 A", v=42, a=4), {"full": "hours", "ends": "voltage"}),
    "fuse": (Fuse(name="40 A", a=40), {"protects": None, "spare": "current"}),
    "wiring": (Wiring(name="10", awg=10), {"loss": "power", "used": "share"}),
    "remote": (Remote(name="Thumb", runtime_h=6), {"lasts": "hours"}),
}


@pytest.mark.parametrize("kind", COLUMNS)
def test_what_moves_no_promise_has_columns_of_its_own_instead_of_zeros(kind):
    part, columns = COLUMNS[kind]
    found = choice(sound(), kind, [part])
    assert {c.id for c in found.own} == set(columns)
    assert "speed" not in found.columns
    assert "hill" not in found.columns
    told = found.candidates[0].own
    for id, quantity in columns.items():
        assert (told[id].figure.quantity if told[id].figure else None) == quantity, id


def test_a_wire_is_told_by_the_share_of_its_ampacity_and_the_loss_of_its_resistance():
    board = sound(parts__pack__cell__chemistry="lfp", parts__pack__cell__nominal_v=3.2)
    told = choice(board, "wiring", [Wiring(name="10", awg=10, length_mm=900)]).candidates[0].own
    evaluation = Evaluation(board, samples=0)
    limit = evaluation.resolved.inputs["pack_current_limit"].value
    assert told["used"].figure.value == pytest.approx(100 * limit / float(ampacity(10)), rel=1e-6)
    # Ohm's law by hand: 2 x 0.9 m of 3.277 mOhm/m (ASTM B258, 10 AWG at 20 C), at 3.2 V a cell.
    watts = float(evaluation.headline_values["consumption"][0]) * evaluation.cruise * 3.6
    amperes = watts / (3.2 * board.parts.pack.series)
    assert told["loss"].figure.value == pytest.approx(amperes**2 * 1.8 * 3.277e-3, rel=0.05)


def test_a_fuse_says_which_wire_it_protects():
    small, large = choice(
        spit_runner(parts__wiring__awg=14), "fuse", [Fuse(name="30", a=30), Fuse(name="80", a=80)]
    ).candidates
    told = {c.name: c.own["protects"].words for c in (small, large)}
    assert told == {"30": "14 AWG", "80": "not 14 AWG"}


@pytest.mark.parametrize("kind", [k for k in KINDS if KINDS[k].against and not KINDS[k].several])
def test_nothing_fits_before_there_is_something_to_fit(kind):
    part = KINDS[kind].model(name="One")
    (alone,) = choice(bare(), kind, [part]).candidates
    assert alone.fits is None
    assert all(name in Parts_of_a_board for name in KINDS[kind].against)


Parts_of_a_board = set(type(bare().parts).model_fields)


def test_a_charger_for_another_pack_does_not_fit():
    for volts in (25.2, 29.4, 50.4, 58.8):
        (found,) = choice(sound(), "charger", [Charger(name="Other", v=volts, a=2)]).candidates
        assert found.fits is False, volts
    (right,) = choice(sound(), "charger", [Charger(name="Right", v=42, a=2)]).candidates
    assert right.fits is True


def test_another_pack_takes_along_what_was_set_for_the_old_one():
    """A taper left behind from ten cells stops a board of six."""
    board = sound()
    start, end = recommended_taper(board.parts.pack)
    board = sound(settings__taper_start_v=start, settings__taper_end_v=end, settings__cells_in_series=10)
    six = Pack(name="Six", series=6, parallel=4, cell=board.parts.pack.cell)
    (found,) = choice(board, "pack", [six]).candidates
    assert found.settings["cells_in_series"] == 6
    assert (found.settings["taper_start_v"], found.settings["taper_end_v"]) == recommended_taper(six)
    speed = next(c for c in found.changes if c.name == "speed")
    assert speed.mid > 10, "it still rides"


def test_what_was_set_otherwise_on_purpose_stays():
    board = sound(settings__cells_in_series=5)
    after = with_part(board, "pack", Pack(name="Six", series=6, parallel=4))
    assert after.settings.cells_in_series == 5


@pytest.mark.parametrize(
    ("kind", "part", "key", "value"),
    [
        ("motors", Motors(name="Other", kv_rpm_per_v=140, pole_pairs=10), "pole_pairs", 10),
        ("drive", Drive(name="Other", kind="belt", motor_teeth=12, wheel_teeth=36), "gear_ratio", 3.0),
        ("wheels", Wheels(name="Other", diameter_mm=107), "wheel_diameter_mm", 107 * 0.99),
    ],
)
def test_how_the_controller_reckons_speed_follows_the_part(kind, part, key, value):
    board = sound(settings__pole_pairs=7, settings__gear_ratio=gear_ratio(sound()), settings__wheel_diameter_mm=89)
    after = with_part(board, kind, part)
    assert getattr(after.settings, key) == pytest.approx(value, rel=0.01)


def test_no_choice_makes_a_board_roll_backwards():
    """Every part of a kind, tried on a six-cell and a twelve-cell board: no promise is below nothing."""
    for series in (6, 12):
        board = spit_runner(parts__pack__series=series, settings={})
        for kind, parts in {
            "pack": [Pack(name=f"{s}", series=s, parallel=3) for s in (6, 8, 10, 12, 14)],
            "motors": [Motors(name=f"{kv}", kv_rpm_per_v=kv) for kv in (60, 190, 780)],
        }.items():
            for found in choice(board, kind, parts).candidates:
                assert all(c.mid is None or c.mid >= 0 for c in found.changes), (kind, found.name)
