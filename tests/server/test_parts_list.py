"""The parts list through the API: as CSV out and in, and what a change of mind leaves over."""

import csv
import io
from pathlib import Path

import pytest

from boardmath.buildfile import read_build
from boardmath.parts.cost import cost
from server.parts_list.list_csv import COLUMNS, as_csv, read_csv
from tests.core.boards import SPIT_RUNNER, changed

STORY = [p.read_bytes() for p in sorted((Path(__file__).parents[2] / "server/demo/data").glob("build-*.json"))]
BOUGHT = changed(
    SPIT_RUNNER,
    {
        "parts.motors.name": "Motor",
        "parts.motors.price": 61,
        "parts.motors.currency": "GBP",
        "parts.motors.purchase": {"status": "ordered", "order": "Jetty Motors"},
        "parts.pack.owned": True,
        "parts.deck.purchase": {"status": "arrived", "arrived_on": "2026-10-09"},
        "orders": [{"name": "Jetty Motors", "currency": "GBP", "shipping": 18.5, "tax_pct": 21}],
        "exchange": [{"currency": "GBP", "rate": 1.17}],
    },
)


UNCOUNTED = changed(
    SPIT_RUNNER, {"parts.extras": [{"name": "Belt"}, {"name": "Belt", "count": 2}, {"name": "Foam", "count": 1}]}
)


@pytest.mark.parametrize("document", [*STORY, BOUGHT, SPIT_RUNNER, UNCOUNTED])
def test_a_list_written_is_read_back_the_same(document):
    build = read_build(document)
    reading = read_csv(build, as_csv(build).encode())
    assert [(r.line, r.faults) for r in reading.rows if r.faults or r.changes] == []
    assert reading.build == build


def test_the_amounts_of_a_list_add_up_to_what_it_all_comes_to():
    for document in (*STORY, BOUGHT):
        build = read_build(document)
        rows = list(csv.DictReader(io.StringIO(as_csv(build).removeprefix("\ufeff"), newline="")))
        sums = cost(build)
        assert sum(round(float(r["amount"] or 0) * 100) for r in rows) == round((sums.outlay + sums.owned) * 100)


def edited(document, row_of: str, **cells) -> bytes:
    rows = list(csv.DictReader(io.StringIO(as_csv(read_build(document)).removeprefix("\ufeff"), newline="")))
    for row in rows:
        if row["part"] == row_of:
            row.update(cells)
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS)
    writer.writeheader()
    writer.writerows(rows)
    return out.getvalue().encode()


def test_what_was_noted_in_a_spreadsheet_comes_back_onto_the_list():
    build = read_build(BOUGHT)
    after = read_csv(build, edited(BOUGHT, "motors", status="arrived", price="58.20", arrived_on="2026-11-03")).build
    motors = after.parts.motors
    assert (motors.price, motors.purchase.status, motors.purchase.arrived_on) == (58.2, "arrived", "2026-11-03")
    owned = read_csv(build, edited(BOUGHT, "motors", status="owned")).build.parts.motors
    assert owned.owned
    assert owned.purchase.status is None
    put_back = read_csv(build, edited(BOUGHT, "pack", status="to_order")).build
    assert not put_back.parts.pack.owned
    assert read_csv(build, edited(BOUGHT, "order", price="25")).build.orders[0].shipping == 25


def test_a_new_row_is_a_new_extra_and_a_new_order():
    text = "part,name,count,price,currency,order\nextra,Riser screws,2,1.50,EUR,Ironmonger\norder,Ironmonger,,4,EUR,\n"
    after = read_csv(read_build(BOUGHT), text.encode()).build
    assert [(e.name, e.count, e.price) for e in after.parts.extras] == [
        ("Bearings, set of eight", 1, 14),
        ("Riser screws", 2, 1.5),
    ]
    assert after.orders[1].name == "Ironmonger"
    assert after.parts.deck == read_build(BOUGHT).parts.deck, "parts that the file does not have stay"


@pytest.mark.parametrize(
    ("part", "cells", "field", "says"),
    [
        ("motors", {"status": "lost"}, "status", "one of"),
        ("motors", {"price": "cheap"}, "price", "must be a number"),
        ("motors", {"name": "Another motor"}, "name", "choose another on the Design page"),
        ("motors", {"count": "3"}, "count", "change the number on the Design page"),
        ("motors", {"due_on": "next week"}, "due_on", "2026-05-31"),
        ("motors", {"part": "engine"}, "part", "one of deck"),
        ("remote", {"part": "risers", "name": "x"}, "name", "choose another"),
        ("order", {"tax_pct": "300"}, "tax_pct", "outside 0 to 100 %"),
        ("extra", {"count": "0"}, "count", "outside 1 to 500"),
    ],
)
def test_a_broken_row_is_named_and_the_others_are_taken(workshop, part, cells, field, says):
    text = edited(BOUGHT, part, **cells).decode()
    text = text.replace(",arrived,", ",faulty,")  # a good change in another row
    answer = workshop.send("POST", "/parts-list/read", {"document": BOUGHT, "text": text}).json()
    faults = [f for r in answer["rows"] for f in r["faults"]]
    assert len(faults) == 1, faults
    assert field in faults[0]["field"]
    assert says.replace("%", "") in faults[0]["reason"].replace("%", "").replace(" ", " ")
    assert answer["document"]["parts"]["deck"]["purchase"]["status"] == "faulty"
    assert answer["document"]["parts"]["motors"] == BOUGHT["parts"]["motors"]
    assert "reason" in answer["rest"].splitlines()[0]


def test_the_list_of_ones_own_build_is_taken_away_as_csv(workshop, other_workshop):
    made = workshop.new(BOUGHT)
    file = workshop.client.get(f"/api/builds/{made['id']}/parts-list.csv")
    assert file.headers["Content-Disposition"] == 'attachment; filename="spit-runner-parts.csv"'
    assert "Jetty Motors" in file.content.decode()
    assert other_workshop.client.get(f"/api/builds/{made['id']}/parts-list.csv").status_code == 404


def test_the_list_prices_small_parts_from_the_library(workshop, library):
    small = workshop.send("POST", "/parts-list", {"document": SPIT_RUNNER}).json()["forgotten"]
    assert {s["id"]: s["record"].get("price") for s in small}["threadlocker"] == 5.0


def test_other_parts_leave_over_what_was_bought(workshop):
    parts = {k: v for k, v in BOUGHT["parts"].items() if k != "motors"}
    after = workshop.send("POST", "/builds/replace-parts", {"document": BOUGHT, "parts": parts}).json()
    assert [(left["kind"], left["name"]) for left in after["left_over"]] == [("motors", "Motor")]
    assert "motors" not in after["parts"]


def test_a_candidate_says_what_choosing_it_leaves_over(workshop, library):
    found = workshop.send("POST", "/candidates", {"document": BOUGHT, "kind": "motors"}).json()["candidates"]
    assert all([left["name"] for left in c["left_over"]] == ["Motor"] for c in found)
    planned = workshop.send("POST", "/candidates", {"document": SPIT_RUNNER, "kind": "motors"}).json()["candidates"]
    assert all(c.get("left_over") is None for c in planned)
