"""Motor detection: what the controller found becomes what the model knows."""

import math

import pytest

from boardmath.physics.motor import kv_from_flux_linkage, torque_constant
from boardmath.predictor import predict
from tests.core.boards import changed, spit_runner

FLUX_OF_170_KV = 1000 * 60 / (2 * math.pi * math.sqrt(3) * 7 * 170)
"""mWb: one volt line to line at 170 rpm of seven pole pairs."""


def detected(*motors, **changes):
    return spit_runner(detected=list(motors), **changes)


def found(build):
    return {f.id: f for f in predict(build, bands=False).findings}


def taken(build, finding):
    from boardmath.buildfile import read_build, write_build

    return read_build(changed(write_build(build), finding.fixes[0].changes))


def test_torque_of_an_ampere_is_three_halves_of_the_linked_flux():
    """Kt = 3/2 p psi for the peak phase current (any text on field-oriented control): two ways to the same torque."""
    for pairs, flux in ((7, 4.63e-3), (14, 9.1e-3), (10, 2.2e-3)):
        assert torque_constant(kv_from_flux_linkage(flux, pairs)) == pytest.approx(1.5 * pairs * flux)


def test_what_fits_is_taken_as_measured_and_narrows_the_bands():
    build = detected({"resistance_mohm": 32, "flux_linkage_mwb": round(FLUX_OF_170_KV, 3)})
    note = found(build)["detected-to-take"]
    after = taken(build, note)
    assert after.parts.motors.kv_rpm_per_v == pytest.approx(170, abs=0.2)
    assert after.parts.motors.measured == ["kv_rpm_per_v", "phase_resistance_mohm"]
    assert "detected-to-take" not in found(after), "once is enough"
    wide, narrow = (predict(b).top_speed_kmh for b in (build, after))
    assert narrow.high - narrow.low < 0.9 * (wide.high - wide.low)


def test_another_winding_is_found_out():
    build = detected({"resistance_mohm": 25, "flux_linkage_mwb": FLUX_OF_170_KV * 170 / 230})
    finding = found(build)["detected-kv"]
    assert "230 rpm/V" in finding.text
    assert taken(build, finding).parts.motors.kv_rpm_per_v == pytest.approx(230, abs=0.2)


@pytest.mark.parametrize(("milliohm", "says"), [(62, "line to line"), (15.5, "line to line"), (95, "joint")])
def test_a_resistance_far_off_says_what_it_may_be(milliohm, says):
    assert says in found(detected({"resistance_mohm": milliohm}))["detected-resistance"].text


def test_two_motors_that_are_not_alike_name_the_weaker():
    good = {"resistance_mohm": 31, "flux_linkage_mwb": FLUX_OF_170_KV}
    weak = {"resistance_mohm": 31, "flux_linkage_mwb": FLUX_OF_170_KV * 0.8}
    ids = found(detected(good, weak, parts__motors__count=2))
    assert "Motor 2 is the weaker" in ids["motors-unalike-flux-linkage"].text
    assert not {i for i in found(detected(good, good, parts__motors__count=2)) if i.startswith("motors-unalike")}


def test_without_a_detection_nothing_is_said():
    assert not {i for i in found(spit_runner()) if i.startswith(("detected", "motors-unalike"))}
