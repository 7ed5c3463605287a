"""Bad files: each fault named with its field and reason, and nothing half read."""

import json

import pytest

from boardmath.buildfile import BuildFileError, read_build, write_build
from boardmath.buildfile.migration import VERSION, upgrade_path
from boardmath.buildfile.reading import LARGEST_FILE, MOST_FAULTS
from boardmath.units import QUANTITIES, to_build_file, unit_table
from tests.core.boards import SPIT_RUNNER, changed


def _faults(data) -> dict[str, str]:
    with pytest.raises(BuildFileError) as refused:
        read_build(data)
    return {f.field: f.reason for f in refused.value.faults}


@pytest.mark.parametrize(
    ("path", "value", "says"),
    [
        ("parts.wheels.diameter_mm", 0.09, "was it given in metres?"),
        ("parts.wheels.diameter_mm", "ninety", 'must be a number, not "ninety"'),
        ("parts.wheels.diameter_mm", True, "must be a number"),
        ("parts.drive.motor_teeth", 0, "0 is outside 5 to 80"),
        ("parts.drive.motor_teeth", 14.5, "a whole number"),
        ("parts.deck.mass_g", -3, "-3 g is outside 0 to 60000 g"),
        ("parts.pack.series", 40, "40 is outside 1 to 24"),
        ("parts.pack.cell.capacity_ah", 3000, "was it given in milliampere hours?"),
        ("parts.pack.cell.chemistry", "unobtainium", "'nmc'"),
        ("rider.mass_kg", None, "missing"),
        ("rider.height_m", 176, "was it given in centimetres?"),
        ("parts.motors.kv_rpm_pre_v", 170, "the nearest known one is kv_rpm_per_v"),
        ("settings.motor_amps", 50, "unknown key"),
        ("currency", "euros", "three capital letters"),
        ("name", "x" * 500, "at most 120 characters"),
        ("parts.deck", [], "an object in braces"),
    ],
)
def test_a_fault_is_named_with_its_field(path, value, says):
    faults = _faults(changed(SPIT_RUNNER, {path: value}))
    assert set(faults) == {path}
    assert says in faults[path]


def test_all_faults_are_named_at_once():
    broken = changed(SPIT_RUNNER, {"parts.wheels.width_mm": -1, "brief.range_km": "far", "parts.pack.parallel": 0})
    assert set(_faults(broken)) == {"parts.wheels.width_mm", "brief.range_km", "parts.pack.parallel"}


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "not JSON"),
        ("{", "not JSON"),
        ("[1, 2]", "one JSON object"),
        ('{"rider": {"mass_kg": NaN}}', "NaN"),
        ('{"rider": {"mass_kg": 1e999}}', "format"),
        ('{"a": 1, "a": 2}', "twice"),
        ('{"a":' * 100_000, "nested"),
        ("9" * 5000, "not JSON|digits|object"),
        (b"\xff\xfe{}", "UTF-8"),
        (" " * (LARGEST_FILE + 1), "at most"),
    ],
)
def test_what_is_no_build_file_is_refused(text, says):
    with pytest.raises(BuildFileError, match=says):
        read_build(text)


def test_infinity_is_no_mass():
    text = json.dumps(SPIT_RUNNER).replace('"mass_kg": 74', '"mass_kg": 1e999')
    with pytest.raises(BuildFileError, match=r"rider\.mass_kg"):
        read_build(text)


def test_a_newer_file_is_refused_with_that_word():
    assert "newer" in _faults({**SPIT_RUNNER, "version": VERSION + 1})["version"]


def test_a_file_of_the_first_version_is_read_under_todays_names():
    first = {
        **SPIT_RUNNER,
        "version": 1,
        "set_aside": [{"finding": "tap-wrong", "word": "read twice", "said": "Lead 3 shows 7 V.", "day": "2026-05-01"}],
        "packwork": {"taps": {"readings": [0.0, 3.7]}, "plan": {"halves": True}},
        "upkeep": {"km_before": 12.0},
        "came_to": {"hours": 30.0},
        "ready_made": {"promises": "with a rider of 70 kg"},
    }
    before = json.dumps(first)
    build = read_build(first)
    assert json.dumps(first) == before
    (accepted,) = build.accepted
    assert (accepted.finding, accepted.reason, accepted.text) == ("lead-wrong", "read twice", "Lead 3 shows 7 V.")
    assert build.pack_assembly.balance_leads.readings == [0.0, 3.7]
    assert build.pack_assembly.plan.halves
    assert build.maintenance.km_before == 12.0
    assert build.review.hours == 30.0
    assert build.ready_made.claims == "with a rider of 70 kg"
    assert read_build(write_build(build)) == build
    assert upgrade_path("packwork.taps.readings") == "pack_assembly.balance_leads.readings"
    assert upgrade_path("set_aside.0.word") == "accepted.0.reason"
    assert upgrade_path("parts.drive.wheel_teeth") == "parts.drive.wheel_teeth"


def test_of_a_file_with_thousands_of_faults_the_first_are_told_and_how_many_more_there_are():
    """Each unknown key is looked for among the known ones: so many that nobody reads them would take seconds."""
    with pytest.raises(BuildFileError) as told:
        read_build({**SPIT_RUNNER, **{f"key{i}": 1 for i in range(30_000)}, "k" * 100_000: 1})
    assert len(told.value.faults) == MOST_FAULTS + 1
    assert told.value.faults[-1].reason == "and 29,981 more faults; mend these first"


@pytest.mark.parametrize("broken", ["x", [3], [{"finding": ["tap-wrong"]}], {"finding": 1}, None])
def test_a_broken_file_of_the_first_version_is_a_fault_and_no_crash(broken):
    if broken is None:
        assert read_build({**SPIT_RUNNER, "version": 1, "set_aside": None}).accepted is None
    else:
        assert any(
            field.startswith("accepted") for field in _faults({**SPIT_RUNNER, "version": 1, "set_aside": broken})
        )


def test_both_names_of_one_field_are_a_fault_and_nothing_is_lost_in_silence():
    both = {**SPIT_RUNNER, "version": 1, "packwork": {}, "pack_assembly": {"plan": {"halves": True}}}
    assert "unknown key" in _faults(both)["packwork"]


def test_the_names_of_the_first_version_are_unknown_in_the_second():
    assert "unknown key" in _faults({**SPIT_RUNNER, "version": VERSION, "packwork": {}})["packwork"]


def test_another_programs_file_is_refused():
    assert "format" in _faults({**SPIT_RUNNER, "format": "something/else"})


def test_a_fault_never_repeats_a_megabyte():
    reason = _faults(changed(SPIT_RUNNER, {"brief.range_km": "x" * 100_000}))["brief.range_km"]
    assert len(reason) < 200


def test_the_contracts_example_is_read():
    assert read_build(json.dumps(SPIT_RUNNER)).parts.pack.series == 10


@pytest.mark.parametrize(
    ("quantity", "value", "unit", "kept"),
    [
        ("length", 3.5, "in", 88.9),
        ("speed", 22, "mph", 35.405568),
        ("body_mass", 160, "lb", 72.57478),
        ("grade", 45, "°", 100.0),
        ("temperature", 50, "°F", 10.0),
        ("distance", 10, "mi", 16.09344),
        ("charge", 3000, "mah", 3.0),
    ],
)
def test_what_people_write_becomes_what_the_file_keeps(quantity, value, unit, kept):
    """Exact by international definition: inch, mile, pound (NIST SP 811)."""
    assert to_build_file(quantity, value, unit) == pytest.approx(kept, rel=1e-6)


def test_the_interface_gets_the_same_conversions():
    for name, quantity in unit_table().items():
        for unit, how in quantity["typed"].items():
            if how["form"] == "linear":
                assert 7.0 * how["factor"] + how["offset"] == pytest.approx(to_build_file(name, 7.0, unit), rel=1e-9)
        assert QUANTITIES[name].unit == quantity["unit"]
