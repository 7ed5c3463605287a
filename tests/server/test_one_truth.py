"""One truth on all pages: of every demonstration board each route and paper shows the figures of its prediction.

A page that asks another question on purpose (before its rides, with other parts, on another day) names it by a field of its own,
and is not held to this.
"""

from collections.abc import Iterator
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from boardmath.messages import written
from server.boards.models import Build
from server.demo.entry import DEMO_NAME
from server.demo.story import load
from tests.server.conftest import Workshop
from tests.server.papers import text_of

ANOTHER_QUESTION = {"predicted", "beside", "changes"}
EDGE = 0.06
"""How far the edges of ranges may lie apart that were found with a quarter of the samples, as a share of the middle."""


@pytest.fixture
def warden(db) -> Workshop:
    load()
    found = Workshop.__new__(Workshop)
    found.user = get_user_model().objects.get(username=DEMO_NAME)
    found.client = Client()
    found.client.force_login(found.user)
    return found


def outcomes_in(answer: Any, at: str = "") -> Iterator[tuple[str, dict[str, Any]]]:
    """Every outcome within an answer, and where it is."""
    if isinstance(answer, dict):
        if {"name", "quantity", "verdict", "more_is_better"} <= answer.keys():
            yield at, answer
        for key, value in answer.items():
            if key not in ANOTHER_QUESTION:
                yield from outcomes_in(value, f"{at}.{key}")
    elif isinstance(answer, list):
        for n, value in enumerate(answer):
            yield from outcomes_in(value, f"{at}.{n}")


def answers(warden: Workshop, build: Build) -> Iterator[tuple[str, Any]]:
    """What each route says of a board that is asked about by its document, by its number, or among others."""
    id, document = str(build.pk), build.document
    file = warden.send("GET", f"/builds/{id}/file").json()
    by_document = ("predict", "controller-settings", "parts-list", "curves", "charging")
    for path in by_document:
        yield path, warden.send("POST", f"/{path}", {"document": document, "board": id}).json()
    for path in ("overview", "maintenance", "review"):
        yield path, warden.send("POST", f"/builds/{id}/{path}", {"document": file}).json()
    others = [str(b.pk) for b in Build.objects.filter(owner=warden.user).exclude(pk=build.pk)[:1]]
    compared = warden.send("GET", f"/compare?of={id}&of={others[0]}").json()
    yield "compare", compared["headlines"][0]
    listed = warden.send("GET", "/boards?limit=50").json()
    yield "boards", next(b for b in listed["builds"] if b["id"] == id)


def close(one: float, other: float, middle: float, by: float) -> bool:
    return abs(one - other) <= by * max(abs(middle), 1e-9)


def check_outcomes(build: Build, said: dict[str, Any], seen: set[str]) -> None:
    truth = {p["name"]: p for p in said["predict"]["outcomes"]}
    for page, answer in said.items():
        for at, outcome in outcomes_in(answer):
            own, where = truth[outcome["name"]], f"{build}: {page}{at}"
            seen.add(page)
            if own.get("mid") is None:
                assert outcome.get("mid") is None, where
                continue
            assert close(outcome["mid"], own["mid"], own["mid"], 1e-9), (where, outcome["mid"], own["mid"])
            assert outcome.get("limit") == own.get("limit"), where
            for edge in ("low", "high"):
                if own.get(edge) is not None and outcome.get(edge) is not None:
                    assert close(outcome[edge], own[edge], own["mid"], EDGE), (where, edge, outcome[edge], own[edge])


def check_curve(build: Build, said: dict[str, Any]) -> None:
    """The curve of range passes through the predicted range at the brief's speed."""
    own = next(p for p in said["predict"]["outcomes"] if p["name"] == "range")
    plot = next((p for p in said["curves"] if p["id"] == "range"), None)
    if plot is None or not plot["marks"] or own.get("mid") is None:
        return
    line, x = plot["lines"][0], plot["marks"][0]["x"]
    after = next(n for n, at in enumerate(line["x"]) if at >= x)
    low, high = sorted((line["mid"][after - 1], line["mid"][after]))
    assert low * 0.99 <= own["mid"] <= high * 1.01, (str(build), own["mid"], low, high)


def check_kilometres(warden: Workshop, build: Build, said: dict[str, Any]) -> float:
    """What was ridden is one sum on the pages of rides, maintenance and review."""
    km = float(warden.send("GET", f"/builds/{build.pk}/rides").json()["sums"]["km"])
    before = build.history.get("maintenance", {}).get("km_before") or 0.0
    assert said["review"]["km"] == pytest.approx(km + before), str(build)
    assert said["maintenance"]["km"] == pytest.approx(km + before), str(build)
    return km


def test_every_page_shows_the_figures_of_the_prediction(warden: Workshop):
    seen: set[str] = set()
    ridden = []
    for build in Build.objects.filter(owner=warden.user):
        said = dict(answers(warden, build))
        check_outcomes(build, said, seen)
        check_curve(build, said)
        ridden.append(check_kilometres(warden, build, said))
    assert {"controller-settings", "parts-list", "overview", "compare", "boards", "review"} <= seen
    assert max(ridden) > 100.0, "one of them was ridden for a season"


def test_papers_show_the_same_figures(warden: Workshop):
    build = next(b for b in Build.objects.filter(owner=warden.user) if b.settings_records.exists() and b.rides.exists())
    said = warden.send("POST", "/predict", {"document": build.document, "board": str(build.pk)}).json()
    papers = {
        "dossier": text_of(warden.made(f"/builds/{build.pk}/dossier")),
        "shared summary": warden.made(f"/builds/{build.pk}/review/page").content.decode(),
    }
    for outcome in said["outcomes"]:
        if outcome["name"] in ("speed", "range"):
            figure = written(round(outcome["mid"], 1), outcome["quantity"])
            assert [name for name, text in papers.items() if figure not in text] == [], (outcome["name"], figure)
