"""``python -m planner pack``: balance leads, guards, links and wires of a build."""

from boardmath.battery.balance_leads import USUAL_CHARGE, expected
from boardmath.buildfile import Build, BuildFileError, Fault
from boardmath.model.cell_groups import leads_of
from boardmath.model.inputs import marked
from planner.pack.report import pack_report
from planner.wiring.guards import guards
from planner.wiring.path import wires


def pack_made(build: Build, charge_pct: float | None = None) -> dict[str, object]:
    """What is read, guarded, joined and wired; ``charge_pct`` for the leads, else the build's own or about half.

    Raises:
        BuildFileError: where the build has no pack with cells in series, or the charge is no share.
    """
    if charge_pct is not None and not 0.0 <= charge_pct <= 100.0:
        raise BuildFileError([Fault("--charge", f"from 0 to 100 per cent, not {charge_pct:g}")])
    build = marked(build)
    pack = build.parts.pack
    if pack is None or pack.series is None:
        raise BuildFileError([Fault("parts.pack.series", "missing; leads and links need it")])
    said = leads_of(build).charge_pct
    charge = charge_pct if charge_pct is not None else said if said is not None else USUAL_CHARGE
    return {
        "taps": [{"tap": lead, "expected_v": round(v, 3)} for lead, v in enumerate(expected(pack, charge))],
        "guards": [{"against": g.against, "by": g.by, "gap": g.gap} for g in guards(build)],
        "links": [
            {
                "between": link.between,
                "current_a": link.current_a,
                "section_mm2": link.section_mm2,
                "material": link.material,
                "loss_w": link.loss_w,
                "bears_a": link.bears_a,
            }
            for link in pack_report(build).links
        ],
        "wires": [
            {"from": w.start, "to": w.end, "awg": w.awg, "length_mm": w.length_mm, "current_a": w.current_a}
            for w in wires(build)
        ],
    }
