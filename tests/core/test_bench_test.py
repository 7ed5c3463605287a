"""The bench test: what passes on the stand, what does not, and what is said of it."""

from typing import Any

import pytest

from boardmath.buildfile import Build, check
from boardmath.buildfile.bench_test import BenchTest, EndPoints
from boardmath.prediction.unloaded import on_the_stand
from planner.bench_test import BenchTestReport, Step, report_on, run_figure
from tests.core.boards import any_builds, bare, spit_runner

PACK_V = 40.0
TWO = {"parts__motors__count": 2, "parts__drive__driven_wheels": 2}


def as_predicted(build: Build, **other: Any) -> dict[str, Any]:
    """What someone enters whose board does just what was promised; ``other`` takes dotted paths."""
    told = on_the_stand(build, PACK_V)
    motor = {"forward": True, "backward": True, "erpm": told.erpm.mid, "current_a": told.motor_current_a.mid}
    entered = {
        "wheels_free": True,
        "polarity_right": True,
        "pack_v": PACK_V,
        "still": True,
        "brakes": True,
        "motors": [dict(motor) for _ in range(build.parts.motors.count or 1)],
        "pack_current_a": told.pack_current_a.mid,
        "lost_link": "lets_go",
        "lost_after_s": 0.3,
        "cut_off_begins_v": 34.0,
        "cut_off_ends_v": 31.0,
        "sound": True,
    }
    for path, value in other.items():
        node: Any = entered
        *way, last = path.split("__")
        for step in way:
            node = node[int(step)] if isinstance(node, list) else node.setdefault(step, {})
        if value is None:
            node.pop(last)
        else:
            node[last] = value
    return entered


def put_up(build: Build, **other: Any) -> BenchTestReport:
    return report_on(build, check(BenchTest, as_predicted(build, **other)))


def step(report: BenchTestReport, key: str) -> Step:
    return next(s for s in report.steps if s.key == key)


@pytest.mark.parametrize("changes", [{}, TWO])
def test_a_board_that_does_what_was_promised_passes_and_nothing_is_promised_of_the_road(changes):
    report = put_up(spit_runner(**changes))
    assert {s.verdict for s in report.steps} == {"passes"}
    assert (report.standing, report.next) == ("passes", None)
    assert "does not show how it rides" in report.last_word.text
    assert not any("safe" in s.do.text or (s.said and "safe" in s.said.text) for s in report.steps)


def test_nothing_comes_before_the_wheels_are_in_the_air():
    empty = report_on(spit_runner(), BenchTest())
    assert (empty.standing, empty.next, empty.steps[0].key) == ("not begun", "wheels_free", "wheels_free")
    rest_done = put_up(spit_runner(), wheels_free=None)
    assert (rest_done.standing, rest_done.next) == ("under way", "wheels_free")
    on_the_floor = put_up(spit_runner(), wheels_free=False)
    assert (on_the_floor.standing, on_the_floor.next) == ("fails", "wheels_free")


@pytest.mark.parametrize(
    ("volts", "verdict", "word"),
    [
        (40.0, "passes", "4 V a cell"),
        (42.1, "passes", "a cell"),  # a meter may read half a per cent high
        (27.0, "fails", "have 28 V to 42 V"),
        (20.5, "fails", "looks like 6 cells"),
        (50.4, "fails", "looks like 14 cells"),
    ],
)
def test_the_packs_voltage_is_that_of_its_cells(volts, verdict, word):
    found = step(put_up(spit_runner(parts__pack__charge_to_v=4.2), pack_v=volts), "pack_voltage")
    assert found.verdict == verdict
    assert word in f"{found.said.text} {found.remedy.text if found.remedy else ''}"


@pytest.mark.parametrize("wrong", [{"wheels_free": False}, {"polarity_right": False}, {"pack_v": 20.0}])
def test_what_fails_before_the_plug_goes_in_holds_up_everything(wrong):
    report = put_up(spit_runner(), **wrong, sound=None)
    assert report.held == report.next == next(s.key for s in report.steps if s.verdict == "fails")
    assert put_up(spit_runner(), brakes=False, sound=None).held is None, "other steps can still be looked at"


def test_a_pack_of_another_voltage_says_nothing_of_the_motors():
    report = put_up(spit_runner(), pack_v=20.5)
    assert step(report, "free_speed").said.text.startswith("Cannot be compared")
    assert step(report, "free_speed").verdict == step(report, "free_current").verdict == "open"


@pytest.mark.parametrize(("apart", "verdict"), [(0.01, "passes"), (0.08, "unsure"), (0.4, "fails")])
def test_cells_far_apart_are_balanced_first(apart, verdict):
    report = put_up(spit_runner(), lowest_cell_v=4.0 - apart, highest_cell_v=4.0)
    assert step(report, "pack_voltage").verdict == verdict


@pytest.mark.parametrize(
    ("points", "verdict", "word"),
    [
        ((1.0, 1.5, 2.0), "passes", "0.5 ms"),
        ((1.0, 1.9, 2.0), "fails", "part of the throttle's travel"),
        ((2.0, 1.5, 1.0), "fails", "wrong way round"),
    ],
)
def test_full_brake_middle_and_full_throttle_follow_each_other(points, verdict, word):
    low, middle, high = points
    found = step(put_up(spit_runner(), low_ms=low, middle_ms=middle, high_ms=high), "thumb")
    assert found.verdict == verdict
    assert word in f"{found.said.text} {found.remedy.text if found.remedy else ''}"
    assert step(put_up(spit_runner(), still=False), "thumb").verdict == "fails", "a board that creeps"


def test_one_wheel_against_the_other_is_named():
    found = step(put_up(spit_runner(**TWO), motors__1__forward=False), "directions")
    assert (found.verdict, found.grave) == ("fails", True)
    assert found.remedy.text.startswith("Motor 2: swap any two")
    assert "throws the rider" in found.remedy.text


@pytest.mark.parametrize(
    ("share", "verdict", "word"),
    [
        (0.99, "passes", ""),
        (0.95, "unsure", "Motor 2 is the slower one, and further"),
        (0.8, "fails", "Motor 2"),
        (0.0, "fails", "does not turn"),
    ],
)
def test_two_motors_of_a_kind_run_alike(share, verdict, word):
    build = spit_runner(**TWO)
    report = put_up(build, motors__1__erpm=on_the_stand(build, PACK_V).erpm.mid * share)
    assert step(report, "alike").verdict == verdict
    assert word in (step(report, "alike").remedy.text if step(report, "alike").remedy else "")


def test_of_two_unlike_motors_the_one_far_from_the_prediction_is_the_odd_one():
    """A motor with weak magnets runs faster than its sister: the fast one is looked at, and its speed is that of more KV."""
    build = spit_runner(**TWO)
    report = put_up(build, motors__1__erpm=1.2 * on_the_stand(build, PACK_V).erpm.mid)
    assert step(report, "alike").remedy.text.startswith("Motor 2 is the faster one")
    assert step(report, "free_speed").verdict == "fails"
    assert step(report, "free_speed").remedy.values["kv"].value == pytest.approx(1.2 * 170, rel=0.05)


def test_a_motor_that_takes_twice_the_current_at_the_same_speed_rubs():
    build = spit_runner(**TWO)
    current = on_the_stand(build, PACK_V).motor_current_a.mid
    found = step(put_up(build, motors__0__current_a=2.0 * current), "alike")
    assert (found.verdict, found.remedy.text[:7]) == ("fails", "Motor 1")


def test_a_speed_of_another_winding_names_that_winding():
    """140 rpm/V in place of 170: its speed is predicted by the same physics, and read back to about its own KV."""
    other = on_the_stand(spit_runner(parts__motors__kv_rpm_per_v=140), PACK_V)
    found = step(put_up(spit_runner(), motors__0__erpm=other.erpm.mid), "free_speed")
    assert found.verdict == "fails"
    assert found.remedy.values["kv"].value == pytest.approx(140, rel=0.05)
    assert found.remedy.text.startswith("Too slow")


def test_a_speed_that_the_sheet_caps_is_not_blamed_on_the_winding():
    capped = spit_runner(settings__max_erpm=20000)
    assert step(put_up(capped), "free_speed").verdict == "passes"
    found = step(put_up(capped, motors__0__erpm=40000.0), "free_speed")
    assert "the speed cap in the prediction does not work" in found.remedy.text
    assert "kv" not in found.remedy.values


def test_a_tachometer_at_the_wheel_does_as_well_as_the_controller():
    build = spit_runner()
    turns = on_the_stand(build, PACK_V).wheel_rpm.mid
    # By hand: 40 V x 170 rpm/V, 15 : 42, at most 95 % of it, less what the drag takes.
    assert 0.9 * 40.0 * 170 * 0.95 * 15 / 42 < turns < 40.0 * 170 * 0.95 * 15 / 42
    assert step(put_up(build, motors__0__erpm=None, motors__0__wheel_rpm=turns), "free_speed").verdict == "passes"
    assert step(put_up(build, motors__0__erpm=None, motors__0__wheel_rpm=0.8 * turns), "free_speed").verdict == "fails"


@pytest.mark.parametrize(("times", "verdict"), [(1.0, "passes"), (2.0, "unsure"), (6.0, "fails"), (0.1, "unsure")])
def test_a_free_running_current_tells_of_what_rubs(times, verdict):
    build = spit_runner()
    band = on_the_stand(build, PACK_V).pack_current_a
    found = step(put_up(build, pack_current_a=times * (band.high if times > 1 else band.low)), "free_current")
    assert found.verdict == verdict


def test_a_brake_that_does_not_stop_the_wheels_is_not_ridden():
    assert "Do not ride" in step(put_up(spit_runner(), brakes=False), "brake").remedy.text
    assert step(put_up(spit_runner(), stopped_in_s=0.8), "brake").verdict == "passes"
    assert step(put_up(spit_runner(), stopped_in_s=8.0), "brake").verdict == "unsure"


@pytest.mark.parametrize(
    ("does", "after", "set_to", "verdict"),
    [
        ("lets_go", 0.3, None, "passes"),
        ("lets_go", 1.5, None, "unsure"),
        ("lets_go", 4.0, None, "fails"),
        ("keeps_running", 0.3, None, "fails"),
        ("brakes_gently", 0.3, "release", "unsure"),
        ("brakes_gently", 0.3, "brake_gently", "passes"),
    ],
)
def test_without_its_remote_a_board_lets_go_within_a_second(does, after, set_to, verdict):
    build = spit_runner(settings__fail_safe=set_to)
    assert step(put_up(build, lost_link=does, lost_after_s=after), "lost_link").verdict == verdict


def test_the_cut_off_of_the_wizards_five_cells_fails_on_ten():
    """Five cells at 3.1 V each: a cut-off at 15.5 V that ten cells reach ruined (common practice, no source)."""
    found = step(put_up(spit_runner(), cut_off_begins_v=17.0, cut_off_ends_v=15.5), "cut_off")
    assert found.verdict == "fails"
    assert "a cut-off for about 5" in found.remedy.text
    assert "empty at 28 V" in found.remedy.text
    assert step(put_up(spit_runner(), cut_off_ends_v=33.5), "cut_off").verdict == "unsure", "range is left unused"


def test_what_could_not_be_done_is_left_out_with_a_word_and_is_no_pass():
    report = put_up(spit_runner(), cut_off_ends_v=None, left_out={"cut_off": "no bench supply {here}"})
    assert step(report, "cut_off").said.text == "Left out: no bench supply {here}"
    assert report.standing == "unsure"
    # What was measured after all counts before the word; what can hurt is not left out with a word.
    assert put_up(spit_runner(), left_out={"cut_off": "no supply"}).standing == "passes"
    assert put_up(spit_runner(), brakes=None, left_out={"brake": "in a hurry"}).standing == "under way"


def test_every_failing_step_says_what_to_do():
    """Over what can go wrong one by one: a verdict that is no pass comes with a remedy, and the whole test fails with it."""
    wrong = [
        {"wheels_free": False},
        {"polarity_right": False},
        {"pack_v": 20.0},
        {"still": False},
        {"motors__0__forward": False},
        {"motors__0__erpm": 9e4},
        {"pack_current_a": 60.0},
        {"brakes": False},
        {"lost_link": "keeps_running"},
        {"cut_off_ends_v": 20.0},
        {"sound": False},
    ]
    for one in wrong:
        report = put_up(spit_runner(), **one)
        failing = [s for s in report.steps if s.verdict == "fails"]
        assert len(failing) == 1, one
        assert failing[0].remedy is not None, one
        assert report.standing == "fails", one


def test_any_build_can_be_put_on_the_stand():
    """Unfinished and odd builds too: every step is judged, none raises, and none passes before anything was looked at."""
    boxed = spit_runner(parts__controller__programmable=False)
    hub = spit_runner(parts__drive={"kind": "hub"}, parts__motors__kind="hub", parts__motors__kv_rpm_per_v=75)
    for build in (bare(), boxed, hub, *any_builds(40)):
        report = report_on(build, BenchTest())
        assert {s.verdict for s in report.steps} == {"open"}
        assert len({s.key for s in report.steps}) == len(report.steps)
        filled = report_on(build, check(BenchTest, {"pack_v": 30.0, "motors": [{"erpm": 3e4}], "cut_off_ends_v": 20.0}))
        assert filled.standing not in ("passes", "unsure")


def test_what_an_unfinished_board_is_not_asked_yet_is_said_with_what_it_waits_for():
    for lacking, later, reason in (
        ({"parts__pack": None}, ("pack's voltage", "cut-off", "wheels free"), "choose a pack"),
        ({"parts__wheels": None}, ("wheels free",), "choose wheels"),
    ):
        said = report_on(spit_runner(**lacking), BenchTest()).waits
        assert reason in said.text
        assert all(word in said.text for word in later)
    assert report_on(spit_runner(), BenchTest()).waits is None


@pytest.mark.parametrize(
    ("high", "verdict"), [(2.0, "passes"), (2.04, "passes"), (1.9, "unsure"), (2.1, "unsure"), (None, "passes")]
)
def test_end_points_that_are_not_those_of_the_sheet_are_odd(high, verdict):
    noted = EndPoints(low_ms=1.0, middle_ms=1.5, high_ms=2.0)
    entered = check(BenchTest, {"still": True, "low_ms": 1.0, "middle_ms": 1.5, "high_ms": high})
    thumb = step(report_on(spit_runner(), entered, noted), "thumb")
    assert thumb.verdict == verdict
    assert (verdict == "unsure") == (thumb.said is not None and "the settings record has 2 ms" in thumb.said.text)
    assert step(report_on(spit_runner(), entered), "thumb").verdict == "passes", (
        "with no settings record there is nothing to differ from"
    )


def test_a_board_that_is_not_known_far_enough_cannot_pass():
    ticks = dict.fromkeys(("wheels_free", "polarity_right", "still", "brakes", "sound"), True)
    entered = {**ticks, "motors": [{"forward": True}], "lost_link": "lets_go"}
    report = report_on(bare(), check(BenchTest, entered))
    assert {s.verdict for s in report.steps} == {"passes"}
    assert report.standing == "unsure"


def test_a_cap_is_predicted_to_the_digit_and_volts_as_a_band():
    capped, free = spit_runner(settings__speed_cap_kmh=20), spit_runner()
    for build, banded in ((capped, False), (free, True)):
        told = on_the_stand(build, PACK_V).erpm
        assert (told.high - told.low > 1.0) == banded
        said = step(put_up(build), "free_speed").said
        assert (" to " in said.text) == banded
        figure = run_figure([0.0, 1.0], [[0.0, told.mid]], told)
        assert (" to " in figure.text) == banded


def test_a_hub_motor_is_compared_without_a_gear():
    hub = spit_runner(parts__drive={"kind": "hub"}, parts__motors__kind="hub", parts__motors__kv_rpm_per_v=75)
    told = on_the_stand(hub, PACK_V)
    assert told.erpm.mid == pytest.approx(told.wheel_rpm.mid * 7, rel=1e-6)
    assert put_up(hub).standing == "passes"
