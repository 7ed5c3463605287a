"""The pack as it is built: places, polarity, links, strips; against published values and by geometry."""

import json
import random
from math import dist

import numpy as np
import pytest
from scipy.integrate import solve_bvp
from shapely import unary_union
from shapely.geometry import box as rectangle

from boardmath import predict, read_build
from boardmath.buildfile import BuildFileError
from boardmath.checks.pack_making import strip_heat_at
from boardmath.geometry.cell_layout import CELL_SIZES, facing_pairs, ways
from boardmath.geometry.cell_links import laid, links
from boardmath.model.cell_groups import plan_of
from boardmath.model.evaluation import evaluate
from boardmath.physics import strip, wire
from planner.__main__ import main
from planner.pack.report import pack_report
from tests.core.boards import SPIT_RUNNER, changed, spit_runner
from tests.core.command import run

AWG_TABLE = {
    # AWG: diameter in mm, mOhm a metre of annealed copper at 20 C (ASTM B258, table 1, and its resistance by IEC 60028).
    6: (4.115, 1.296),
    8: (3.264, 2.061),
    10: (2.588, 3.277),
    12: (2.053, 5.211),
    14: (1.628, 8.286),
    20: (0.8118, 33.31),
    24: (0.5106, 84.22),
}


@pytest.mark.parametrize("awg", AWG_TABLE)
def test_wire_is_as_the_standard_has_it(awg):
    diameter, resistance = AWG_TABLE[awg]
    assert 1e3 * wire.diameter(awg) == pytest.approx(diameter, rel=2e-3)
    assert 1e3 * wire.resistance(awg, 1.0) == pytest.approx(resistance, rel=6e-3)


def test_strips_resist_by_the_handbooks():
    # CRC Handbook, nickel at 293 K: 6.93e-8 ohm m; 0.15 x 8 mm: 57.8 mOhm a metre.
    assert 1e3 * strip.resistance("nickel", 8e-3, 0.15e-3, 1.0) == pytest.approx(57.75, rel=1e-3)
    assert strip.resistance("copper", 8e-3, 0.1e-3, 1.0) == pytest.approx(1e6 / 58e6 / 0.8, rel=1e-6)
    ratio = strip.resistance("steel", 8e-3, 0.15e-3, 1.0) / strip.resistance("nickel", 8e-3, 0.15e-3, 1.0)
    assert 1.9 < ratio < 2.2


def test_an_endless_strip_bears_what_the_rule_of_thumb_trusts_it_with():
    """Common practice, no source: 0.15 x 8 mm nickel some 5 to 7 A for long; steel sold as nickel a quarter."""
    nickel = strip.ampacity("nickel", 8e-3, 0.15e-3)
    assert 5.0 <= nickel <= 7.0
    assert strip.ampacity("steel", 8e-3, 0.15e-3) == pytest.approx(nickel / 4.0)
    assert strip.ampacity("copper", 8e-3, 0.15e-3) > 1.9 * nickel
    assert strip.rise("nickel", 8e-3, 0.15e-3, nickel) == pytest.approx(strip.RULE_RISE)
    assert strip.rise("nickel", 8e-3, 0.15e-3, 2.0 * nickel) == pytest.approx(4.0 * strip.RULE_RISE)


@pytest.mark.parametrize("material", strip.CONDUCTIVITY)
@pytest.mark.parametrize("free", [0.0145, 0.0175, 0.06, 0.4])
def test_a_strip_between_two_welds_warms_as_a_boundary_problem_solved_by_itself_has_it(material, free):
    """``k A T'' = h U T - I^2 R'`` with T = 0 at both welds, solved by collocation (SciPy) and not by the closed form."""
    width, thick, current = 8e-3, 0.15e-3, 35.0
    around = strip.COEFFICIENT * 2.0 * (width + thick)
    conducts = strip.CONDUCTIVITY[material] * width * thick
    heat = current**2 * strip.RESISTIVITY[material] * (1.0 + strip.PER_KELVIN[material] * strip.WARM) / (width * thick)
    x = np.linspace(0.0, free, 41)
    solved = solve_bvp(
        lambda _, y: np.array([y[1], (around * y[0] - heat) / conducts]),
        lambda a, b: np.array([a[0], b[0]]),
        x,
        np.zeros((2, x.size)),
        tol=1e-6,
        max_nodes=20_000,
    )
    assert solved.success
    assert strip.rise(material, width, thick, current, free) == pytest.approx(solved.sol(free / 2.0)[0], rel=1e-4)


def test_short_strips_give_their_heat_to_the_cells_and_long_ones_to_the_air():
    """At 35 A the gaps between cells of both sizes warm by 14 to 30 K, and not by the hundreds of a strip in air."""
    for pitch in (18.5e-3, 21.5e-3):
        assert 14.0 < strip.rise("nickel", 8e-3, 0.15e-3, 35.0, pitch - strip.WELDED) < 30.0
    endless = strip.rise("nickel", 8e-3, 0.15e-3, 35.0)
    assert endless > 300.0
    assert strip.rise("nickel", 8e-3, 0.15e-3, 35.0, 1.0) == pytest.approx(endless, rel=1e-3)


def any_packs(count: int, seed: int):
    chance = random.Random(seed)
    for _ in range(count):
        yield spit_runner(
            parts__pack__series=chance.randint(2, 14),
            parts__pack__parallel=chance.randint(1, 12),
            parts__pack__layout=chance.choice(["flat", "stacked"]),
            parts__pack__cell__size=chance.choice(list(CELL_SIZES)),
            parts__enclosure__length_mm=chance.randint(260, 700),
            parts__enclosure__width_mm=chance.randint(120, 230),
            parts__enclosure__depth_mm=chance.randint(25, 110),
            **{
                "pack_assembly.plan.lie": chance.choice([None, None, "across", "along", "standing"]),
                "pack_assembly.plan.layers": chance.choice([None, None, 1, 2]),
            },
        )


def test_cells_never_overlap_and_every_one_is_in_one_group():
    seen = 0
    for build in any_packs(120, 5):
        pack = build.parts.pack
        for part in laid(build):
            if not part.items:
                continue
            seen += 1
            assert len(part.items) == pack.series * pack.parallel
            for group in range(1, pack.series + 1):
                assert sum(i.group == group for i in part.items) == pack.parallel
            by_layer: dict[float, list] = {}
            for item in part.items:
                by_layer.setdefault(round(item.z[0], 1), []).append(
                    rectangle(item.x[0], item.y[0], item.x[1], item.y[1])
                )
            for shapes in by_layer.values():
                whole = sum(s.area for s in shapes)
                assert unary_union(shapes).area == pytest.approx(whole, rel=1e-6), "no two cells in one place"
            inner = part.inner
            assert all(-inner[1] / 2 - 0.01 <= i.y[0] and i.y[1] <= inner[1] / 2 + 0.01 for i in part.items)
            assert all(i.z[1] <= inner[2] + 0.01 for i in part.items)
    assert seen > 60


def test_the_path_visits_each_group_once_and_every_second_one_is_turned():
    for build in any_packs(60, 9):
        found = links(build)
        if not found:
            continue
        assert [link.between for link in found] == [(g, g + 1) for g in range(1, build.parts.pack.series)]
        for part in laid(build):
            assert all(item.turned == (item.group % 2 == 0) for item in part.items)


def test_groups_that_follow_each_other_meet_where_they_lie_in_one_plane():
    """Standing, or in one bank, plus of one lies beside minus of the next: strips join them, and no wire."""
    standing = spit_runner(
        parts__pack__parallel=4, parts__enclosure__depth_mm=80, **{"pack_assembly.plan.lie": "standing"}
    )
    assert all(link.strips for link in links(standing))


def test_an_order_of_ones_own_is_followed_and_a_wrong_one_is_refused():
    order = [1, 3, 2, *range(4, 11)]
    build = spit_runner(**{"pack_assembly.plan.order": order})
    lying = list(dict.fromkeys(i.group for part in laid(build) for i in part.items))
    assert lying == order
    with pytest.raises(BuildFileError, match="every group once"):
        spit_runner(**{"pack_assembly.plan.order": [1, 1, 2]})


def test_the_current_of_the_settings_runs_through_every_link():
    for amperes in (20.0, 35.0):
        assert {link.current for link in links(spit_runner(settings__pack_current_a=amperes))} == {amperes}


def test_more_strips_bear_more_lose_less_and_fix_the_finding():
    planned = {"pack_assembly.plan": {"strip": "nickel", "strip_thickness_mm": 0.1}, "settings.pack_current_a": 60}
    thin = read_build(changed(SPIT_RUNNER, planned))
    found = next(f for f in predict(thin).findings if f.id == "strip-current")
    assert found.severity == "danger"
    assert "40 A" in found.text, "what the controller lets through"
    assert found.fixes
    for fix in found.fixes:
        cured = read_build(changed(SPIT_RUNNER, {**planned, **fix.changes}))
        assert "strip-current" not in {f.id for f in predict(cured).findings}, fix.message.text
    doubled = read_build(changed(SPIT_RUNNER, {**planned, "pack_assembly.plan.strip_layers": 2}))
    assert pack_report(doubled).volts < pack_report(thin).volts
    assert pack_report(doubled).strip_mass_g > pack_report(thin).strip_mass_g
    for link in pack_report(thin).links:
        assert (link.rise_k <= strip.RISE_AT_THE_LIMIT * 1.0001) == link.holds or link.awg is not None, (
            "what bears it stays cool"
        )
        assert link.loss_w == pytest.approx(link.current_a * link.volts)
        assert link.ride_rise_k < link.rise_k


def test_strips_over_the_rule_of_thumb_ask_for_pure_metal_and_its_fix_keeps_the_rule():
    planned = {"pack_assembly.plan": {"strip": "nickel"}, "settings.pack_current_a": 20}
    found = next(f for f in predict(spit_runner(**planned)).findings if f.kind == "strip-rule")
    assert found.severity == "note"
    assert "salt water" in found.text
    kept = read_build(changed(SPIT_RUNNER, {**planned, **found.fixes[0].changes}))
    assert not {"strip-rule", "strip-current"} & {f.kind for f in predict(kept).findings}


def test_a_ride_that_keeps_its_strips_warm_is_told_by_its_mean_current():
    """The same links and limits, once ridden gently and once with a current near the limit all the way."""
    build = spit_runner(**{"pack_assembly.plan": {"strip": "nickel"}, "settings.pack_current_a": 20})
    bears = min(link.bears_long for link in links(build) if link.awg is None)
    assert not list(strip_heat_at(build, 0.9 * bears))
    (found,) = strip_heat_at(build, 1.1 * bears)
    assert f"{1.1 * bears:.1f} A flow on the average" in found.text
    kept = read_build(changed(SPIT_RUNNER, {"pack_assembly.plan": {"strip": "nickel"}, **found.fixes[0].changes}))
    assert not list(strip_heat_at(kept, 1.1 * bears))


def test_the_mean_current_of_a_ride_is_that_of_its_energy_where_it_is_even():
    """A flat way without stops, wind or hills draws nearly the same all along: root mean square and mean agree."""
    even = spit_runner(brief__ascent_m_per_km=0, brief__stops_per_km=0, brief__wind_ms=0)
    (found,) = evaluate([even], 0)
    ride = found.rides[0]
    volts = found.resolved.fixed["series"] * 3.6
    assert found.pack_rms == pytest.approx(ride.energy / ride.seconds / volts, rel=0.05)
    hilly = evaluate([spit_runner(brief__ascent_m_per_km=30)], 0)[0]
    assert hilly.pack_rms > 1.3 * hilly.rides[0].energy / hilly.rides[0].seconds / volts


def test_cells_lie_so_that_as_many_as_can_face_a_cell_of_the_next_group():
    """Of all ways that keep groups whole and go into the box, none has more neighbours over the seams; counted by distance."""
    better = 0
    for build in any_packs(80, 5):
        for part in laid(build):
            pack, groups = build.parts.pack, len({i.group for i in part.items})
            if part.inside is None or not part.inside.fits or part.spread:
                continue
            cell = CELL_SIZES[pack.cell.size]
            every = ways(cell, part.inner, groups, pack.parallel, plan_of(build), pack.layout)
            rest = part.inside.needed_length - max(i.x[1] for i in part.items) + min(i.x[0] for i in part.items)
            whole = [w for w in every if w.whole and w.needed + rest <= part.inner[0]]
            faced = sum(
                dist(a.middle, b.middle) < 1.05 * cell[0]
                for a in part.items
                for b in part.items
                if b.group == a.group + 1 and a.bank == b.bank
            )
            assert faced == max(facing_pairs(w, groups, pack.parallel) for w in whole)
            better += faced > facing_pairs(min(whole, key=lambda w: w.needed), groups, pack.parallel)
    assert better > 3, "sometimes the shortest is not it"


def test_halves_keep_the_voltage_down_and_their_link_is_made_last():
    report = pack_report(spit_runner(**{"pack_assembly.plan.halves": True}))
    assert [link.between for link in report.links if link.half] == [[5, 6]]
    assert report.half_v == pytest.approx(report.full_v / 2.0)
    assert next(link for link in report.links if link.half).strips == 0


def test_a_box_far_too_small_says_by_how_much_and_hatches_what_reaches_out():
    (block,) = pack_report(spit_runner(parts__enclosure__length_mm=200)).blocks
    assert block.cannot is not None
    assert "Too short" in block.cannot.text
    assert any(cell.out for cell in block.cells)
    (flat,) = pack_report(spit_runner(parts__enclosure__depth_mm=15)).blocks
    assert "Too shallow" in flat.cannot.text
    (fits,) = pack_report(spit_runner(parts__enclosure__length_mm=600)).blocks
    assert fits.cannot is None
    assert not any(cell.out for cell in fits.cells)


def test_two_boxes_that_both_hold_cells_share_the_groups():
    second = {"length_mm": 300, "width_mm": 180, "depth_mm": 40, "holds": "pack"}
    build = spit_runner(parts__enclosure__holds="pack", parts__second_enclosure=second)
    first, other = laid(build)
    assert {i.group for i in first.items} == set(range(1, 6))
    assert {i.group for i in other.items} == set(range(6, 11))
    assert next(link for link in links(build) if link.between == (5, 6)).strips == 0, "a wire from box to box"


def test_bricks_have_leads_and_a_rule_for_a_second_set():
    report = pack_report(
        spit_runner(parts__pack={"series": 10, "layout": "bricks", "bricks": 2, "cell": {"chemistry": "polymer"}})
    )
    assert report.kind == "bricks"
    assert [b.series for b in report.bricks] == [5, 5]
    assert any("0.1 V" in words.text for words in report.words)


def test_what_has_to_be_chosen_first_is_said():
    assert "series" in pack_report(spit_runner(parts__pack=None)).needs.text
    assert "size" in pack_report(spit_runner(parts__pack__cell__size="F cell")).needs.text


def test_the_command_line_prints_the_contract():
    answer = run("pack", "-", "--charge", "60", text=json.dumps(SPIT_RUNNER))
    found = json.loads(answer.stdout)
    assert [t["tap"] for t in found["taps"]] == list(range(11))
    assert found["taps"][0]["expected_v"] == 0.0
    assert {g["against"] for g in found["guards"]} == {
        "short",
        "emptying",
        "overcharge",
        "over_current",
        "heat",
        "reversed",
    }
    assert {"between", "current_a", "section_mm2", "material", "loss_w"} <= set(found["links"][0])
    assert {"from", "to", "awg", "length_mm", "current_a"} == set(found["wires"][0])


@pytest.mark.parametrize(
    ("arguments", "document", "said"),
    [
        ((), {**SPIT_RUNNER, "parts": {}}, "parts.pack.series"),
        (("--charge", "140"), SPIT_RUNNER, "--charge"),
        ((), {"format": "x"}, "format"),
    ],
)
def test_a_bad_file_is_refused_in_words(tmp_path, capsys, arguments, document, said):
    file = tmp_path / "board.json"
    file.write_text(json.dumps(document))
    assert main(["pack", str(file), *arguments]) == 2
    shown = capsys.readouterr()
    assert shown.out == ""
    assert said in shown.err


BOUGHT = {
    "parts.pack.name": "Slim block",
    "parts.pack.price": 320.0,
    "parts.pack.cell.price": None,
    "parts.pack.cell.origin": "new",
    "pack_assembly": {"plan": {"strip": "nickel", "strip_thickness_mm": 0.1}},
}


def test_how_a_bought_pack_is_joined_is_its_makers():
    """Whatever is left of a plan for its strips: nothing of it is judged, and what it is sold for stands beside what is asked."""
    own = spit_runner(**{**BOUGHT, "parts.pack.price": None, "parts.pack.cell.price": 4.0})
    assert any(f.kind == "strip-current" for f in predict(own).findings), "the plan is one that would be found wanting"
    bought = spit_runner(**BOUGHT)
    assert not any(f.kind == "strip-current" for f in predict(bought).findings)
    report = pack_report(bought)
    assert (report.kind, report.links, report.findings, report.work) == ("bought", [], [], [])
    for stated, sold in (
        (
            {"parts.pack.cell.max_discharge_a": 10.0, "parts.pack.protection": None},
            10.0 * (bought.parts.pack.parallel or 1),
        ),
        ({"parts.pack.cell.max_discharge_a": 10.0, "parts.pack.protection": {"max_discharge_a": 12.0}}, 12.0),
    ):
        said = pack_report(spit_runner(**BOUGHT, **stated)).bought
        assert said is not None
        assert said.values["sold"].value == pytest.approx(sold)
    unstated = {"parts.pack.cell.max_discharge_a": None, "parts.pack.protection": None}
    asked = pack_report(spit_runner(**BOUGHT, **unstated)).bought
    assert asked is not None
    assert set(asked.values) == {"asked"}
