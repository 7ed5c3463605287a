"""What was measured, how a rider rides, and three ranges: from the interface's request to the file that is kept, and back."""

import pytest

from boardmath.buildfile import read_build
from boardmath.predictor import predict
from tests.core.boards import SPIT_RUNNER, changed

CAPACITY = "parts.pack.cell.capacity_ah"
MARK = {"path": CAPACITY, "by": "capacity test at 1 A", "day": "2026-05-02"}
FREE = changed(SPIT_RUNNER, {"assumptions": {}})


def _predicted(workshop, document, **more):
    answer = workshop.send("POST", "/predict", {"document": document, **more})
    assert answer.status_code == 200, answer.content
    return answer.json()


def _width(found, key="range_km"):
    return (found[key]["high"] - found[key]["low"]) / found[key]["mid"]


def test_a_measured_figure_narrows_its_band_at_once_and_stays_measured_in_the_file(workshop):
    before = _predicted(workshop, FREE)
    marked = {**FREE, "measured": [MARK]}
    after = _predicted(workshop, marked)
    assert _width(after) < _width(before)
    assert after["range_km"]["mid"] == pytest.approx(before["range_km"]["mid"], rel=0.06)
    made = workshop.new(marked)
    file = workshop.client.get(f"/api/builds/{made['id']}/file").json()
    assert file["measured"] == [MARK]
    brought = workshop.send("POST", "/builds/import", file).json()
    assert brought["document"]["measured"] == [MARK]


@pytest.mark.parametrize(
    ("mark", "field", "says"),
    [
        ({**MARK, "path": "parts.pack.cell.colour"}, "measured.0.path", "is not a figure of a build"),
        ({**MARK, "path": "parts.pack.cell"}, "measured.0.path", "is not a figure of a build"),
        ({**MARK, "path": "__class__.mro"}, "measured.0.path", "is not a figure of a build"),
        ({**MARK, "day": "yesterday"}, "measured.0.day", "day"),
        ({"by": "a scale"}, "measured.0.path", "missing"),
    ],
)
def test_a_mark_on_nothing_is_refused_with_its_place(workshop, mark, field, says):
    for path, body in (
        ("/predict", {"document": {**FREE, "measured": [mark]}}),
        ("/builds/import", {**FREE, "measured": [mark]}),
    ):
        answer = workshop.send("POST", path, body)
        assert answer.status_code == 422
        (fault,) = answer.json()["faults"]
        assert fault["field"].startswith(field.rsplit(".", 1)[0])
        assert says in f"{fault['field']} {fault['reason']}"


def test_the_answer_is_the_cores_word_for_word(workshop):
    """One engine: what the web shows is what the command line prints."""
    shown = _predicted(workshop, FREE)
    alone = predict(read_build(FREE)).model_dump(mode="json", exclude_none=True)
    for key in (
        "top_speed_kmh",
        "range_km",
        "range_to_cutoff_km",
        "range_worst_day_km",
        "widest",
        "measure_next",
        "doubt",
    ):
        assert shown[key] == alone[key], key


def test_three_ranges_are_three_different_days(workshop):
    found = _predicted(workshop, FREE)
    to_cutoff, home, worst = (found[k] for k in ("range_to_cutoff_km", "range_km", "range_worst_day_km"))
    for edge in ("low", "mid", "high"):
        assert worst[edge] < home[edge] < to_cutoff[edge], edge
    thrifty = _predicted(workshop, changed(FREE, {"brief.reserve_pct": 0}))
    assert thrifty["range_km"]["mid"] == pytest.approx(to_cutoff["mid"], rel=1e-3), (
        "with no reserve home is the cut-off"
    )


@pytest.mark.parametrize("means", ["with_reserve", "to_cut_off", "worst_day"])
def test_the_brief_says_which_range_is_promised(workshop, means):
    key = {"with_reserve": "range_km", "to_cut_off": "range_to_cutoff_km", "worst_day": "range_worst_day_km"}[means]
    found = _predicted(workshop, changed(FREE, {"brief.range_means": means}))
    outcome = next(p for p in found["outcomes"] if p["name"] == "range")
    assert outcome["mid"] == pytest.approx(found[key]["mid"], rel=1e-6)
    assert len(outcome["further"]) == 2, "the other two stand beside it"


@pytest.mark.parametrize(
    ("change", "shorter"),
    [
        ({"brief.ascent_m_per_km": 25}, True),
        ({"brief.stops_per_km": 8}, True),
        ({"brief.wind_ms": 8, "brief.wind": "against"}, True),
        ({"brief.rides": "hard"}, True),
        ({"brief.rides": "easy"}, False),
        ({"brief.ascent_m_per_km": 0}, False),
    ],
)
def test_how_and_where_it_is_ridden_counts(workshop, change, shorter):
    before, after = (_predicted(workshop, d)["range_km"]["mid"] for d in (FREE, changed(FREE, change)))
    assert (after < before) is shorter, (before, after)


def test_a_weighed_board_is_as_heavy_as_the_scale_says(workshop):
    estimated, weighed = (_predicted(workshop, d) for d in (FREE, {**FREE, "weighed_kg": 8.4}))
    assert weighed["mass_kg"]["board"] == pytest.approx(8.4)
    carry = {p["name"]: p for p in weighed["outcomes"]}["carry"]
    assert carry["high"] - carry["low"] < 0.2
    assert estimated["mass_kg"]["board"] != pytest.approx(8.4, abs=0.05)
    answer = workshop.send("POST", "/predict", {"document": {**FREE, "weighed_kg": 8400}})
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["field"] == "weighed_kg"


def test_what_would_be_gained_by_measuring_is_gained(workshop):
    """The advice comes from the model: who follows it gets about the band that it said."""
    found = _predicted(workshop, FREE)
    advice = next(m for m in found["measure_next"] if "kv" in m["inputs"])
    gain = next(g for g in advice["gains"] if g["result"] == "speed")
    motors = ["kv_rpm_per_v", "phase_resistance_mohm"]
    known = {f"parts.motors.{key}": FREE["parts"]["motors"].get(key, 40.0) for key in motors}
    measured = _predicted(workshop, changed(FREE, {**known, "parts.motors.measured": motors}))
    before, after = (f["top_speed_kmh"]["high"] - f["top_speed_kmh"]["low"] for f in (found, measured))
    assert before == pytest.approx(gain["width"], rel=1e-6)
    assert before - after == pytest.approx(gain["narrower"], rel=0.35)


def test_nobody_measures_for_somebody_else(workshop, other_workshop):
    made = workshop.new({**FREE, "measured": [MARK]})
    for method, path in (("GET", f"/builds/{made['id']}"), ("GET", f"/builds/{made['id']}/file")):
        assert other_workshop.send(method, path).status_code == 404
    answer = other_workshop.send("PUT", f"/builds/{made['id']}", {"revision": 1, "document": FREE})
    assert answer.status_code == 404
    assert workshop.client.get(f"/api/builds/{made['id']}/file").json()["measured"] == [MARK]
