"""The box through the API: what it will be, its files, and that they are nobody else's."""

import io
import re

import ezdxf.filemanagement
import ezdxf.units
import pytest
import trimesh

from tests.core.boards import SPIT_RUNNER, changed

pytestmark = pytest.mark.django_db

BOXED = changed(
    SPIT_RUNNER,
    {"parts.enclosure.depth_mm": 40, "parts.enclosure.bed_length_mm": 300, "parts.enclosure.bed_width_mm": 260},
)


def kept(workshop, document) -> str:
    return workshop.new(document)["id"]


def test_a_box_is_told_before_it_is_saved(workshop):
    answer = workshop.send("POST", "/enclosure", {"document": BOXED})
    (box,) = answer.json()
    assert box["which"] == "enclosure"
    assert len(box["pieces"]) == 2
    assert box["wheels_mm"] > 0
    assert len(box["picture"]["faces"]) > 200


def test_what_cannot_be_made_says_why_and_has_no_file(workshop):
    small = changed(BOXED, {"parts.enclosure.length_mm": 200})
    (box,) = workshop.send("POST", "/enclosure", {"document": small}).json()
    assert "do not fit" in box["cannot"]["text"]
    assert box["field"] == "parts.enclosure.length_mm"
    answer = workshop.send("POST", f"/builds/{kept(workshop, small)}/enclosure/enclosure/piece-1.stl")
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["field"] == "parts.enclosure.length_mm"


@pytest.mark.parametrize("kind", ["stl", "3mf"])
def test_the_halves_are_taken_away_as_solids(workshop, kind):
    id = kept(workshop, BOXED)
    for number in (1, 2):
        answer = workshop.made(f"/builds/{id}/enclosure/enclosure/piece-{number}.{kind}")
        assert answer.status_code == 200
        assert re.search(rf'filename="spit-runner-enclosure-{number}-of-2\.{kind}"', answer["Content-Disposition"])
        solid = trimesh.load_mesh(io.BytesIO(answer.content), file_type=kind)
        assert solid.is_watertight
        assert solid.volume > 100_000
    third = workshop.ask(f"/builds/{id}/enclosure/enclosure/piece-3.{kind}")
    assert (third["state"], "was deleted" in third["message"]) == ("failed", True)


@pytest.mark.parametrize("pattern", ["net", "drilling"])
def test_the_patterns_are_taken_away_in_millimetres(workshop, pattern):
    id = kept(workshop, BOXED)
    dxf = workshop.client.get(f"/api/builds/{id}/enclosure/enclosure/{pattern}.dxf").content.decode()
    drawn = ezdxf.filemanagement.read(io.StringIO(dxf))
    assert drawn.units == ezdxf.units.MM
    assert len(drawn.modelspace().query("CIRCLE")) >= 10
    svg = workshop.client.get(f"/api/builds/{id}/enclosure/enclosure/{pattern}.svg").content.decode()
    assert "<svg" in svg


def test_nobody_takes_away_somebody_elses_box(workshop, other_workshop):
    id = kept(workshop, BOXED)
    for method, file in (("POST", "piece-1.stl"), ("POST", "piece-1.3mf"), ("GET", "net.dxf"), ("GET", "drilling.svg")):
        assert other_workshop.send(method, f"/builds/{id}/enclosure/enclosure/{file}").status_code == 404


def test_a_board_that_is_there_becomes_the_beginning_of_a_build(workshop):
    said = {
        "format": "sand-pocket/build",
        "version": 1,
        "rider": {"mass_kg": 80},
        "parts": {"motors": {"kind": "hub", "count": 2}, "charger": {"v": 25.2}},
        "existing": {"top_speed_kmh": 24},
    }

    def ask(**more):
        return workshop.send("POST", "/builds/adapt", {"document": said, **more})

    made = ask(replaced=["pack"]).json()
    assert made["existing"]["was"]["pack"]["series"] == 6
    assert made["parts"]["motors"]["kv_rpm_per_v"] > 40
    assert "pack" not in made["parts"]
    refused = ask(replaced=["brakes"])
    assert refused.status_code == 422
    assert "brakes" in refused.json()["message"]


def test_a_part_that_was_typed_is_kept_without_what_belongs_to_the_board(workshop):
    record = {
        "name": "Motor from the drawer",
        "kv_rpm_per_v": 190,
        "count": 2,
        "owned": True,
        "measured": ["kv_rpm_per_v"],
        "purchase": {"status": "arrived"},
    }
    answer = workshop.send("POST", "/parts", {"kind": "motors", "record": record})
    assert answer.status_code == 200, answer.content
    assert answer.json()["record"] == {"name": "Motor from the drawer", "kv_rpm_per_v": 190}


def test_a_kit_goes_out_of_the_library_and_back_with_all_that_is_in_it(workshop):
    kit = {
        "name": "Own kit",
        "price": 120,
        "contents": {"motors": {"name": "Motor", "kv_rpm_per_v": 190}, "charger": {"name": "Charger", "v": 42, "a": 2}},
    }
    id = workshop.send("POST", "/parts", {"kind": "kit", "record": kit}).json()["id"]
    for form in ("json", "csv"):
        file = workshop.client.get(f"/api/parts/file?form={form}")
        assert file.status_code == 200, file.content[:200]
        assert b"Own kit" in file.content
    assert workshop.client.get(f"/api/parts/{id}").json()["record"]["contents"]["charger"]["v"] == 42


def test_the_template_shows_old_holes_the_pocket_and_both_boxes(workshop):
    from pypdf import PdfReader

    document = changed(
        SPIT_RUNNER,
        {
            "parts.deck.moved_mm": 40,
            "parts.deck.thickness_mm": 18,
            "parts.deck.routed_mm": 3,
            "parts.enclosure.length_mm": 250,
            "parts.second_enclosure": {"length_mm": 120, "width_mm": 140, "depth_mm": 34},
        },
    )
    pages = PdfReader(io.BytesIO(workshop.made(f"/builds/{kept(workshop, document)}/template").content)).pages
    text = " ".join(page.extract_text() for page in pages)
    assert "enclosure 250 x 180 mm" in text
    assert "enclosure 120 x 140 mm" in text
    assert "routed 3 mm deep" in text
