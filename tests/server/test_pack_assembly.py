"""Cells, pack, balance leads, wiring and charging over the API: asked of a build, taken away on paper, kept with the board."""

import csv
import io
from typing import Any

import pytest

from planner.cells.reading import COLUMNS
from tests.core.boards import SPIT_RUNNER, changed
from tests.core.test_cells import bag
from tests.server.papers import text_of


def with_cells(count: int = 34, **more: Any) -> dict[str, Any]:
    return changed(SPIT_RUNNER, {"pack_assembly.cells": bag(count), "parts.pack.cell.origin": "salvaged", **more})


def asked(workshop, page: str, document: dict[str, Any], **more: Any) -> Any:
    answer = workshop.send("POST", f"/{page}", {"document": document, **more})
    assert answer.status_code == 200, answer.content
    return answer.json()


def sorted_document(workshop) -> dict[str, Any]:
    document = with_cells()
    places = asked(workshop, "cells", document)["sorted"]
    for cell in document["pack_assembly"]["cells"]:
        if cell["id"] in places:
            cell["group"] = places[cell["id"]]
    return document


def test_a_bag_comes_in_by_text_is_sorted_and_goes_out_as_the_same_text(workshop):
    rows = [",".join(str(r.get(c, "")) for c in COLUMNS) for r in bag(32)]
    text = "\n".join([",".join(COLUMNS), *rows, "broken,two"])
    read = asked(workshop, "cells/read", SPIT_RUNNER, text=text)
    cells = [r["cell"] for r in read["rows"] if "cell" in r]
    assert len(cells) == 32
    assert [r["line"] for r in read["rows"] if r["faults"]] == [34]
    build = workshop.new(changed(SPIT_RUNNER, {"pack_assembly.cells": cells}))
    out = workshop.client.get(f"/api/builds/{build['id']}/cells.csv")
    again = asked(workshop, "cells/read", SPIT_RUNNER, text=out.content.decode())
    assert [r["cell"] for r in again["rows"]] == cells


def test_a_cell_that_is_in_the_bag_is_not_taken_in_twice(workshop):
    read = asked(workshop, "cells/read", with_cells(), text="id,capacity_ah\na3,2.4\nnew,2.4")
    assert [bool(r["faults"]) for r in read["rows"]] == [True, False]
    assert "is in the list" in read["rows"][0]["faults"][0]


def test_what_a_spreadsheet_would_run_comes_back_as_it_was(workshop):
    build = workshop.new(
        changed(SPIT_RUNNER, {"pack_assembly.cells": [{"id": "=1+1", "capacity_ah": 2.0, "source": "'@here"}]})
    )
    text = workshop.client.get(f"/api/builds/{build['id']}/cells.csv").content.decode("utf-8-sig")
    (row,) = csv.DictReader(io.StringIO(text))
    assert row["id"] == "'=1+1"
    (read,) = asked(workshop, "cells/read", SPIT_RUNNER, text=text)["rows"]
    assert (read["cell"]["id"], read["cell"]["source"]) == ("=1+1", "'@here")


def test_labels_name_every_cell_with_its_group_and_the_map_who_lies_where(workshop):
    document = sorted_document(workshop)
    document["pack_assembly"]["cells"][33]["found_v"] = 1.0
    build = workshop.new(document)
    paper = text_of(workshop.made(f"/builds/{build['id']}/cells/labels"))
    for cell in document["pack_assembly"]["cells"]:
        assert cell["id"] in paper
    assert "OUT" in paper
    assert "group 10" in paper
    assert "Rejected, and why" in paper


def test_without_cells_there_is_nothing_to_label(workshop):
    build = workshop.new()
    refused = workshop.send("POST", f"/builds/{build['id']}/cells/labels")
    assert refused.status_code == 422
    assert "no cells" in refused.json()["message"]


def test_the_page_answer_for_a_build_that_is_not_saved_and_for_one_that_is_hardly_begun(workshop):
    bare = {**SPIT_RUNNER, "parts": {}, "settings": {}}
    assert asked(workshop, "cells", bare)["cannot"]["text"]
    assert asked(workshop, "pack", bare)["needs"]["text"]
    assert asked(workshop, "balance-leads", bare) == {}
    assert asked(workshop, "wiring", bare)["wires"] == []
    assert asked(workshop, "charging", bare)["needs"]
    assert len(asked(workshop, "pack", SPIT_RUNNER)["links"]) == 9
    assert asked(workshop, "balance-leads", SPIT_RUNNER)["report"]["next"] == 0
    assert asked(workshop, "charging", SPIT_RUNNER, ready_min=480)["timetable"]["ready_min"] == 480


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("pack_assembly.cells", [{"id": "a"}, {"id": "a"}]),
        ("pack_assembly.cells", [{"id": "a", "capacity_ah": "two"}]),
        ("pack_assembly.plan.order", [1, 1]),
        ("pack_assembly.balance_leads.readings", [0.0] * 40),
        ("pack_assembly.charges", [{"began": "yesterday"}]),
    ],
)
def test_what_a_board_cannot_hold_is_refused_with_its_field(workshop, field, value):
    answer = workshop.send("POST", "/builds/import", changed(SPIT_RUNNER, {field: value}))
    assert answer.status_code == 422
    assert any(f["field"].startswith("pack_assembly") and f["reason"] for f in answer.json()["faults"])


def test_the_wiring_goes_on_paper_and_as_a_drawing(workshop):
    build = workshop.new()
    paper = text_of(workshop.made(f"/builds/{build['id']}/wiring/paper"))
    for word in ("In this order", "What protects against what", "Loop key last", "12 AWG"):
        assert word in paper, word
    drawn = workshop.client.get(f"/api/builds/{build['id']}/wiring.svg")
    assert drawn["Content-Type"] == "image/svg+xml"
    assert b"BMS" in drawn.content


def test_the_dossier_has_cells_links_charges_and_wiring(workshop):
    document = sorted_document(workshop)
    document["pack_assembly"]["plan"] = {"strip": "copper"}
    document["pack_assembly"]["charges"] = [
        {"began": "2026-11-22T13:05Z", "looks": [{"minute": 0.0, "warmth": "cool"}]}
    ]
    build = workshop.new(document)
    paper = text_of(workshop.made(f"/builds/{build['id']}/dossier"))
    for word in ("the cells by group", "Links", "Charges watched", "Wiring", "x copper"):
        assert word in paper, word


def test_a_copy_is_a_plan_that_nobody_has_measured_or_charged(workshop):
    document = sorted_document(workshop)
    document["pack_assembly"] |= {
        "balance_leads": {"readings": [0.0, 3.7]},
        "charges": [{"began": "2026-11-22T13:05Z"}],
    }
    build = workshop.new(document)
    copied = workshop.send("POST", f"/builds/{build['id']}/duplicate").json()["document"]["pack_assembly"]
    assert "balance_leads" not in copied
    assert "charges" not in copied
    assert len(copied["cells"]) == 34


def test_a_thousand_cells_are_kept_and_sorted(workshop):
    document = changed(
        SPIT_RUNNER, {"pack_assembly.cells": bag(1000), "parts.pack.series": 20, "parts.pack.parallel": 40}
    )
    build = workshop.new(document)
    assert len(build["document"]["pack_assembly"]["cells"]) == 1000
    report = asked(workshop, "cells", document)
    assert len(report["sorted"]) == 800
    assert report["sorted_weakest_ah"] >= 0.995 * report["bound_ah"]
