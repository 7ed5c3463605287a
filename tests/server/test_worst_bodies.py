"""Each address of the API is fed the worst bodies, whatever they say they are: each is refused in one shape, and none falls."""

import json

import pytest
from django.test import Client

from tests.core.boards import SPIT_RUNNER
from tests.server.test_attack import DOCUMENT, QUERIES, address, everything, victim  # noqa: F401 - fixtures

DEEP = 100_000
WITH_A_BODY = [
    (method.upper(), path)
    for path, methods in DOCUMENT["paths"].items()
    for method, operation in methods.items()
    if method in ("post", "put", "patch")
]
WORST = {
    "nothing": b"",
    "no JSON": b"{'name': 1}",
    "lists in lists": b"[" * DEEP + b"]" * DEEP,
    "objects in objects": b'{"document":' * 5000 + b"1" + b"}" * 5000,
    "a text that is none, deep inside": b'{"a":' * 900 + b'"\\u0000"' + b"}" * 900,
    "just too deep": b'{"document":' * 300 + b"1" + b"}" * 300,
    "not UTF-8": b'{"name": "\xff\xfe"}',
    "another encoding": '{"name": "plover"}'.encode("utf-16"),
    "not a number": b'{"revision": NaN, "name": Infinity}',
    "a number without end": b'{"revision": ' + b"9" * 5000 + b"}",
    "a list": b"[1, 2]",
    "a text": b'"plover"',
    "null": b"null",
    "a broken zip": b"PK\x03\x04" + b"\x00" * 200,
}


def with_text(text: str) -> dict:
    """Bodies of every shape in which this text is the name, a key, or deep in something."""
    return {
        "name": text,
        "who": text,
        "password": text,
        "document": {**SPIT_RUNNER, "name": text},
        "record": {"name": text},
        "kind": "deck",
        "settings": {text: 1},
        "seen": [{"note": text}],
        "reason": text,
        "rides": [{"ride": {"day": "2026-04-05", "note": text, text: 1}}],
        "entries": [{"kind": "noted", "text": text}],
        "changes": {"pack_v": text},
        "revision": 1,
    }


def fallen(client: Client, method: str, path: str, body: bytes, kind: str) -> str | None:
    """What is wrong with the answer to a body; None where it is one of ours."""
    answer = client.generic(method, path, body, content_type=kind)
    if answer.status_code >= 500:
        return f"{kind}: {answer.status_code}"
    if answer.status_code >= 400 and set(answer.json()) != {"message", "faults"}:
        return f"{kind}: {answer.content[:80]!r}"
    return None


@pytest.mark.parametrize(("method", "path"), WITH_A_BODY, ids=lambda v: v)
def test_the_worst_bodies_are_refused(victim, method, path):  # noqa: F811
    workshop, found = victim
    where = address(path, found) if "{" in path else path
    where += QUERIES.get(f"{method} {path}", "")
    client = Client(raise_request_exception=False)
    client.force_login(workshop.user)
    texts = {f"with {text!r}": json.dumps(with_text(text)).encode() for text in ("\x00", "\ud800", "plover\udfff")}
    texts["a number beyond all numbers"] = json.dumps(with_text("x")).replace('"x"', "1e999").encode()
    wrong = []
    for what, body in {**WORST, **texts}.items():
        for kind in ("application/json", "text/plain", "application/octet-stream", "multipart/form-data"):
            if (fault := fallen(client, method, where, body, kind)) is not None:
                wrong.append(f"{what}, {fault}")
    assert not wrong, "\n".join(wrong)
