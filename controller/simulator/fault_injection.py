"""What goes wrong between a controller and a computer, on request: at a given command, so many times."""

from dataclasses import dataclass
from typing import Literal, get_args

LinkFault = Literal[
    "request_lost",
    "answer_lost",
    "cut_before",
    "cut_after",
    "restart_before",
    "restart_after",
    "half_answer",
    "garbage",
    "late",
    "wrong_number",
    "torn",
    "swallowed",
]
"""torn: keeping stores half of what was staged, then the device restarts. swallowed: a value is taken and not stored."""
LINK_FAULTS: tuple[LinkFault, ...] = get_args(LinkFault)


@dataclass
class FaultInjection:
    """One thing to go wrong.

    Attributes:
        at: the command at which it happens, None for any.
        after: how many such commands go well before.
        times: how often it happens, -1 for always.
    """

    what: LinkFault
    at: str | None = None
    after: int = 0
    times: int = 1

    def strikes(self, command: str) -> bool:
        """Whether it happens now; counts down."""
        if (self.at is not None and command != self.at) or self.times == 0:
            return False
        if self.after > 0:
            self.after -= 1
            return False
        self.times -= self.times > 0
        return True
