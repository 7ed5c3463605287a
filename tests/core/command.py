"""The command line, run within the test's own process: a process of its own takes seconds to load."""

import io
import subprocess
import sys
from contextlib import redirect_stderr, redirect_stdout
from unittest.mock import patch

from planner.__main__ import main


def run(*arguments: str, text: str | None = None) -> subprocess.CompletedProcess[str]:
    """``python -m planner ARGUMENTS`` with ``text`` on standard input."""
    out, err = io.StringIO(), io.StringIO()
    with (
        redirect_stdout(out),
        redirect_stderr(err),
        patch.object(sys, "stdin", io.TextIOWrapper(io.BytesIO((text or "").encode()))),
    ):
        try:
            code = main(list(arguments))
        except SystemExit as ended:
            code = int(ended.code or 0)
    return subprocess.CompletedProcess(arguments, code, out.getvalue(), err.getvalue())
