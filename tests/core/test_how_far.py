"""What is left at a reading of the meter: as much as an independent model rides, with the chances that are told."""

import numpy as np
import pytest

from boardmath.buildfile import read_build
from boardmath.model.evaluation import Evaluation
from boardmath.model.resolution import Incomplete
from planner.rides.how_far import CHANCES, how_far
from tests.core.boards import SPIT_RUNNER, changed
from tests.core.test_ride_calibration import a_day, drawn


@pytest.fixture(scope="module")
def build():
    return read_build(SPIT_RUNNER)


@pytest.fixture(scope="module")
def found(build):
    return how_far(build)


def table(found, by, rested=True):
    return next(t for t in found.tables if (t.by, t.rested) == (by, rested))


def reached(found, volts, by="meter", pace=0):
    """The km of each chance at a reading, between the two rows next to it."""
    rows = table(found, by).rows
    each = [np.interp(volts, [r.volts for r in rows], [r.paces[pace].km[i] for r in rows]) for i in range(len(CHANCES))]
    return np.array(each)


def test_as_many_boards_come_so_far_as_is_told(build, found):
    """Boards, riders and days from the priors, ridden by the independent model from what a meter reads with its errors."""
    resolved, chance, came = Evaluation(build, 0).resolved, np.random.default_rng(3), []
    for _ in range(200):
        lasting = drawn(chance)
        truth = a_day(lasting, resolved, chance, usual=False)
        charge = float(chance.uniform(0.35, 0.9))
        off = {name: resolved.inputs[name].spread * lasting[name] for name in ("cell_curve", "meter_offset")}
        wrong = truth.s * off["cell_curve"] + off["meter_offset"] + 0.03 * chance.standard_normal()
        read = truth.open_circuit(charge) + wrong
        truth.q0, truth.q1 = charge, 0.0
        came.append(truth.ride(slices=0.34, rtol=2e-2)["to_the_end"] / 1000.0 >= reached(found, read))
    # Two deviations of a share of 200.
    assert np.mean(came, axis=0) == pytest.approx(np.array(CHANCES), abs=0.07)


def test_more_volts_go_farther_and_so_does_a_slower_pace(found):
    for one in found.tables:
        kilometres = np.array([[p.km for p in row.paces] for row in one.rows])
        assert (np.diff(kilometres, axis=0) >= -0.11).all(), "more volts"
        assert (np.diff(kilometres, axis=1) >= -0.11).all(), "a slower pace"
        assert (np.diff(kilometres, axis=2) >= 0.0).all(), "a smaller chance"
        assert kilometres[0].max() < 1.0, "in the last row hardly anything is left"


def test_a_gauge_tells_less_than_a_meter_and_a_pack_just_ridden_reads_low(found):
    volts = table(found, "meter").rows[len(table(found, "meter").rows) // 2].volts
    meter, gauge = (next(r.charge for r in table(found, by).rows if r.volts == volts) for by in ("meter", "gauge"))
    assert gauge.high - gauge.low > 1.5 * (meter.high - meter.low)
    rested = {r.volts: r.charge.mid for r in table(found, "meter").rows}
    just = {r.volts: r.charge.mid for r in table(found, "meter", rested=False).rows}
    assert all(just[v] >= rested[v] for v in rested.keys() & just.keys())
    assert just[volts] > rested[volts]


def test_a_reading_outside_of_the_rows_is_told_what_it_means(found):
    """Common practice, no source: a cell that rested under the empty end of its curve is not charged as it is."""
    for one in found.tables:
        deep, empty = one.below
        assert one.rows[-1].volts == pytest.approx(42.0), "ten cells of 4.2 V"
        assert one.above.volts == pytest.approx(42.5)
        assert "Do not charge" in one.above.says.text
        assert deep.volts == pytest.approx(25.0), "ten cells of 2.5 V"
        assert deep.volts < empty.volts == one.rows[0].volts
        assert "do not charge this pack" in deep.says.text
        assert "Do not ride on" in empty.says.text
        assert "one under 2.5 V must not be charged" in empty.says.text.replace("\u00a0", " ")


def test_no_pace_is_faster_than_the_board():
    in_a_hurry = read_build(changed(SPIT_RUNNER, {"brief.cruise_kmh": 70.0}))
    usual, *slower = [p.speed_kmh for p in how_far(in_a_hurry).tables[0].rows[-1].paces]
    assert usual == pytest.approx(float(Evaluation(in_a_hurry, 0).headlines.top_speed[0]) * 3.6, abs=0.05)
    assert usual < 70.0
    assert slower == [round(usual * 0.8), round(usual * 0.6)]


def test_what_rides_taught_is_in_it_and_a_bare_board_is_refused(build, found):
    assert "not calibrated by rides yet" in found.assumes.text
    with pytest.raises(Incomplete):
        how_far(read_build(changed(SPIT_RUNNER, {"parts.pack": None})))
