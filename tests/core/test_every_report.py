"""What every report of the core owes whoever reads it, whatever the board is: whole sentences, finite figures, plain JSON."""

import math
import re
from collections.abc import Callable, Iterator
from contextlib import suppress
from datetime import date
from typing import Any

import pytest
from pydantic import BaseModel

from boardmath import predict
from boardmath.battery.balance_leads import balance_leads_report
from boardmath.battery.cells import cells_report
from boardmath.buildfile import Build, read_build
from boardmath.buildfile.bench_test import BenchTest
from boardmath.buildfile.drivetrain import Motors
from boardmath.buildfile.trips import Trip, TripDay, TripLeg
from boardmath.geometry.shapes import VIEWS
from boardmath.geometry.views.view import draw
from boardmath.messages import Figure, Message, written
from boardmath.model.resolution import Incomplete
from boardmath.prediction.curves import curves
from planner.assembly.report import assembly_report
from planner.bench_test.report import report_on
from planner.charging.report import charging_report
from planner.compare import compare
from planner.controller_settings.lines import controller_settings
from planner.design.candidates import candidates
from planner.enclosure.report import enclosure_reports
from planner.first_ride.report import first_ride_report
from planner.maintenance.report import maintenance_report
from planner.pack.report import pack_report
from planner.parts_list.lines import parts_list
from planner.review.report import review
from planner.rides.claims import check_claim, read_claim
from planner.shared.log import Log
from planner.trips.report import trip_report
from planner.wiring.report import wiring_report
from scripts.message_templates import templates
from tests.core.boards import SPIT_RUNNER, any_builds, changed, spit_runner
from tests.core.test_against_scalar_model import GRID

TODAY = date(2026, 5, 31)
FIGURES = re.compile(r"\{\w+\}")
CATALOGUE = set(templates())
TRIP = Trip(id="t", name="To the light", days=[TripDay(legs=[TripLeg(distance_km=9, ascent_m=60, bearing_deg=90)])])
REPORTS: dict[str, Callable[[Build], Any]] = {
    "prediction": predict,
    "curves": curves,
    "drawings": lambda build: [draw(build, view) for view in VIEWS],
    "candidates": lambda build: candidates(build, "motors", [Motors(kv_rpm_per_v=kv) for kv in (120, 200)]),
    "comparison": lambda build: compare([build, read_build(SPIT_RUNNER)], ["this", "that"]),
    "parts list": lambda build: parts_list(build, TODAY),
    "enclosure": enclosure_reports,
    "cells": cells_report,
    "pack": pack_report,
    "balance leads": balance_leads_report,
    "wiring": wiring_report,
    "charging": charging_report,
    "assembly": lambda build: assembly_report(build, Log(), TODAY, drawn=False),
    "controller settings": controller_settings,
    "bench test": lambda build: report_on(build, BenchTest()),
    "first ride": lambda build: first_ride_report(build, Log(), TODAY),
    "trip": lambda build: trip_report(build, TRIP),
    "maintenance": lambda build: maintenance_report(build, [], TODAY),
    "review": lambda build: review(build, [], None, "Planned"),
    "claim": lambda build: check_claim(build, read_claim("climbs 40 % at 30 km/h")),
}
WHOLE = [spit_runner(**changes) for changes in list(GRID.values())[::3]]
BOARDS = [*any_builds(8, seed=11), read_build(changed(SPIT_RUNNER, {"parts": {}, "settings": {}, "brief": {}})), *WHOLE]


def inside(found: Any) -> Iterator[Any]:
    """Everything within an answer: models, lists and plain values, from the outside in."""
    yield found
    if isinstance(found, BaseModel):
        for name in type(found).model_fields:
            yield from inside(getattr(found, name))
    elif isinstance(found, dict):
        for value in found.values():
            yield from inside(value)
    elif isinstance(found, list | tuple):
        for value in found:
            yield from inside(value)


@pytest.fixture(scope="module", params=REPORTS)
def answers(request: pytest.FixtureRequest) -> list[Any]:
    """One report of every board that is far enough for it."""
    found = []
    for build in BOARDS:
        with suppress(Incomplete):
            found.append(REPORTS[request.param](build))
    assert len(found) >= len(WHOLE), "every whole board has this report"
    return found


def test_every_figure_is_a_finite_number(answers):
    for value in inside(answers):
        assert not isinstance(value, float) or math.isfinite(value)


def texts(values: dict[str, Figure | Message | str]) -> dict[str, str]:
    return {
        name: written(v.value, v.quantity) if isinstance(v, Figure) else v.text if isinstance(v, Message) else v
        for name, v in values.items()
    }


def test_every_sentence_has_its_figures_in_it(answers):
    """The template and its values are the text, and no place is left open."""
    for said in inside(answers):
        if not isinstance(said, Message):
            continue
        places = set(re.findall(r"\{(\w+)\}", said.template)) if said.values else set()
        assert places <= set(said.values), said
        assert said.text == (said.template.format(**texts(said.values)) if said.values else said.template)
        assert "{" not in said.text.replace("{}", ""), said.text


def test_sentences_are_in_the_catalogue_of_other_languages(answers):
    """All but the few that are put together as they are needed."""
    said = [
        m.template
        for m in inside(answers)
        if isinstance(m, Message) and re.search(r"[a-z]", FIGURES.sub("", m.template))
    ]
    missing = sorted(set(said) - CATALOGUE)
    assert sum(template not in CATALOGUE for template in said) <= 0.15 * len(said), missing


def test_sentences_are_fit_to_be_read(answers):
    wrong = re.compile(
        r"\bNone\b|\bnan\b|\binf\b|  |\s[,.;:](?:\s|$)|\.\.(?!\.)|,,|_[a-z]+_|\bTrue\b|\bFalse\b|<[A-Za-z]"
    )
    for said in inside(answers):
        if isinstance(said, Message):
            assert said.text.strip() == said.text != ""
            assert not wrong.search(said.text), said.text


def test_nothing_is_called_legal_or_safe(answers):
    claims = re.compile(
        r"\b(?:is|are) (?:now |quite |perfectly |completely )?(?:legal|safe|allowed|street-legal)\b", re.I
    )
    for said in inside(answers):
        text = said.text if isinstance(said, Message) else said if isinstance(said, str) else ""
        assert not claims.search(text), text


def test_a_report_survives_being_sent(answers):
    """As JSON, without a value that JSON does not know, and back again the same."""
    for report in inside(answers):
        if isinstance(report, BaseModel) and not isinstance(report, Message):
            sent = report.model_dump_json()
            assert "NaN" not in sent
            assert "Infinity" not in sent
            assert type(report).model_validate_json(sent).model_dump_json() == sent
            break


def test_the_same_board_gives_the_same_report():
    """Nothing hangs on a clock, on chance, or on what was asked before."""
    build = BOARDS[-1]
    for name, report in REPORTS.items():
        first, second = report(build), report(build.model_copy(deep=True))
        assert first == second, name
