"""``python -m planner assembly``: the steps of a build and the tools for them."""

from boardmath.buildfile.build import Build
from planner.assembly.plan import assembly
from planner.shared.tools import TOOLS


def assembled(build: Build) -> dict[str, object]:
    """Steps in an order that can be followed, and each tool with the step that first asks for it."""
    steps = assembly(build)
    return {
        "steps": [
            {
                "id": s.id,
                "phase": s.phase,
                "title": s.title.text,
                "why": s.why.text,
                "do": [d.text for d in s.do],
                "right": s.right.text,
                "after": s.after,
                "needs": s.needs,
                "tools": [TOOLS[t].name for t in s.tools],
                "threadlock": s.threadlock,
                "minutes": {"low": s.minutes.low, "high": s.minutes.high},
                "checks": [{"id": c.id, "text": c.text, "unit": c.unit} for c in s.checks],
                "fasteners": [
                    {"what": f.what, "count": f.count, "thread": f.thread, "length_mm": f.length_mm}
                    for f in s.fasteners
                ],
            }
            for s in steps
        ],
        "tools": [
            {"name": tool.name, "why": tool.forgotten or first}
            for key, tool in TOOLS.items()
            if (first := next((s.title.text for s in steps if key in s.tools), None)) is not None
        ],
    }
