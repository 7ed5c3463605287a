"""Says how much of the code is tests, by lines that are not empty, and fails where it is too little or too much.

Counted are the ``.py``, ``.ts`` and ``.svelte`` files that git knows, without migrations and what is generated.
"""

import subprocess
import sys

from cluster import ROOT

LEAST, MOST = 0.25, 0.35
GENERATED = (".gen.ts", "schema.d.ts")


def is_test(path: str) -> bool:
    """Whether a file is there for the tests alone."""
    return path.startswith(("tests/", "frontend/src/testing/")) or ".test." in path


def counted() -> list[str]:
    """The files that count; new ones too, before they are committed."""
    listed = subprocess.run(
        ["git", "ls-files", "--cached", "--others", "--exclude-standard"],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=True,
    ).stdout.splitlines()
    return [
        path
        for path in listed
        if path.endswith((".py", ".ts", ".svelte"))
        and not path.endswith(GENERATED)
        and "/migrations/" not in path
        and (ROOT / path).exists()
    ]


def main() -> int:
    lines = {path: sum(1 for line in (ROOT / path).read_text().splitlines() if line.strip()) for path in counted()}
    tests, total = sum(n for path, n in lines.items() if is_test(path)), sum(lines.values())
    share = tests / total
    print(f"Tests are {share:.1%} of the code: {tests:,} of {total:,} lines.")
    if LEAST <= share <= MOST:
        return 0
    advice = "write the tests that are missing" if share < LEAST else "merge what says the same twice"
    print(f"They have to be {LEAST:.0%} to {MOST:.0%}: {advice}.")
    return 1


if __name__ == "__main__":
    sys.exit(main())
