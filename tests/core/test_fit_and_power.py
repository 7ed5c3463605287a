"""What fits and what the current runs through: each fault with its twin, its numbers, and what its fix does."""

import pytest

from boardmath.checks.register import findings
from boardmath.prediction.outcomes import headlines
from boardmath.predictor import predict
from tests.core.boards import spit_runner

SOUND = {
    "parts__deck__cutouts": True,
    "parts__enclosure__length_mm": 440,
    "parts__enclosure__seat": "gasket",
    "parts__drive__motor_teeth": 16,
    "parts__drive__belt_teeth": 58,
    "parts__trucks__height_mm": 55,
}
"""The example with a deck cut away at the wheels, a box of 440 mm on foam, and 16 teeth on a belt of 290 mm."""

DIRECT = {"count": 1, "kind": "direct", "kv_rpm_per_v": 72}
TWO = {"parts__motors__count": 2, "parts__drive__driven_wheels": 2}
BRICKS = {
    "series": 10,
    "parallel": 1,
    "layout": "bricks",
    "bricks": 2,
    "cell": {"chemistry": "polymer", "capacity_ah": 5.0, "max_discharge_a": 100, "max_charge_a": 5},
}

FAULTS = {
    # trucks, wheels, drive
    "mount-profile": (
        {"parts__drive__mount_profile": "square"},
        {"parts__drive__mount_profile": "D"},
        "stop",
        ["square", " d "],
    ),
    "hanger-short": (
        {"parts__trucks__hanger_mm": 127, "parts__trucks__axle_mm": 205},
        {},
        "stop",
        ["127 mm", "3.5 mm"],
    ),
    "motors-side-by-side": (
        TWO,
        {**TWO, "parts__trucks__hanger_mm": 218, "parts__trucks__axle_mm": 284},
        "stop",
        ["55 mm", "184 mm"],
    ),
    "axle-length": (
        {"parts__drive__pulley_fixing": "own_bearing"},
        {"parts__drive__pulley_fixing": "bolted"},
        "stop",
        ["33 mm", "40 mm"],
    ),
    "wheel-core": (
        {"parts__drive__wheel_core": "eight_window"},
        {"parts__drive__wheel_core": "six_window"},
        "stop",
        ["eight window", "six window"],
    ),
    "pulley-ground": (
        {"parts__drive__wheel_teeth": 60, "parts__drive__belt_teeth": 72},
        {},
        "stop",
        ["60 teeth", "90 mm"],
    ),
    "belt-length": ({"parts__drive__belt_teeth": 47}, {}, "stop", ["235 mm"]),
    "belt-mesh": ({"parts__drive__motor_teeth": 12}, {}, "warn", ["12 motor teeth", "6 teeth"]),
    "shaft-bore": ({"parts__drive__bore_mm": 10}, {"parts__drive__bore_mm": 8}, "stop", ["8 mm", "10 mm", "loose"]),
    "motor-deck": ({"parts__drive__mount_angle_deg": 40}, {}, "stop", ["10°"]),
    "wheel-bite": (
        {"parts__deck__cutouts": None, "parts__trucks__lean_deg": 14},
        {"parts__deck__cutouts": None},
        "danger",
        ["106 mm", "90 mm", "14°", "5.3 mm are missing"],
    ),
    "motor-ground": (
        {
            "parts__motors": {"count": 1, "kind": "direct", "kv_rpm_per_v": 72, "can_diameter_mm": 92},
            "parts__drive": {"kind": "direct"},
        },
        {
            "parts__motors": {"count": 1, "kind": "direct", "kv_rpm_per_v": 72, "can_diameter_mm": 70},
            "parts__drive": {"kind": "direct"},
        },
        "stop",
        ["92 mm", "90 mm", "-1 mm"],
    ),
    "soft-wheels-direct": (
        {
            "parts__wheels__kind": "pneumatic",
            "parts__wheels__diameter_mm": 150,
            "parts__motors__kind": "direct",
            "parts__drive": {"kind": "direct"},
        },
        {"parts__wheels__kind": "pneumatic"},
        "warn",
        ["150 mm", "110 mm"],
    ),
    "plastic-pulley": (
        {"parts__drive__pulley_material": "plastic"},
        {"parts__drive__pulley_material": "metal"},
        "warn",
        ["6.4 Nm", "6 Nm"],
    ),
    "one-driven-wheel": ({}, {**TWO, "parts__trucks__hanger_mm": 218}, "warn", ["12 %"]),
    # box
    "ground-clearance": ({"parts__enclosure__depth_mm": 80}, {}, "warn", ["26 mm", "18 mm", "35 mm"]),
    "box-length": ({"parts__enclosure__length_mm": 520}, {}, "stop", ["520 mm", "640 mm"]),
    "box-width": ({"parts__enclosure__width_mm": 240}, {}, "stop", ["240 mm", "235 mm"]),
    "box-seat": ({"parts__enclosure__seat": "flat"}, {"parts__enclosure__seat": "moulded"}, "warn", ["4.7 mm", "2 mm"]),
    "box-contents": (
        {"parts__pack__parallel": 5, "parts__pack__protection__max_discharge_a": 60},
        {},
        "stop",
        ["434 mm"],
    ),
    # current
    "protection-current": ({"settings__pack_current_a": 45}, {}, "danger", ["45 A", "40 A"]),
    "no-cut-off": (
        {"parts__pack__protection__in_drive_path": False, "settings__taper_end_v": None},
        {},
        "danger",
        ["28 V", "31 V"],
    ),
    "cut-off-too-low": ({"settings__taper_end_v": 25}, {}, "danger", ["25 V", "2.5 V", "2.8 V"]),
    "fuse-wire": ({"parts__fuse__a": 80}, {}, "danger", ["80 A", "12 AWG"]),
    "fuse-current": ({"parts__fuse__a": 30}, {}, "warn", ["35 A", "30 A"]),
    "wire-current": ({"parts__wiring__awg": 16, "parts__fuse__a": 20}, {}, "warn", ["35 A", "16 AWG"]),
    "connector-current": (
        {"parts__wiring__connector_max_a": 30},
        {"parts__wiring__connector_max_a": 60},
        "warn",
        ["35 A", "30 A"],
    ),
    "switch-voltage": (
        {"parts__switch": {"kind": "electronic", "max_v": 36}},
        {"parts__switch": {"kind": "electronic", "max_v": 60}},
        "danger",
        ["42 V", "36 V"],
    ),
    "switch-current": ({"parts__switch": {"kind": "electronic", "max_a": 30}}, {}, "danger", ["35 A", "30 A"]),
    "no-disconnect": ({"parts__switch": {"kind": "none"}}, {}, "danger", ["loop key"]),
    "motor-current": ({"parts__motors__max_current_a": 40}, {}, "warn", ["50 A", "40 A"]),
    "motor-power": (
        {"parts__motors__max_power_w": 900, "settings__pack_current_a": 30},
        {"parts__motors__max_power_w": 1260, "settings__pack_current_a": 30},
        "warn",
        ["30 A", "1,260 W", "900 W"],
    ),
    "controller-motors": (
        {**TWO, "parts__controller__motors": 1},
        {**TWO, "parts__controller__motors": 2},
        "stop",
        ["2 motors"],
    ),
    "electrical-speed": (
        {"parts__motors__kv_rpm_per_v": 280},
        {},
        "warn",
        ["82,320 electrical rpm", "60,000 electrical rpm"],
    ),
    "fixed-cells": (
        {"parts__controller__fixed_cells": 7},
        {"parts__controller__fixed_cells": 10},
        "danger",
        ["7 cells", "has 10"],
    ),
    "plugs-drive": (
        {"parts__pack__plug": "5 mm bullet", "parts__controller__plug": "4 mm bullet"},
        {"parts__pack__plug": "5 mm bullet", "parts__controller__plug": "5 mm bullet"},
        "stop",
        ["5 mm", "4 mm"],
    ),
    "plugs-phase": (
        {"parts__motors__plug": "4 mm bullet", "parts__controller__motor_plug": "5 mm bullet"},
        {},
        "stop",
        ["5 mm"],
    ),
    "plugs-charging": (
        {"parts__charger__plug": "barrel", "parts__pack__charge_plug": "three pin"},
        {},
        "stop",
        ["barrel"],
    ),
    "charging-current": ({"parts__charger__a": 12}, {}, "warn", ["12 A", "8 A"]),
    # cells
    "bricks-differ": (
        {"parts__pack": {**BRICKS, "weakest_brick_ah": 4.2}},
        {"parts__pack": BRICKS},
        "danger",
        ["4.2 Ah", "5 Ah"],
    ),
    "polymer-balance": (
        {"parts__pack": BRICKS},
        {"parts__pack": BRICKS, "parts__charger__balance": True},
        "danger",
        ["10 polymer"],
    ),
    "no-fuse": (
        {"parts__fuse": None, "parts__pack__protection__in_drive_path": False},
        {"parts__fuse": None},
        "warn",
        ["42 V"],
    ),
    "charger-cells": ({"parts__charger__v": 29.4}, {"parts__charger__v": 42}, "stop", ["29.4 V", "7 cells", "42 V"]),
    "trucks-beyond-deck": (
        {"parts__deck__wheelbase_mm": 850},
        {"parts__deck__wheelbase_mm": 700},
        "stop",
        ["850 mm", "880 mm"],
    ),
    "smallest-group": (
        {"parts__pack__cell__origin": "salvaged", "parts__pack__parallel": 1},
        {"parts__pack__cell__origin": "salvaged", "parts__pack__cell__measured": ["capacity_ah"]},
        "note",
        ["10 groups", "Ah"],
    ),
    "pack-worn": ({"parts__pack__health_pct": 68}, {"parts__pack__health_pct": 95}, "warn", ["68 %", "1.96"]),
    "cells-unlabelled": (
        {"parts__pack__cell": {"name": "Cells from the drawer", "size": "18650"}},
        {"parts__pack__cell": {"name": "Cells", "size": "18650", "capacity_ah": 3.0}},
        "note",
        ["2.5 Ah", "5 A"],
    ),
    "capacity-beyond-size": (
        {"parts__pack__cell__capacity_ah": 9.8, "parts__pack__cell__measured": ["capacity_ah"]},
        {"parts__pack__cell__capacity_ah": 3.5},
        "warn",
        ["9.8 Ah", "measured", "3.7 Ah"],
    ),
    "salvaged-unmeasured": (
        {"parts__pack__cell__origin": "salvaged"},
        {"parts__pack__cell__origin": "salvaged", "parts__pack__cell__measured": ["capacity_ah"]},
        "warn",
        ["3 Ah"],
    ),
}


def sound(**changes):
    return spit_runner(**{**SOUND, **changes})


def found_in(build):
    return {f.id: f for f in predict(build, bands=False).findings}


@pytest.mark.parametrize("id", FAULTS)
def test_the_fault_is_found_with_its_numbers_and_its_twin_is_clean(id):
    faulty, twin, severity, numbers = FAULTS[id]
    fault = found_in(sound(**faulty)).get(id)
    assert fault is not None
    assert fault.severity == severity
    for number in numbers:
        assert number in fault.text
    assert id not in found_in(sound(**twin))


@pytest.mark.parametrize("id", FAULTS)
def test_every_choice_that_it_names_fixes_it(id):
    faulty = {**SOUND, **FAULTS[id][0]}
    for fix in found_in(spit_runner(**faulty))[id].fixes:
        cured = found_in(spit_runner(**{**{k.replace("__", "."): v for k, v in faulty.items()}, **fix.changes}))
        assert id not in cured, fix.message.text


def test_most_faults_name_a_fix():
    assert sum(bool(found_in(sound(**fault))[id].fixes) for id, (fault, *_) in FAULTS.items()) > len(FAULTS) / 2


def test_the_sound_board_has_nothing_that_does_not_fit():
    assert not {i for i in found_in(sound()) if i in FAULTS} - {"one-driven-wheel"}


def test_what_is_not_said_is_not_judged():
    """A newcomer's build with the deciding figures alone gets no finding of fit."""
    sparse = {
        "format": "sand-pocket/build",
        "version": 1,
        "rider": {"mass_kg": 75},
        "parts": {
            "wheels": {"diameter_mm": 90},
            "motors": {"count": 1, "kv_rpm_per_v": 170},
            "drive": {"motor_teeth": 16, "wheel_teeth": 40},
            "pack": {"series": 10, "parallel": 3},
        },
    }
    from boardmath.buildfile import read_build

    build = read_build(sparse)
    assert not {f.id for f in findings(build, headlines([build])[0].outcomes, None)} & set(FAULTS)


def test_a_finding_accepted_keeps_its_word_and_goes_to_the_end():
    word = {"finding": "fuse-wire", "reason": "The wire is 200 mm long and in free air.", "day": "2026-05-03"}
    build = sound(parts__fuse__a=80, settings__taper_end_v=25, accepted=[word])
    found = predict(build, bands=False).findings
    assert found[0].id == "cut-off-too-low"
    assert found[-1].id == "fuse-wire"
    assert found[-1].accepted is not None
    assert found[-1].accepted.reason == word["reason"]


# --- fixes that can be carried out ------------------------------------------------------------------------------------

BOXED = {
    "parts__controller": {"units": 1, "programmable": False, "max_motor_current_a": 60, "max_pack_current_a": 60},
    "settings": {},
    "parts__pack__parallel": 1,
    "parts__pack__cell__max_discharge_a": 10,
    "parts__fuse__a": 30,
    "parts__switch": {"kind": "electronic", "max_a": 30},
    "parts__motors__max_current_a": 40,
}


def test_no_fix_sets_what_a_boxed_controller_cannot_be_set_to():
    """Its currents are as they are: more cells, another fuse or switch fix it, a setting does not."""
    found = found_in(sound(**BOXED))
    assert {"cells-current", "fuse-current", "switch-current"} <= set(found)
    for finding in found.values():
        for fix in finding.fixes:
            assert not any(path.startswith("settings.") and path.endswith("_a") for path in fix.changes), finding.id
    for id in ("cells-current", "fuse-current", "switch-current"):
        (fix,) = found[id].fixes
        assert id not in found_in(sound(**{**BOXED, **{k.replace(".", "__"): v for k, v in fix.changes.items()}}))


def test_a_ready_board_without_a_fuse_is_a_danger_and_a_planned_one_is_warned():
    bare_pack = {"parts__fuse": None, "parts__pack__protection": None}
    assert found_in(sound(**bare_pack, stage="riding"))["no-fuse"].severity == "danger"
    assert found_in(sound(**bare_pack))["no-fuse"].severity == "warn"


def test_a_budget_is_not_kept_for_sure_while_parts_have_no_price():
    some = {"parts__deck__price": 90, "currency": "EUR", "parts__extras": None, "brief__budget": 800}
    (money,) = (p for p in predict(spit_runner(**some), bands=False).outcomes if p.name == "money")
    assert money.mid == 90
    assert money.verdict == "uncertain"
    assert "without a price" in money.message.text


def test_cells_that_a_ride_overheats_are_a_danger():
    """A single row of worn cells, ridden fast on a hot day."""
    small = {
        "parts__pack__parallel": 1,
        "parts__pack__cell__resistance_mohm": 70,
        "parts__pack__protection": None,
        "brief__cruise_kmh": 34,
        "brief__temperature_c": 36,
        "brief__rides": "hard",
    }
    assert found_in(sound(**small))["cells-hot"].severity == "danger"
    assert "cells-hot" not in found_in(sound())
