"""Tables as CSV (RFC 4180) that a spreadsheet opens without running anything in them.

A text that a spreadsheet would take for a formula gets an apostrophe in front, as OWASP's "CSV Injection" page advises; reading
takes it off again. Numbers are written as numbers.
"""

import csv
import io
from collections.abc import Iterable, Mapping, Sequence
from typing import Any
from unicodedata import category, normalize

BYTE_ORDER_MARK = "\ufeff"
_FORMULA_MARKS = "=+-@"
_UNSEEN = frozenset({"Cc", "Cf", "Zs", "Zl", "Zp"})
"""Categories of Unicode that nobody sees at the beginning of a text: control and format characters, and spaces."""


def write_table(columns: Sequence[str], rows: Iterable[Mapping[str, Any]]) -> str:
    """CSV with a byte-order mark, by which spreadsheets know it for UTF-8."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(columns)
    for row in rows:
        writer.writerow([_written(row.get(column)) for column in columns])
    return BYTE_ORDER_MARK + out.getvalue()


def _written(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return f"{value:.12g}" if 1e-4 <= abs(value) < 1e12 or value == 0 else repr(value)
    if isinstance(value, list | tuple):
        return with_apostrophe(" ".join(str(v) for v in value))
    return with_apostrophe(str(value))


def with_apostrophe(text: str) -> str:
    """With an apostrophe in front of what a spreadsheet would run, or of what already has one there."""
    return f"'{text}" if text.startswith("'") or _is_formula(text) else text


def without_apostrophe(text: str) -> str:
    """The text of a cell that :func:`with_apostrophe` wrote."""
    return text[1:] if text.startswith("'") and (text[1:].startswith("'") or _is_formula(text[1:])) else text


def _is_formula(text: str) -> bool:
    """Whether a spreadsheet would run it: its first mark counts, also a full-width one or one behind what nobody sees."""
    if text[:1] in ("\t", "\r", "\n"):
        return True
    first = next((c for c in text if category(c) not in _UNSEEN), "")
    return normalize("NFKC", first)[:1] in tuple(_FORMULA_MARKS)
