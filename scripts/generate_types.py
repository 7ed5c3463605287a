"""Writes what the interface takes from the core and the server: OpenAPI document, its types, figures of the build file, units.

They are made by ``make build`` and are not kept in the repository. Two files of docs/ are: the build file's JSON Schema and the
page of terms. ``--schema`` writes them, ``--check`` fails where one is stale.
"""

import json
import os
import subprocess
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any, get_args

from pydantic import BaseModel

if TYPE_CHECKING:
    from ninja import NinjaAPI

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))
GENERATED = ROOT / "frontend" / "src" / "lib" / "api"


def openapi() -> str:
    """The API's OpenAPI document."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    os.environ.setdefault("SAND_POCKET_SECRET_KEY", "not used")
    os.environ.setdefault("DATABASE_URL", "postgresql://none@127.0.0.1/none")
    import django

    django.setup()
    from server.api import api

    if shared := shared_names(api):
        raise SystemExit("Two schemas of one name, of which the API document would show one:\n" + "\n".join(shared))
    return json.dumps(api.get_openapi_schema(), indent=1) + "\n"


def shared_names(api: "NinjaAPI") -> list[str]:
    """Schemas of the API that share their name with another one, each with its modules."""
    by_name: dict[str, set[type[BaseModel]]] = {}

    def walk(annotation: Any) -> None:
        if isinstance(annotation, type) and issubclass(annotation, BaseModel):
            known = by_name.setdefault(annotation.__name__, set())
            if annotation in known:
                return
            known.add(annotation)
            for field in annotation.model_fields.values():
                walk(field.annotation)
        for inner in get_args(annotation):
            walk(inner)

    operations = [
        operation
        for _, router in api._routers
        for view in router.path_operations.values()
        for operation in view.operations
    ]
    for operation in operations:
        # What Ninja wraps bodies and answers in has one name everywhere, and is not in the document.
        for wrapper in (*operation.models, *operation.response_models.values()):
            for field in getattr(wrapper, "model_fields", {}).values():
                walk(field.annotation)
    return [
        f"{name}: {', '.join(sorted(model.__module__ for model in models))}"
        for name, models in sorted(by_name.items())
        if len(models) > 1
    ]


def figures() -> dict[str, Any]:
    """Every field of the build file, of a bench test and of a ride by its path: title, quantity, span or choices."""
    from boardmath.__main__ import schema
    from boardmath.buildfile.bench_test import BenchTest
    from boardmath.calibration.ride import ChargeRun, CoastRun, HillRun, Ride, SpeedRun, UnloadedRun
    from boardmath.model.inputs import measurable
    from planner.design.entry import FIELDS as NOTATION_FIELDS
    from planner.shared.log import Done, Rode
    from planner.trade_words import FIELD_NAMES, TERM_OF_FIELD

    whole, of_a_test, of_a_ride = schema(), BenchTest.model_json_schema(), Ride.model_json_schema()
    definitions: dict[str, Any] = {**whole["$defs"], **of_a_test["$defs"], **of_a_ride["$defs"]}
    found: dict[str, Any] = {}

    def walk(path: str, node: dict[str, Any]) -> None:
        for key, field in node.get("properties", {}).items():
            inner = [n for n in (field, *field.get("anyOf", []), *field.get("allOf", [])) if "$ref" in n]
            items = next((n["items"] for n in (field, *field.get("anyOf", [])) if n.get("type") == "array"), {})
            here = f"{path}{key}"
            # What is only carried along is entered nowhere: the old parts of a board, and what a kit of the library brings.
            if here.endswith(("existing.was", ".contents")) or here == "calibration":
                continue
            if inner:
                walk(here + ".", definitions[inner[0]["$ref"].rsplit("/", 1)[1]])
                continue
            if "$ref" in items:
                walk(here + ".*.", definitions[items["$ref"].rsplit("/", 1)[1]])
                continue
            row = {"title": field.get("title", key), "about": field.get("description")}
            row |= {k: field[k] for k in ("quantity", "low", "high", "whole", "group") if k in field}
            row |= {"also": FIELD_NAMES.get(here), "term": TERM_OF_FIELD.get(here)}
            if here in NOTATION_FIELDS:
                row["notation"] = True
            if measurable(here, row.get("quantity")):
                row["measurable"] = True
            choices = next((n["enum"] for n in (field, *field.get("anyOf", [])) if "enum" in n), None)
            kinds = {n.get("type") for n in (field, *field.get("anyOf", []))}
            if choices:
                row["choices"] = choices
            elif "boolean" in kinds:
                row["yesNo"] = True
            elif any("d{4}" in n.get("pattern", "") for n in (field, *field.get("anyOf", []))):
                row["day"] = True
            elif "quantity" not in row:
                row["longest"] = next(
                    (n["maxLength"] for n in (field, *field.get("anyOf", [])) if "maxLength" in n), None
                )
            found[here] = {k: v for k, v in row.items() if v is not None}

    walk("", whole)
    walk("bench_test.", of_a_test)
    walk("ride.", of_a_ride)
    for run in (SpeedRun, HillRun, CoastRun, UnloadedRun, ChargeRun):
        walk(f"ride.{run.model_fields['kind'].annotation.__args__[0]}.", run.model_json_schema())
    for name, entry in (("rode", Rode), ("done", Done)):
        walk(f"log.{name}.", entry.model_json_schema())
    return found


def tables() -> str:
    """Figures and units as a TypeScript module."""
    from boardmath.buildfile import write_build
    from boardmath.buildfile.build import HISTORY_FIELDS
    from boardmath.buildfile.figures import ABBREVIATIONS
    from boardmath.parts.part_types import KINDS
    from boardmath.prediction.outcomes import OUTCOME_TITLES
    from boardmath.units import unit_table
    from planner.design.beginning import MORE, OF_A_BOARD, QUESTIONS, REPLACEABLE, new_build
    from planner.design.stations import STATIONS
    from planner.navigation import PAGES, STAGES
    from planner.trade_words import PART_NAMES, TERMS
    from scripts.message_templates import HEADINGS

    def written(value: Any) -> str:
        return json.dumps(value, ensure_ascii=False, indent=1)

    kinds = {
        slug: {
            "name": k.name,
            "path": k.path,
            "deciding": list(k.deciding),
            "several": k.several,
            "also": PART_NAMES[slug],
        }
        | ({"shelvedAs": k.shelved_as} if k.shelved_as else {})
        for slug, k in KINDS.items()
    }
    found = figures()
    # A place in a list stands as a number.
    paths = (p.replace(".*.", ".${number}.") for p in found if not p.startswith(("bench_test.", "ride.", "log.")))
    of_a_build = "\n  | ".join(f"`{p}`" if "$" in p else f"'{p}'" for p in paths)
    head = "// Generated from the core by scripts/generate_types.py; do not edit.\n"
    return (
        f"{head}import type {{ BuildFile }} from './client';\n"
        f"import type {{ FigureSpec, KindSpec, QuantitySpec, QuestionSpec, StationSpec, TermSpec }} from './specs';\n\n"
        f"export const FIGURES: Record<string, FigureSpec> = {written(found)};\n\n"
        f"/** Where a figure of the build file stands; a path that there is not does not compile. */\n"
        f"export type FigurePath =\n  | {of_a_build};\n\n"
        f"export const QUANTITIES: Record<string, QuantitySpec> = {written(unit_table())};\n\n"
        f"export const KINDS: Record<string, KindSpec> = {written(kinds)};\n\n"
        f"export const QUESTIONS: QuestionSpec[] = {written([q.model_dump() for q in QUESTIONS])};\n\n"
        f"export const OF_A_BOARD: QuestionSpec[] = {written([q.model_dump() for q in OF_A_BOARD])};\n\n"
        f"export const MORE = {written(MORE)};\n\n"
        f"export const REPLACEABLE = {written(REPLACEABLE)};\n\n"
        f"export const OUTCOME_TITLES = {written(OUTCOME_TITLES)} as const;\n\n"
        f"export const ABBREVIATIONS = {written(ABBREVIATIONS)} as const;\n\n"
        f"export const HEADINGS: readonly string[] = {written(HEADINGS)};\n\n"
        f"export const HISTORY_FIELDS = {written(HISTORY_FIELDS)} as const;\n\n"
        f"export const NEW_BUILD: BuildFile = {written(write_build(new_build()))};\n\n"
        f"export const STATIONS: StationSpec[] = {written([s.model_dump(exclude_none=True) for s in STATIONS])};\n\n"
        f"export const STAGES = {written([s.model_dump() for s in STAGES])} as const;\n\n"
        f"export const PAGES = {written([p.model_dump() for p in PAGES])} as const;\n\n"
        f"export const TERMS: TermSpec[] = {written([t.model_dump(exclude_none=True) for t in TERMS])};\n"
    )


def messages() -> str:
    """Templates of the core's sentences as a TypeScript module, for the catalogues of other languages."""
    from scripts.message_templates import templates

    words = [choice.replace("_", " ") for choice in choices(json.loads(build_file_schema()))]
    rows = {text: text for text in [*templates(), *words]}
    written = json.dumps(rows, ensure_ascii=False, indent=1)
    return (
        "// Generated from the core by scripts/generate_types.py; do not edit.\n"
        "/** Sentences, headings and choices of the core, each with what a person reads for it. */\n"
        f"export const MESSAGES: Record<string, string> = {written};\n"
    )


def choices(schema: Any) -> list[str]:
    """The words among which a build chooses, each once."""
    inner = schema.values() if isinstance(schema, dict) else schema if isinstance(schema, list) else ()
    own = schema.get("enum", []) if isinstance(schema, dict) else []
    return list(dict.fromkeys([*(c for c in own if isinstance(c, str)), *(c for one in inner for c in choices(one))]))


def build_file_schema() -> str:
    """The build file's JSON Schema as published in docs/."""
    from boardmath.__main__ import schema

    return json.dumps(schema(), indent=2) + "\n"


def terms_page() -> str:
    """The terms as a page of the user guide."""
    from planner.trade_words import TERMS

    parts = [
        "# The trade's words",
        "Generated by `make schema` from `planner/trade_words.py`. The same explanations open on the screens.",
    ]
    for term in sorted(TERMS, key=lambda t: t.title.lower()):
        parts += [f"## {term.title}", term.text]
        if term.also:
            parts.append(f"Also: {term.also}.")
        if term.drawing:
            parts.append(f"![{term.drawing}](../frontend/src/lib/terms/{term.slug}.svg)")
    return "\n\n".join(parts) + "\n"


def main() -> int:
    published = {"build-file.schema.json": build_file_schema, "terms.md": terms_page}
    if "--check" in sys.argv:
        stale = [name for name, write in published.items() if (ROOT / "docs" / name).read_text() != write()]
        for name in stale:
            print(f"docs/{name} is stale: run make schema", file=sys.stderr)
        return len(stale)
    if "--schema" in sys.argv:
        for name, write in published.items():
            (ROOT / "docs" / name).write_text(write())
        return 0
    document = GENERATED / "openapi.json"
    document.write_text(openapi())
    made = ["npx", "openapi-typescript", str(document), "--empty-objects-unknown", "-o", str(GENERATED / "schema.d.ts")]
    subprocess.run(made, cwd=ROOT / "frontend", stdout=subprocess.DEVNULL, check=True)
    (GENERATED / "messages.gen.ts").write_text(messages())
    # Last: make takes this one as the sign that all three are there.
    (GENERATED / "tables.gen.ts").write_text(tables())
    return 0


if __name__ == "__main__":
    sys.exit(main())
