"""Words that the project no longer uses, in code, API and documents, and what is said today; part of ``make lint``."""

import re
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
TODAY = {
    r"storeys?": "stage",
    r"staffs?": "gauge",
    r"shelf|shelves": "boards, your boards",
    r"[Rr]oom_?[Ss]lug|roomOf|to_room|roomAt": "page",
    r"benchtest|bench_tests?_report": "bench_test",
    r"firstride": "first_ride",
    r"partslist": "parts_list",
    r"cameto|came_to": "review",
    r"upkeep": "maintenance",
    r"packwork": "pack_assembly",
    r"taps?": "balance lead, lead",
    r"balance wires?": "balance leads",
    r"[Cc]ontroller sheets?|SetSheet|sheet_number": "controller settings, settings record",
    r"[Ee]rrands?|carry_out|[Mm]ischief|standins?": "controller command, run_command, fault injection, simulator",
    r"(?<=\.)promises|promises(?=[=:\[])": "outcomes, claims",
    r"[Ss]ayings?|spoken": "message",
    r"set_aside|setAside": "accepted",
    r"cures?": "fix",
    r"deviates|lopsided": "normal scores, lognormal",
    r"takeAway|layOut|theBuild": "download, setBuildContext, getBuildContext",
    r"InThere|DoorKept|Purse": "BuildProvider, SecuritySettings, CostSummary",
    r"farewell|controllerlink": "delete the account, controller",
    r"MayBeOpen|may_be_open|goes_along|OutcomeKept|TroubleTold": "open_choices, carried_over, OutcomeCheck, TroubleGuide",
    r"LIVED": "HISTORY_FIELDS",
}
"""A former word as a regular expression, and what is said today."""
FILES = ("*.py", "*.ts", "*.svelte", "*.css", "*.md", "Makefile", "*.toml")
FORMER_NAMES_STAY = (
    "CHANGELOG.md",
    "boardmath/__main__.py",
    "boardmath/buildfile/migration.py",
    "tests/core/test_command_line.py",
    "tests/core/test_set_up.py",
    "docs/command-line.md",
    "scripts/check_words.py",
    "frontend/src/lib/navigation.ts",
    "frontend/src/lib/reader.test.ts",
    "tests/core/test_buildfile.py",
    "server/controller/models.py",
    "tests/server/test_boards.py",
    "tests/server/test_migrations.py",
    "tests/screens/test_words.py",
    "tests/screens/words.py",
    "frontend/src/lib/build/build.svelte.test.ts",
    "frontend/src/lib/sync/drafts.ts",
)
"""Files that know the former names, because they read what was written under them."""
STORED = re.compile(r"""\.tap\(|["'`]taps?["'`]|sand-pocket[:/]\w+|"promises"|sheet_number"\)|to cure\b|label = ".*""")
"""What stays: a finger's tap in a browser, ids of steps in logs, formats of files, keys of the command line, labels of tables."""


def former_words() -> list[str]:
    """Every use of a former word, as ``file:line: word (today: ...)``."""
    listed = subprocess.run(["git", "ls-files", *FILES], cwd=ROOT, capture_output=True, text=True, check=True).stdout
    pattern = re.compile("|".join(rf"(?P<w{i}>(?<![A-Za-z])(?:{word})(?![a-z]))" for i, word in enumerate(TODAY)))
    said = list(TODAY.values())
    found = []
    for name in listed.splitlines():
        if name in FORMER_NAMES_STAY or "/migrations/" in name or not (ROOT / name).exists():
            continue
        for number, line in enumerate((ROOT / name).read_text().splitlines(), 1):
            for match in pattern.finditer(STORED.sub("", line)):
                found.append(f"{name}:{number}: {match[0]} (today: {said[int((match.lastgroup or 'w0')[1:])]})")
    return found


if __name__ == "__main__":
    for line in (found := former_words()):
        print(line, file=sys.stderr)
    sys.exit(1 if found else 0)
