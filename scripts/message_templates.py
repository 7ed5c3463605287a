"""Templates of the core's sentences, as they are written in its sources: what another language has its own of."""

import ast
from collections.abc import Iterator, Mapping
from itertools import product
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
PACKAGES = ("boardmath", "planner", "controller", "server")
ARGUMENTS: Mapping[str, tuple[int | str, ...]] = {
    "message": (0,),
    "finding": (2, "title"),
    "Task": (1, 2, 3, "spare"),
    "Trouble": (1, 2, 3),
    "step": (2, 3, 4, 5, "wrong", "caution"),
    "fix": (0,),
    "dimension": (2,),
    "clashes": (2,),
    "sticking_out": (2,),
}
"""Functions that make sentences, and where each takes its templates."""
HEADINGS = ("title", "label", "what", "text", "how", "why", "x_title", "y_title", "group", "sign", "causes", "fix")
"""Fields in which the core answers with fixed words of its own that are not a message."""
Assigned = Mapping[str, list[ast.expr]]
MOST_VARIANTS = 32
"""Of one call; more than that is put together at run time."""


def templates() -> list[str]:
    """Every template of the packages once, in the order of their modules."""
    paths = (path for package in PACKAGES for path in sorted((ROOT / package).rglob("*.py")))
    found = (template for path in paths for template in templates_in(ast.parse(path.read_text())))
    return list(dict.fromkeys(template for template in found if template))


def templates_in(module: ast.Module) -> Iterator[str]:
    """The templates of one module."""
    assigned = _assigned(module)
    for expression in sentences(module):
        yield from variants(expression, assigned) or ()
    yield from _whole(module)


def _whole(module: ast.Module) -> Iterator[str]:
    """Whole sentences that are handed on before they become messages; no documentation, and no piece of another text."""
    apart = {
        id(inner)
        for node in ast.walk(module)
        if isinstance(node, ast.JoinedStr | ast.BinOp)
        or (isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant))
        for inner in ast.walk(node)
    }
    for node in ast.walk(module):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in apart:
            text = node.value
            if text[:1].isupper() and text[-1:] in ".?" and " " in text and "\n" not in text:
                yield text


def sentences(module: ast.Module) -> Iterator[ast.expr]:
    """Every expression that becomes a template."""
    for call in ast.walk(module):
        if not isinstance(call, ast.Call) or not isinstance(call.func, ast.Name | ast.Attribute):
            continue
        yield from (k.value for k in call.keywords if k.arg in HEADINGS)
        function = call.func.id if isinstance(call.func, ast.Name) else call.func.attr
        for place in ARGUMENTS.get(function, ()):
            given = (
                call.args[place : place + 1]
                if isinstance(place, int)
                else [k.value for k in call.keywords if k.arg == place]
            )
            for expression in given:
                several = expression.elts if isinstance(expression, ast.List | ast.Tuple) else [expression]
                yield from (one for one in several if not isinstance(one, ast.Call))


def _assigned(module: ast.Module) -> Assigned:
    found: dict[str, list[ast.expr]] = {}
    for node in ast.walk(module):
        if isinstance(node, ast.Assign) and isinstance(node.targets[0], ast.Name):
            found.setdefault(node.targets[0].id, []).append(node.value)
        elif isinstance(node, ast.AnnAssign) and isinstance(node.target, ast.Name) and node.value is not None:
            found.setdefault(node.target.id, []).append(node.value)
    return found


def variants(expression: ast.expr, assigned: Assigned, depth: int = 0) -> list[str] | None:
    """All texts that an expression can be; None where that is not known from the source alone."""

    def all_of(several: list[ast.expr]) -> list[str] | None:
        each = [variants(one, assigned, depth + 1) for one in several]
        return None if any(one is None for one in each) else [text for one in each for text in one or ()]

    if depth > 6:
        return None
    match expression:
        case ast.Constant(value=str(text)):
            return [text]
        case ast.IfExp(body=body, orelse=other):
            return all_of([body, other])
        case ast.Name(id=name) if name in assigned:
            return all_of(assigned[name])
        case ast.Dict(values=values):
            return all_of(values)
        case ast.Subscript(value=value):
            return variants(value, assigned, depth + 1)
        case ast.BinOp(left=left, op=ast.Add(), right=right):
            one, other = variants(left, assigned, depth + 1), variants(right, assigned, depth + 1)
            if one is None or other is None or len(one) * len(other) > MOST_VARIANTS:
                return None
            return [a + b for a, b in product(one, other)]
    return None
