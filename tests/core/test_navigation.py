"""What stands once: stages and pages, kinds of part, what each field is for, and the bench's stations."""

import pytest

from boardmath.buildfile import Build
from boardmath.buildfile.build import Parts
from boardmath.buildfile.electrics import Cell, Extra
from boardmath.buildfile.figures import Part, group_of, keys_of
from boardmath.engine.climbing import CELL_HEAT, CONTROLLER_HEAT, HEATS, MOTOR_HEAT
from boardmath.engine.operating import LIMITS
from boardmath.parts.part_types import KINDS, kind_of
from planner.design.beginning import QUESTIONS
from planner.design.stations import STATIONS
from planner.navigation import PAGES, STAGES


def field(path: str):
    """A field of the build file by its path; raises where there is none."""
    model = Build
    for step in path.split("."):
        found = model.model_fields[step]
        inner = [a for a in getattr(found.annotation, "__args__", (found.annotation,)) if hasattr(a, "model_fields")]
        model = inner[0] if inner else model
    return found


def test_every_stage_has_pages_and_every_page_one_name():
    assert {r.stage for r in PAGES if r.stage} == {s.slug for s in STAGES}
    assert len({r.slug for r in PAGES}) == len({r.title for r in PAGES}) == len(PAGES)
    order = [s.slug for s in STAGES]
    stages = [r.stage for r in PAGES if r.stage]
    assert stages == sorted(stages, key=order.index), "pages come in the order of the stages"


def test_each_part_of_a_build_is_a_kind():
    on_the_board = {k.path.split(".")[1] for k in KINDS.values()}
    assert on_the_board == set(Parts.model_fields)
    assert KINDS["cell"].model is Cell
    assert KINDS["extra"].model is Extra
    for slug, kind in KINDS.items():
        assert kind_of(kind.path.replace("*", "3")) == slug
        assert issubclass(kind.model, Part), "each can be bought"
    assert kind_of("left_over.0") is None


@pytest.mark.parametrize("kind", KINDS)
def test_what_decides_a_kind_is_a_figure_of_it(kind):
    for key in KINDS[kind].deciding:
        assert group_of(KINDS[kind].model, key) == "figure"


def test_what_a_field_is_for_is_said_at_the_field():
    assert keys_of(Part, "listing") == ["name", "maker", "price", "currency", "mass_g", "source", "notes"]
    assert keys_of(Part, "buying") == ["owned", "purchase", "kit"]
    assert keys_of(Part, "mark") == ["measured"]
    assert {k: keys_of(v.model, "board") for k, v in KINDS.items() if keys_of(v.model, "board")} == {
        "motors": ["count"],
        "pack": ["spares"],
        "controller": ["units"],
        "load": ["count"],
        "extra": ["count", "fills"],
    }


def test_the_stations_come_by_every_kind_once_and_in_order():
    chosen = [kind for station in STATIONS for kind in station.kinds]
    assert chosen == list(KINDS)


@pytest.mark.parametrize("station", STATIONS, ids=lambda s: s.id)
def test_what_is_entered_and_dragged_at_a_station_is_in_the_build_file(station):
    for section in station.sections:
        field(section.field)
    for handle in station.handles:
        span = field(handle.path).json_schema_extra
        assert span["low"] <= handle.low < handle.high <= span["high"]
        assert handle.step <= handle.high - handle.low


def test_each_of_the_six_questions_is_answered_by_figures_that_there_are():
    assert len(QUESTIONS) == 6
    paths = [path for question in QUESTIONS for path in question.fields]
    assert len(set(paths)) == len(paths)
    for path in paths:
        assert field(path).title


def test_limits_keep_the_numbers_that_the_engine_gives_them():
    """The solvers answer with numbers; the names are listed once, in that order."""
    assert LIMITS[0] == "pack voltage"
    assert LIMITS[-1] == "full pack"
    assert (LIMITS + HEATS)[MOTOR_HEAT : CELL_HEAT + 1] == ("motor heat", "controller heat", "cell heat")
    assert CONTROLLER_HEAT == MOTOR_HEAT + 1
