"""What the simulated controller shows agrees with the prediction, and what is wrong with its board is found."""

import time

import pytest
from scipy.optimize import brentq

from boardmath.buildfile.settings import Detected
from boardmath.checks.detection import detected_kv, halls_of_a_motor, measured_figures
from boardmath.model.resolution import resolve
from boardmath.prediction.unloaded import STAND_C, on_the_stand
from boardmath.predictor import predict
from controller import running, writing
from controller.link import Stopped
from controller.simulator import serving
from controller.simulator.board import BOARD_FAULTS, HALL_ORDER
from controller.simulator.fault_injection import FaultInjection
from tests.controller.linked import on_the_bench
from tests.core.boards import spit_runner
from tests.core.scalar_model import ScalarBoard

TWO = {"parts__motors__count": 2, "parts__drive__driven_wheels": 2}
SET = {
    "motor_current_a": 50.0,
    "motor_brake_a": 40.0,
    "pack_current_a": 35.0,
    "pack_regen_a": 8.0,
    "taper_start_v": 34.0,
    "taper_end_v": 31.0,
    "max_erpm": 55000.0,
    "max_duty_pct": 95.0,
    "cells_in_series": 10,
    "sensor_mode": "hall",
}


def steady_scalar(build, charge: float) -> tuple[float, float]:
    """Wheel speed in the air (m/s) and motor current (A), once more with plain SciPy."""
    b = ScalarBoard(resolve(build))
    b.R = b.R25 * (1 + 0.00393 * (STAND_C - 25))
    voc, r = b.open_circuit(charge), b.cells(charge, b.kelvin) + b.r_path

    def volts_left(speed: float) -> float:
        found = b.electric(speed, b.drag, voc, r)
        return b.duty * found["bus"] - found["volts"]

    speed = brentq(volts_left, 0.0, 60.0, xtol=1e-9)
    return speed, b.electric(speed, b.drag, voc, r)["iq"]


@pytest.mark.parametrize("changes", [{}, TWO, {"parts__motors__kv_rpm_per_v": 90, "parts__wheels__diameter_mm": 150}])
def test_the_run_in_the_air_is_that_of_plain_arithmetic(changes):
    build = spit_runner(**changes)
    found = on_the_stand(build)
    speed, current = steady_scalar(build, resolve(build).fixed["charge_full"])
    turns = speed / resolve(build).inputs["wheel_radius"].value * 1000 * 60 / 6.283185307
    assert found.wheel_rpm.mid == pytest.approx(turns, rel=1e-4)
    assert found.motor_current_a.mid == pytest.approx(current, rel=1e-4)
    # Bare arithmetic knows no drag: the wheels spin a little slower than it says, and never faster.
    bare = predict(build, bands=False).unloaded_speed_kmh / 3.6
    assert 0.9 * bare < speed < bare


@pytest.mark.parametrize("over", ["tcp", "pty"])
def test_an_exact_device_shows_just_what_is_predicted(tmp_path, over):
    build = spit_runner(**TWO)
    with on_the_bench(build, over, tmp_path, exact=True) as (link, _):
        assert writing.write(link, SET).verdict == "as wanted"
        volts = link.ask("hello")["pack_v"]
        link.ask("run", seconds=2.0)
        frames = list(link.told(20))
    spun = [f for f in frames if f["phase"] == "spin"]
    found = on_the_stand(build, volts)
    assert len(spun[-1]["motors"]) == 2
    for motor in spun[-1]["motors"]:
        assert motor["erpm"] == pytest.approx(found.erpm.mid, rel=1e-3)
        assert motor["current_a"] == pytest.approx(found.motor_current_a.mid, rel=2e-2)
    assert spun[-1]["pack_a"] == pytest.approx(found.pack_current_a.mid, rel=2e-2)
    assert frames[-1]["motors"][0]["erpm"] == 0.0, "and it is braked to a stop"
    assert min(f["pack_a"] for f in frames) < 0.0, "braking gives something back"


def test_a_device_with_its_own_truth_stays_within_the_bands(tmp_path):
    build = spit_runner(**TWO)
    with on_the_bench(build, "tcp", tmp_path) as (link, _):
        writing.write(link, SET)
        found = on_the_stand(build, link.ask("hello")["pack_v"])
        link.ask("run", seconds=2.0)
        last = [f for f in link.told(20) if f["phase"] == "spin"][-1]
    for motor in last["motors"]:
        assert 0.97 * found.erpm.low < motor["erpm"] < 1.03 * found.erpm.high


def test_a_hub_at_its_speed_cap_is_braked_to_a_stop_too(tmp_path):
    """Nothing but the motor holds a hub's wheel back, and at the cap the controller has to brake all the same."""
    hub = spit_runner(parts__drive={"kind": "hub"}, parts__motors__kind="hub", parts__motors__kv_rpm_per_v=75)
    with on_the_bench(hub, "tcp", tmp_path) as (link, _):
        writing.write(link, {**SET, "max_erpm": 10000.0})
        run = running.spin(link, 2.0)
    assert run["steady"]["motors"][0]["erpm"] == pytest.approx(10000, rel=0.01)
    assert 0.0 < run["stopped_in_s"] < 2.0


@pytest.mark.parametrize("over", ["tcp", "pty"])
def test_a_run_that_is_stopped_leaves_no_motor_running(tmp_path, over):
    with on_the_bench(spit_runner(), over, tmp_path) as (link, device):
        heard = []
        link.stopped = lambda: len(heard) >= 5
        with pytest.raises(Stopped):
            running.spin(link, 15.0, heard.append)
        assert device.frames is None
        # Nor does one whose cable is pulled.
        link.stopped = lambda: False
        link.ask("run", seconds=15.0)
        assert next(link.told(5.0))["phase"] == "spin"
        link.close()
        if over == "tcp":  # a serial cable's end cannot be told from silence
            until = time.monotonic() + 5.0
            while device.frames is not None and time.monotonic() < until:
                time.sleep(0.02)
            assert device.frames is None


def test_a_run_says_what_it_reached_and_how_soon_it_stood(tmp_path):
    with on_the_bench(spit_runner(), "tcp", tmp_path, exact=True) as (link, _):
        writing.write(link, SET)
        run = running.spin(link, 2.0)
    assert run["steady"]["motors"][0]["erpm"] == pytest.approx(
        on_the_stand(spit_runner(), run["rest_v"]).erpm.mid, rel=1e-3
    )
    assert run["trace"][0]["t"] < 0.1
    assert 0.1 < run["stopped_in_s"] < 3.0


def test_while_a_slow_answer_is_waited_for_somebody_can_stop_it(tmp_path, monkeypatch):
    monkeypatch.setattr(serving, "LATE_S", 3.0)
    with on_the_bench(spit_runner(), "tcp", tmp_path) as (link, device):
        device.injected = [FaultInjection("late", "detect")]
        asked = []
        link.stopped = lambda: bool(asked.append(time.monotonic())) or len(asked) > 3
        with pytest.raises(Stopped):
            link.ask("detect", wait=30.0, motor=0)
        assert asked[-1] - asked[0] < 2.0


def test_what_is_set_acts_in_the_run(tmp_path):
    build = spit_runner()
    with on_the_bench(build, "tcp", tmp_path, exact=True) as (link, _):
        writing.write(link, {**SET, "max_duty_pct": 50.0})
        link.ask("run", seconds=2.0)
        half = [f for f in link.told(20) if f["phase"] == "spin"][-1]["motors"][0]["erpm"]
        writing.write(link, {"max_duty_pct": 95.0, "max_erpm": 20000.0})
        link.ask("run", seconds=2.0)
        capped = [f for f in link.told(20) if f["phase"] == "spin"][-1]["motors"][0]["erpm"]
    assert half == pytest.approx(on_the_stand(build, 40.8).erpm.mid * 50 / 95, rel=0.02)
    assert capped == pytest.approx(20000, rel=1e-3)


def detected(link, motors=2) -> list[Detected]:
    return [Detected(**link.ask("detect", motor=m)["found"]) for m in range(motors)]


def test_detection_becomes_measured_figures_and_narrows_the_bands(tmp_path):
    build = spit_runner()
    with on_the_bench(build, "tcp", tmp_path) as (link, device):
        found = detected(link, 1)
        true = float(device.board.engine({}).kv[0]) / (2 * 3.14159265 / 60)
    assert detected_kv(build, found[0]) == pytest.approx(true, rel=0.015)
    taken = measured_figures(build.model_copy(update={"detected": found}))
    motors = build.parts.motors.model_copy(update={k.rsplit(".", 1)[1]: v for k, v in taken.items()})
    surer = build.model_copy(update={"parts": build.parts.model_copy(update={"motors": motors}), "detected": found})
    before, after = (predict(b).top_speed_kmh for b in (build, surer))
    assert after.high - after.low < before.high - before.low


@pytest.mark.parametrize("fault", [None, *BOARD_FAULTS])
def test_what_is_wrong_with_the_board_is_found(tmp_path, fault):
    build = spit_runner(**TWO, settings__directions="mirrored", settings__sensor_mode="hall")
    with on_the_bench(build, "tcp", tmp_path) as (link, _):
        writing.write(link, SET)
        link.ask("pretend", board=[fault] if fault else [])
        found = detected(link)
        link.ask("run", seconds=2.0)
        last = [f for f in link.told(20) if f["phase"] == "spin"][-1]
    said = {f.id for f in predict(build.model_copy(update={"detected": found}), bands=False).findings}
    assert ("detected-halls-2" in said) == (fault == "hall_wire")
    assert ("detected-turned-2" in said) == (fault == "swapped_phase")
    assert ("motors-unalike-flux-linkage" in said) == (fault == "weak_motor")
    erpm = [m["erpm"] for m in last["motors"]]
    assert (erpm[1] < 500) == (fault == "hall_wire")
    assert (erpm[1] > 1.1 * erpm[0]) == (fault == "weak_motor"), "less flux: more speed for the volts, less torque"
    sags = on_the_stand(build, 40.8).pack_v - last["pack_v"]
    assert (sags > 1.5) == (fault == "sagging_pack")


def test_only_a_gray_code_of_six_states_is_a_motors():
    assert halls_of_a_motor(list(HALL_ORDER))
    assert halls_of_a_motor(list(reversed(HALL_ORDER)))
    for wrong in ([1, 2, 3, 4, 5, 6], [1, 3, 2, 2, 0, 1], [0, 1, 3, 7, 6, 4], [1, 3, 2, 6, 4], []):
        assert not halls_of_a_motor(wrong)


def test_left_over_cells_move_the_cut_off(tmp_path):
    with on_the_bench(spit_runner(), "tcp", tmp_path, exact=True) as (link, _):
        assert link.ask("cut_off")["ends_v"] == pytest.approx(5 * 3.1)
        writing.write(link, {"cells_in_series": 10})
        assert link.ask("cut_off")["ends_v"] == pytest.approx(10 * 3.1)
