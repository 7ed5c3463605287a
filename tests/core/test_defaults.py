"""A usual value, a kind of cell, an input of the model: each has one home."""

import ast
from pathlib import Path

import pytest

from boardmath.buildfile import read_build
from boardmath.buildfile.build import Brief, Build, Rider
from boardmath.buildfile.settings import Settings
from boardmath.engine.boards import FIELDS
from boardmath.engine.operating import LIMITS, Uses
from boardmath.model.chemistry import CHEMICALS
from boardmath.model.defaults import USUAL
from boardmath.model.evaluation import Evaluation
from boardmath.model.inputs import cell_voltages
from boardmath.model.limits import recommended_taper
from boardmath.model.model_inputs import BY_NAME, COLUMN, INPUTS
from boardmath.model.resolution import taper
from boardmath.parts.part_types import KINDS
from boardmath.physics.cell import CHEMISTRIES
from boardmath.prediction.ranges import QUANTITIES as RESULTS
from boardmath.units import QUANTITIES
from tests.core.boards import spit_runner

CORE = Path(__file__).resolve().parents[2] / "boardmath"


def _fields(model=Build, seen=None):
    """Names of all figures of the build file's schema."""
    names = set()
    for definition in (model.model_json_schema().get("$defs") or {}).values():
        names |= set(definition.get("properties") or {})
    return names


def _numbers_behind_or(tree):
    """``something.figure or 90.0``: a usual value in the middle of a formula."""
    for node in ast.walk(tree):
        if not isinstance(node, ast.BoolOp) or not isinstance(node.op, ast.Or):
            continue
        first, last = node.values[0], node.values[-1]
        number = last.value if isinstance(last, ast.Constant) else None
        if isinstance(number, int | float) and not isinstance(number, bool) and isinstance(first, ast.Attribute):
            yield first.attr, number, node.lineno


def test_no_usual_value_stands_anywhere_else():
    """Nought and one are what is absent, and one of it."""
    figures = _fields()
    strays = []
    for path in CORE.rglob("*.py"):
        for name, number, line in _numbers_behind_or(ast.parse(path.read_text())):
            if name in figures and number not in (0, 1):
                strays.append(f"{path.name}:{line}: {name} or {number}")
    assert not strays


def test_every_usual_value_lies_within_its_span():
    models = {slug: kind.model for slug, kind in KINDS.items()}
    models |= {"rider": Rider, "brief": Brief, "settings": Settings}
    for path, value in USUAL.items():
        kind, key = path.split(".")
        span = models[kind].model_json_schema()["properties"][key]
        assert span["low"] <= value <= span["high"], path


def test_every_chemistry_has_one_record_that_the_engine_knows():
    assert tuple(CHEMICALS) == CHEMISTRIES
    for name, usual in CHEMICALS.items():
        assert usual.empty_v < usual.empty_v + usual.taper_above_empty_v < usual.nominal_v < usual.full_v, name


@pytest.mark.parametrize("chemistry", CHEMISTRIES)
def test_the_taper_that_is_recommended_is_the_one_that_is_taken_where_none_is_set(chemistry):
    build = spit_runner(settings={}, parts__pack__cell={"chemistry": chemistry, "capacity_ah": 3.0})
    assert taper(build) == recommended_taper(build.parts.pack)
    start, end = recommended_taper(build.parts.pack)
    assert 10 * cell_voltages(build.parts.pack)[2] < end < start


def test_every_input_of_the_model_is_resolved_titled_and_measured_in_a_known_quantity():
    resolved = Evaluation(spit_runner()).resolved
    assert list(resolved.inputs) == [i.name for i in INPUTS] == list(COLUMN)
    for record in INPUTS:
        assert record.quantity in QUANTITIES, record.name
        assert record.least <= resolved.inputs[record.name].value <= record.most, record.name
        if record.measure is not None:
            assert record.measure.minutes > 0
            assert record.measure.spread < 0.5
    assert len(BY_NAME) == len(INPUTS)
    assert set(RESULTS.values()) <= set(QUANTITIES)


def test_every_limit_has_its_use_and_every_field_of_a_board_its_unit():
    assert len(LIMITS) == len(Uses._fields)
    assert all(FIELDS.values())


def test_a_file_of_the_version_before_opens_and_predicts():
    """What a build file could say before: no way, no wind, nothing measured beside the parts."""
    old = {
        "format": "sand-pocket/build",
        "version": 1,
        "rider": {"mass_kg": 80},
        "brief": {"use": "commute", "cruise_kmh": 22, "range_km": 14, "reserve_pct": 15},
        "parts": {
            "wheels": {"diameter_mm": 90},
            "motors": {"count": 1, "kv_rpm_per_v": 170, "measured": ["kv_rpm_per_v"]},
            "drive": {"motor_teeth": 15, "wheel_teeth": 42},
            "pack": {"series": 10, "parallel": 3},
        },
    }
    evaluation = Evaluation(read_build(old))
    assert evaluation.resolved.inputs["kv"].origin == "measured"
    assert evaluation.values["range"][0] > 5
