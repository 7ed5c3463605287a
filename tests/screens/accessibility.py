"""What holds on every page: what axe finds, text of 12 px at least, nothing off the screen."""

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page

RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]

_AXE = Axe().axe_script
_RUN = "async ([context, options]) => (await axe.run(context, options)).violations"
_SMALL_TEXT = """() => {
  const small = [];
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let node; (node = walker.nextNode()); ) {
    const of = node.parentElement;
    if (!node.textContent.trim() || !of || !of.getClientRects().length) continue;
    if (of.closest('script, style, noscript, .sr-only')) continue;
    const drawn = of.closest('svg') && of.getScreenCTM ? of.getScreenCTM().d : 1;
    const size = parseFloat(getComputedStyle(of).fontSize) * drawn;
    if (size < 11.9) small.push(`${node.textContent.trim().slice(0, 30)}: ${size.toFixed(1)} px`);
  }
  return small;
}"""
TOO_WIDE = """() => document.documentElement.scrollWidth <= window.innerWidth ? [] :
    [...document.querySelectorAll('body *')]
        .filter((e) => e.getBoundingClientRect().right > window.innerWidth + 0.5)
        .map((e) => `${e.tagName} ${e.className?.baseVal ?? e.className} ${e.textContent.trim().slice(0, 40)}`)"""


LAYOUT_RULES = ["color-contrast", "target-size", "scrollable-region-focusable"]
"""Those that depend on the width of the screen and on its theme; the others see the same elements in every setting."""


def check_accessibility(page: Page, *, floating: bool = False, colours: bool = True, whole: bool = True) -> None:
    """Fails for what axe finds, for text under 12 px, and for anything wider than the screen.

    Contrast takes as long as all the rest together: ``colours`` is false where the same colours are checked elsewhere.
    ``whole`` is false where the same elements are checked in another setting: then only what depends on the setting is.
    """
    page.evaluate("document.fonts.ready")
    # Brought in once a page: what was just brought in runs at a third of its speed.
    if not page.evaluate("'axe' in window"):
        page.evaluate(_AXE)
    # An open menu floats outside the landmarks on purpose; everything else is held to the best practices too.
    rules = {"region": {"enabled": not floating}, "color-contrast": {"enabled": colours}}
    of_layout = [rule for rule in LAYOUT_RULES if colours or rule != "color-contrast"]
    # Without a preload: only a rule that is not asked for reads style sheets.
    options = {"resultTypes": ["violations"], "preload": False} | (
        {"runOnly": RULES, "rules": rules} if whole else {"runOnly": {"type": "rule", "values": of_layout}}
    )
    # Pictures are one image with words; what they are drawn of is nobody's to read.
    violations = page.evaluate(_RUN, [{"exclude": [["svg *"]]}, options])
    problems = [f"{v['id']}: {v['help']}: {[n['html'][:160] for n in v['nodes'][:3]]}" for v in violations]
    assert not problems, "\n".join([page.url, *problems])
    too_wide = page.evaluate(TOO_WIDE)
    assert not too_wide, f"{page.url}: wider than the screen: {too_wide}"
    small = page.evaluate(_SMALL_TEXT)
    assert not small, f"{page.url}: text under 12 px: {small}"
