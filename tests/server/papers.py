"""Papers read back, as whoever prints them reads them."""

import re
from io import BytesIO
from typing import Any

from pypdf import PageObject, PdfReader


def pages_of(answer: Any) -> list[PageObject]:
    assert answer.status_code == 200
    assert answer["Content-Type"] == "application/pdf"
    return list(PdfReader(BytesIO(answer.content)).pages)


def text_of(answer: Any) -> str:
    """All words of a paper; fails where a day stands in it as a file has it."""
    text = " ".join(" ".join(page.extract_text() for page in pages_of(answer)).split())
    assert not re.search(r"\b20\d\d-\d\d-\d\d", text), text
    return text
