"""``python -m boardmath``: the build file in, JSON out, and exit code 2 with a message for a bad one."""

import json
import subprocess
import sys
from pathlib import Path

import pytest

from boardmath.buildfile import BuildFile
from tests.core.boards import SPIT_RUNNER, changed
from tests.core.command import run

EXAMPLE = Path(__file__).parent / "spit_runner.json"


def test_predict_prints_one_object_with_the_contracts_keys():
    """In a process of its own, as people run it; the other tests run the same function here."""
    command = [sys.executable, "-m", "boardmath", "predict", str(EXAMPLE)]
    done = subprocess.run(command, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    found = json.loads(done.stdout)
    assert found["pack_wh"] == 324.0
    assert set(found["top_speed_kmh"]) == {"low", "mid", "high", "limit"}
    assert set(found["hill"]["start_grade_pct"]) == {"low", "mid", "high", "limit"}
    assert {s["grade_pct"] for s in found["hill"]["speeds"]} == {5, 10, 12, 15, 20, 25, 30}
    assert found["range_km"]["at_kmh"] == pytest.approx(22)
    assert set(found["mass_kg"]) == {"board", "rolling"}
    assert found["cost"]["currency"] == "EUR"
    assert {"input", "title", "result", "share", "owner"} <= set(found["widest"][0])
    for key in ("range_to_cutoff_km", "range_km", "range_worst_day_km"):
        assert {"low", "mid", "high"} <= set(found[key])
    assert {"id", "severity", "about", "text"} <= set(found["findings"][0])


def test_no_bands_leaves_low_and_high_out():
    found = json.loads(run("predict", "--no-bands", "-", text=EXAMPLE.read_text()).stdout)
    assert set(found["top_speed_kmh"]) == {"mid", "limit"}
    assert "widest" not in found


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("{not json", "not JSON"),
        (
            json.dumps(changed(SPIT_RUNNER, {"parts.wheels.diameter_mm": 0.09})),
            "parts.wheels.diameter_mm: 0.09 mm is outside",
        ),
        (json.dumps(changed(SPIT_RUNNER, {"parts.pack": None})), "parts.pack.series: Choose a pack"),
        (json.dumps({**SPIT_RUNNER, "version": 9}), "newer"),
    ],
)
def test_a_bad_file_is_named_on_standard_error(text, says):
    done = run("predict", "-", text=text)
    assert done.returncode == 2
    assert done.stdout == ""
    assert says in done.stderr
    assert "Traceback" not in done.stderr


def test_a_file_that_is_not_there():
    done = run("predict", "/nowhere/board.json")
    assert (done.returncode, done.stdout) == (2, "")
    assert "No such file" in done.stderr


def test_schema_is_the_build_files():
    schema = json.loads(run("schema").stdout)
    assert set(schema["properties"]) == set(BuildFile.model_fields)
    assert schema["$defs"]["Wheels"]["properties"]["diameter_mm"]["unit"] == "mm"


def test_box_prints_how_it_is_made_and_writes_its_pieces(tmp_path):
    deep = changed(SPIT_RUNNER, {"parts.enclosure.depth_mm": 40, "parts.enclosure.bed_length_mm": 300})
    done = run("box", "-", "--stl", str(tmp_path), text=json.dumps(deep))
    assert done.returncode == 0, done.stderr
    (box,) = json.loads(done.stdout)
    assert [p["number"] for p in box["pieces"]] == [1, 2]
    assert "picture" not in box
    assert sorted(p.name for p in tmp_path.iterdir()) == ["enclosure-1.stl", "enclosure-2.stl"]


def test_a_box_that_cannot_be_made_is_named_on_standard_error():
    tight = changed(SPIT_RUNNER, {"parts.enclosure.length_mm": 200})
    done = run("box", "-", text=json.dumps(tight))
    assert (done.returncode, done.stdout) == (2, "")
    assert "parts.enclosure.length_mm: Its contents do not fit" in done.stderr


def test_assembly_prints_the_steps_in_an_order_that_can_be_followed():
    done = run("assembly", "-", text=json.dumps(SPIT_RUNNER))
    assert done.returncode == 0, done.stderr
    found = json.loads(done.stdout)
    assert set(found) == {"steps", "tools"}
    seen: set[str] = set()
    tools = {t["name"] for t in found["tools"]}
    for step in found["steps"]:
        assert {"id", "phase", "title", "after", "needs", "tools", "threadlock", "minutes", "checks"} <= set(step)
        assert set(step["after"]) <= seen
        assert set(step["tools"]) <= tools
        assert step["threadlock"] in ("none", "medium")
        assert 0 < step["minutes"]["low"] <= step["minutes"]["high"]
        assert all(set(check) == {"id", "text", "unit"} for check in step["checks"])
        seen.add(step["id"])
    assert all(t["why"] for t in found["tools"])
    bad = run("assembly", "-", text="{}")
    assert (bad.returncode, bad.stdout) == (2, "")


def test_findings_are_printed_under_the_keys_that_programs_read(tmp_path):
    """The names inside changed in version 2 of the build file; what is printed did not."""
    build = changed(
        SPIT_RUNNER,
        {"parts.fuse.a": 80, "accepted": [{"finding": "fuse-wire", "reason": "short and in free air"}]},
    )
    file = tmp_path / "board.json"
    file.write_text(json.dumps(build))
    findings = {f["id"]: f for f in json.loads(run("predict", str(file)).stdout)["findings"]}
    assert set(findings["fuse-wire"]) >= {"saying", "cures", "aside"}
    assert findings["fuse-wire"]["aside"]["reason"] == "short and in free air"
    assert findings["fuse-wire"]["saying"]["text"] == findings["fuse-wire"]["text"]
