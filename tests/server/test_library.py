"""The library: one's own parts, files out and in, and nothing lost on the way."""

import csv
import io
import json

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from hypothesis import given, settings
from hypothesis import strategies as st
from openpyxl import Workbook, load_workbook

from boardmath.buildfile import BuildFileError
from planner.shared.csv_table import write_table
from server.library.models import Part
from server.tabular import read_table

MOTOR = {
    "name": "From the winch",
    "kv_rpm_per_v": 182,
    "can_diameter_mm": 63,
    "price": 40.5,
    "currency": "EUR",
    "mass_g": 600,
}


def add(workshop, kind="motors", **record):
    return workshop.send(
        "POST", "/parts", {"kind": kind, "record": {**MOTOR, **record} if kind == "motors" else record}
    )


def names(workshop, query="own=true&limit=200") -> set[str]:
    return {p["record"]["name"] for p in workshop.send("GET", f"/parts?{query}").json()["parts"]}


def bring(workshop, data: str | bytes, take: bool):
    body = data.encode() if isinstance(data, str) else data
    return workshop.client.generic(
        "POST", f"/api/parts/import?take={str(take).lower()}", body, content_type="text/plain"
    )


def alter(workshop, part, **record):
    """Other figures for a part, by somebody who knows it as it is in ``part``."""
    return workshop.send(
        "PUT", f"/parts/{part['id']}", {"record": {**part["record"], **record}, "before": part["record"]}
    )


# --- by hand ----------------------------------------------------------------------------------------------------------


def test_a_part_is_added_altered_and_says_what_is_assumed_for_the_rest(workshop):
    made = add(workshop).json()
    assumed = {m["key"]: m for m in made["missing"]}
    assert assumed["phase_resistance_mohm"]["rule"] == "can volume and KV"
    altered = alter(workshop, made, phase_resistance_mohm=30.0).json()
    assert altered["record"]["phase_resistance_mohm"] == 30.0
    assert "phase_resistance_mohm" not in {m["key"] for m in altered["missing"]}
    row = workshop.send("GET", "/parts?kind=motors&own=true").json()["parts"][0]
    assert row["assumed"] == sum("rule" in m for m in altered["missing"])


@pytest.mark.parametrize(
    ("record", "field", "says"),
    [
        ({"kv_rpm_per_v": 0.5}, "kv_rpm_per_v", "outside 15 to 6000"),
        ({"name": "  "}, "name", "needs a name"),
        ({"name": None}, "name", "needs a name"),
        ({"price": 3.999}, "price", "two decimal places"),
        ({"colour": "red"}, "colour", "unknown key"),
    ],
)
def test_a_wrong_figure_is_refused_with_its_reason_and_nothing_changes(workshop, record, field, says):
    made = add(workshop).json()
    for answer in (
        alter(workshop, made, **record),
        add(workshop, **{"name": "Another", **record}),
    ):
        assert answer.status_code == 422
        assert [(f["field"], says in f["reason"]) for f in answer.json()["faults"]] == [(field, True)]
    assert names(workshop) == {"From the winch"}
    assert workshop.send("GET", f"/parts/{made['id']}").json()["record"] == made["record"]


def test_a_part_changed_elsewhere_since_is_not_written_over(workshop):
    made = add(workshop).json()
    assert alter(workshop, made, mass_g=700).status_code == 200
    late = alter(workshop, made, kv_rpm_per_v=140)
    assert late.status_code == 409
    assert late.json()["record"]["mass_g"] == 700
    assert workshop.send("GET", f"/parts/{made['id']}").json()["record"] == late.json()["record"]
    both = alter(workshop, late.json(), kv_rpm_per_v=140).json()["record"]
    assert (both["mass_g"], both["kv_rpm_per_v"]) == (700, 140)
    assert alter(workshop, late.json(), kv_rpm_per_v=140).status_code == 200, "an answer was lost, and it is sent again"


def test_what_is_said_of_a_part_on_a_board_stays_out_of_the_library(workshop):
    made = add(workshop, owned=True, purchase={"status": "arrived"}).json()
    assert not {"owned", "purchase"} & set(made["record"])


def test_a_shared_part_is_duplicated_to_be_altered(workshop, other_workshop, library):
    shared = Part.objects.filter(owner=None, kind="motors").first()
    refused = workshop.send("PUT", f"/parts/{shared.id}", {"record": MOTOR, "before": MOTOR})
    assert refused.status_code == 403
    assert "Duplicate it" in refused.json()["message"]
    assert workshop.send("DELETE", f"/parts/{shared.id}").status_code == 403
    first, second = (workshop.send("POST", f"/parts/{shared.id}/duplicate").json() for _ in range(2))
    assert first["own"]
    assert {first["record"]["name"], second["record"]["name"]} == {f"{shared.name}, mine", f"{shared.name}, mine 2"}
    assert names(other_workshop) == set()


def test_a_part_thrown_out_comes_back(workshop):
    made = add(workshop).json()
    assert workshop.send("DELETE", f"/parts/{made['id']}").status_code == 204
    assert names(workshop) == set()
    assert workshop.send("GET", f"/parts/{made['id']}").status_code == 404
    assert workshop.send("POST", f"/parts/{made['id']}/restore").json()["record"] == made["record"]
    assert workshop.send("DELETE", f"/parts/{made['id']}").status_code == 204
    add(workshop)  # the name is free again
    refused = workshop.send("POST", f"/parts/{made['id']}/restore")
    assert refused.status_code == 422
    assert "already" in refused.json()["message"]


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("GET", "", None),
        ("PUT", "", {"record": MOTOR, "before": MOTOR}),
        ("DELETE", "", None),
        ("POST", "/duplicate", None),
        ("POST", "/restore", None),
    ],
)
def test_nobody_else_sees_or_touches_ones_parts(workshop, other_workshop, method, path, body):
    made = add(workshop).json()
    assert other_workshop.send(method, f"/parts/{made['id']}{path}", body).status_code == 404
    kept = Part.objects.get(pk=made["id"])
    assert (kept.deleted_at, kept.name, Part.objects.count()) == (None, "From the winch", 1)
    assert "winch" not in other_workshop.client.get("/api/parts/file?own=false").content.decode()


def test_five_hundred_parts_come_by_the_page_without_a_query_each(workshop):
    def fill(start: int, end: int) -> None:
        Part.objects.bulk_create(
            Part(owner=workshop.user, kind="motors", name=f"Motor {i:03}", figures={"kv_rpm_per_v": 100 + i})
            for i in range(start, end)
        )

    fill(0, 50)
    workshop.send("GET", "/parts?kind=motors")  # a day's first request writes down that the device was seen
    with CaptureQueriesContext(connection) as few:
        workshop.send("GET", "/parts?kind=motors&limit=40")
    fill(50, 500)
    with CaptureQueriesContext(connection) as many:
        page = workshop.send("GET", "/parts?kind=motors&limit=40&offset=40").json()
    assert len(many) == len(few) <= 4
    assert (page["count"], page["kinds"]) == (500, {"motors": 500})
    assert [p["record"]["name"] for p in page["parts"]] == [f"Motor {i:03}" for i in range(40, 80)]
    found = workshop.send("GET", "/parts?find=motor 07").json()
    assert found["count"] == 15  # 007, 107 to 407, and 070 to 079
    assert workshop.send("GET", "/parts?limit=1000").status_code == 422


# --- files ------------------------------------------------------------------------------------------------------------


def test_a_library_goes_out_as_csv_and_json_and_comes_back_the_same(workshop, other_workshop, library):
    for kind in ("motors", "pack", "cell", "drive", "extra"):
        workshop.send("POST", f"/parts/{Part.objects.filter(owner=None, kind=kind).first().id}/duplicate")
    add(workshop, name='\'=quoted, "and" said\nin two lines', notes="-5 °C; ü", measured=["kv_rpm_per_v", "mass_g"])
    workshop.send(
        "POST", "/parts", {"kind": "deck", "record": {"name": "+ camber", "rocker_mm": -12.5, "cutouts": True}}
    )
    mine = workshop.send("GET", "/parts?own=true&limit=200").json()["parts"]
    for form in ("csv", "json"):
        file = workshop.client.get(f"/api/parts/file?form={form}").content
        offered = bring(other_workshop, file, take=True).json()
        assert (offered["good"], offered["rest"]) == (7, None), offered
        theirs = other_workshop.send("GET", "/parts?own=true&limit=200").json()["parts"]
        assert [(p["kind"], p["record"]) for p in theirs] == [(p["kind"], p["record"]) for p in mine]
        assert {r["outcome"] for r in bring(other_workshop, file, take=False).json()["rows"]} == {"same"}
        Part.objects.filter(owner=other_workshop.user).delete()


BROKEN = """part,name,kv_rpm_per_v,can_diameter_mm,price,cutouts
motors,Good one,190,63,45,
motors,Too slow,2,63,45,
wings,No such kind,,,,
motors,,190,63,,
motors,Good one,170,63,,
deck,Wide plank,,,60,perhaps
deck,Plank,,,60,yes
"""


def test_broken_rows_are_given_back_and_good_ones_kept(workshop):
    looked = bring(workshop, BROKEN, take=False).json()
    assert names(workshop) == set(), "looking changes nothing"
    assert [(r["line"], r["outcome"]) for r in looked["rows"]] == [
        (2, "new"),
        (3, "broken"),
        (4, "broken"),
        (5, "broken"),
        (6, "broken"),
        (7, "broken"),
        (8, "new"),
    ]
    reasons = {r["line"]: r["faults"][0]["reason"] for r in looked["rows"] if r["faults"]}
    assert "outside 15 to 6000" in reasons[3]
    assert "one of deck" in reasons[4]
    assert "needs a name" in reasons[5]
    assert "further up" in reasons[6]
    assert bring(workshop, BROKEN, take=True).json()["good"] == 2
    assert names(workshop) == {"Good one", "Plank"}
    # What was given back is mended and brought in again as it is, its column of reasons and all.
    rest = (
        looked["rest"]
        .replace("Too slow,2,", "Not so slow,120,")
        .replace("Wide plank,,,60,perhaps", "Wide plank,,,60,no")
    )
    again = bring(workshop, rest, take=True).json()
    outcomes = {r["name"]: r["outcome"] for r in again["rows"]}
    assert outcomes == {
        "Not so slow": "new",
        "No such kind": "broken",
        "": "broken",
        "Good one": "alters",
        "Wide plank": "new",
    }
    assert names(workshop) == {"Good one", "Plank", "Not so slow", "Wide plank"}


def test_a_row_of_ones_own_name_alters_it(workshop):
    made = add(workshop).json()
    answer = bring(workshop, "part;name;kv_rpm_per_v;price\nmotors;From the winch;187,5;1,25\n", take=True).json()
    assert answer["rows"][0]["outcome"] == "alters"
    kept = workshop.send("GET", f"/parts/{made['id']}").json()["record"]
    assert kept == {"name": "From the winch", "kv_rpm_per_v": 187.5, "price": 1.25}, (
        "semicolons let decimals have commas"
    )


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "empty"),
        (b"\xff\xfe\x00", "UTF-8"),
        (b"\x00\x01", "zero bytes"),
        (b'part,name\nmotors,"open', "line 2"),
        (b"part,part,name\n", "twice"),
        (b"colour,size\nred,3\n", "part"),
        (b'{"format": "sand-pocket/build"}', "file of parts"),
        (b'{"format": "sand-pocket/parts", "version": 9, "parts": []}', "version 1"),
        (b"[1, 2]", "in braces"),
        ("part,name\n" + "motors,x\n" * 1001, "1000 rows"),
    ],
)
def test_a_file_of_which_nothing_can_be_used_says_why(workshop, data, says):
    answer = bring(workshop, data, take=True)
    assert answer.status_code == 422
    assert says in json.dumps(answer.json(), ensure_ascii=False)
    assert Part.objects.count() == 0


def test_a_spreadsheet_opens_a_table_and_runs_nothing_in_it(workshop):
    """OWASP, "CSV Injection": what begins with = + - @ or a control character is run by a spreadsheet unless disarmed."""
    evil = ["=1+1", "+1", "-1+2", "@SUM(A1)", "\t=1", '=HYPERLINK("http://nowhere","x")', "'=1", "plain"]
    for name in evil:
        assert add(workshop, name=name.strip("\t") or name, notes=name).status_code in (200, 422)
    text = workshop.client.get("/api/parts/file?form=csv").content.decode("utf-8-sig")
    book = Workbook()
    for row in csv.reader(io.StringIO(text, newline="")):
        book.active.append(row)
    saved = io.BytesIO()
    book.save(saved)
    cells = [cell for row in load_workbook(io.BytesIO(saved.getvalue())).active.iter_rows() for cell in row]
    assert len(cells) > 30
    assert not [c.value for c in cells if c.data_type == "f"], "openpyxl takes a text that begins with = for a formula"
    texts = [c.value for c in cells if isinstance(c.value, str) and not _is_number(c.value)]
    assert not [t for t in texts if t.startswith(("=", "+", "-", "@", "\t", "\r"))]
    assert next(c for c in cells if c.value == "price").row == 1


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


@given(
    st.lists(
        st.lists(st.text(st.characters(codec="utf-8", exclude_characters="\0\r"), max_size=12), min_size=2, max_size=2),
        max_size=5,
    )
)
@settings(deadline=None)
def test_any_text_reads_back_as_it_was(cells):
    rows = [{"a": a.strip(), "b": b.strip()} for a, b in cells]
    _, read, _ = read_table(write_table(["a", "b"], rows))
    assert [r.cells for r in read] == [{k: v for k, v in row.items() if v} for row in rows if any(row.values())]


def test_a_table_with_nothing_in_its_first_line_is_refused():
    with pytest.raises(BuildFileError, match="empty"):
        read_table("\n1,2\n")


def test_a_table_of_a_hundred_thousand_columns_and_a_search_of_a_thousand_words_cost_nothing(workshop):
    wide = ",".join(f"c{i}" for i in range(100_000))
    refused = bring(workshop, wide, take=False)
    assert refused.status_code == 422
    assert "100,000 columns" in str(refused.json())
    long = workshop.send("GET", f"/parts?find={'+'.join(['deck'] * 1000)}")
    assert long.status_code == 422
    assert long.json()["faults"] == [{"field": "find", "reason": "at most 12 words"}]
    assert workshop.send("GET", "/parts?find=a+b+c+d+e+f+g+h+i+j+k+l").status_code == 200
