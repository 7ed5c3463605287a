"""What can give way: one list of names, from the engine's answers to the screen."""

from typing import Literal

Limit = Literal[
    "pack voltage",
    "motor current",
    "pack current",
    "low-voltage cut-off",
    "electrical speed",
    "grip",
    "pack power",
    "brake current",
    "charging current",
    "full pack",
    "motor heat",
    "controller heat",
    "cell heat",
    "speed cap",
    "reserve",
    "prices of the parts",
    "sum of the parts",
    "weighed",
]
