"""What a person reads: plain English, the trade's terms, the reader's dates; and room for a longer language."""

import re
from collections.abc import Iterator

from playwright.sync_api import Page

from tests.screens.accessibility import TOO_WIDE

FORMER = {
    r"shelf|storeys?|staffs?|errands?|upkeep|packwork": "boards, stage, gauge, controller command, maintenance, pack",
    r"seen to|the drawer|laying (it )?up|laid in": "done, spares or in stock, winter storage, applied",
    r"set aside|leave it standing|take it off|take away": "accept, keep, remove, delete",
    r"bring (it )?back|bring in": "restore, import",
    r"write it down|written down|handed on|hand it on": "save, record, share",
    r"times in ten|half the time|nearly always|hardly ever|\d in 10 walk": "a chance in per cent",
    r"falls short|may hold": "short, over, uncertain",
    r"promise[sd]?": "predicted, claimed",
    r"try every board|what is open": "search, what may change",
    r"side by side": "in parallel",
    r"gives way|eats the|stands at|lies apart|reckon(s|ed|ing)?": "is the limit, wears, has, apart, calculate",
    r"cannot be had|cannot be reached just now": "cannot be loaded",
    r"under watch|what is found|what it came to|as wanted": "watched, findings, what it cost, the settings you want",
    r"protection board": "BMS",
    r"loop plug": "loop key",
    r"out of the purse|is worth": "you paid, total value",
}
"""Former words as regular expressions, and what is said today."""
TOGETHER = re.compile("|".join(rf"(?P<w{i}>\b(?:{words})\b)" for i, words in enumerate(FORMER)), re.IGNORECASE)
RAW = {
    "a day as it is stored": re.compile(r"\b20\d\d-\d\d-\d\d\b"),
    "a chemistry or a plastic in small letters": re.compile(r"\b(nmc|nca|lfp|petg|abs|hdpe)\b"),
    "a key of the build file": re.compile(r"\b[a-z]+_[a-z_]+\b"),
}
MOST_WORDS_OF_A_TITLE = 7
VISIBLE = """() => {
  const seen = [];
  for (const root of document.querySelectorAll('header, main, [role=dialog]')) {
    // A line of a table is as a file has it.
    const codes = [...root.querySelectorAll('code')].map((c) => c.innerText);
    seen.push(codes.reduce((text, code) => text.replace(code, ''), root.innerText));
    for (const e of root.querySelectorAll('[aria-label]')) if (e.getClientRects().length) seen.push(e.getAttribute('aria-label'));
  }
  return seen.join('\\n');
}"""
TITLES = """() => [...document.querySelectorAll('main h1, main h2')]
    .filter((h) => h.getClientRects().length).map((h) => h.innerText.trim())"""
# A person's own words (notes, names of what they built) are theirs.
THEIRS = re.compile(r"“[^”]*”")


def lines(page: Page) -> Iterator[str]:
    for line in page.evaluate(VISIBLE).splitlines():
        if line.strip():
            yield " ".join(THEIRS.sub("", line).split())


def faults(texts: set[str]) -> list[str]:
    found = []
    for text in sorted(texts):
        if match := TOGETHER.search(text):
            today = list(FORMER.values())[int((match.lastgroup or "w0")[1:])]
            found.append(f"“{match[0]}” (today: {today}): {text[:160]}")
        found += [f"{what}: {text[:160]}" for what, pattern in RAW.items() if pattern.search(text)]
    return found


def check_words(page: Page) -> None:
    """Fails for a former word, a day or a key as it is stored, and a title of more than seven words, anywhere on the screen."""
    found = faults(set(lines(page)))
    assert not found, "\n".join([page.url, *found])
    titles = [re.split("[:,]", line)[0] for t in page.evaluate(TITLES) for line in t.splitlines()]
    long = [line for line in titles if len(line.split()) > MOST_WORDS_OF_A_TITLE]
    assert not long, f"{page.url}: long titles: {long}"


_LONGER = """() => {
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  const nodes = [];
  for (let node; (node = walker.nextNode()); ) nodes.push(node);
  for (const node of nodes) {
    const of = node.parentElement;
    if (!of || of.closest('script, style, svg, textarea, .sr-only') || !/[a-z]{3}/.test(node.nodeValue)) continue;
    const more = Math.ceil(node.nodeValue.trim().length * 0.3);
    // Spread over words, as another language is: no single word becomes much longer.
    node.nodeValue = node.nodeValue.replace(/[aeiou]/g, (v) => ({ a: 'á', e: 'é', i: 'í', o: 'ó', u: 'ú' })[v])
      .trimEnd() + ' ' + 'élán '.repeat(Math.ceil(more / 5)).slice(0, more).trim() + (/\\s$/.test(node.nodeValue) ? ' ' : '');
  }
}"""
_CLIPPED = """() => [...document.querySelectorAll('header *, main *, [role=dialog] *')]
    .filter((e) => e.getClientRects().length && !e.closest('svg, .sr-only, select, input, textarea'))
    .filter((e) => e.clientWidth > 1) // else it is for screen readers alone
    .filter((e) => [...e.childNodes].some((n) => n.nodeType === 3 && n.nodeValue.trim()))
    .filter((e) => {
      const style = getComputedStyle(e);
      if (style.textOverflow === 'ellipsis' || style.display === 'inline') return false;
      const cut = (of) => ['hidden', 'clip'].includes(of);
      return (cut(style.overflowX) && e.scrollWidth > e.clientWidth + 1) ||
        (cut(style.overflowY) && e.scrollHeight > e.clientHeight + 1);
    })
    .map((e) => `${e.tagName} ${e.className} ${e.textContent.trim().slice(0, 50)}`)"""


def check_longer_texts(page: Page) -> None:
    """Fails where texts that are accented and 30 % longer are cut off, or push the page beyond the screen. Nothing follows it."""
    page.evaluate(_LONGER)
    clipped = page.evaluate(_CLIPPED)
    assert not clipped, "\n".join([f"{page.url}: cut off when 30 % longer:", *clipped])
    too_wide = page.evaluate(TOO_WIDE)
    assert not too_wide, "\n".join([f"{page.url}: wider than the screen when 30 % longer:", *too_wide[:12]])
