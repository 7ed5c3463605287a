"""What is known of the inputs together: their place in the space of standard normals, before and after rides have taught.

Before any ride the inputs are independent: mean 0, covariance the identity. Evidence moves the mean and ties inputs to each
other; every room asks through :class:`boardmath.case.Case`, which carries it.
"""

from dataclasses import dataclass

import numpy as np

from boardmath.physics.types import Array
from boardmath.registry import COLUMN, INPUTS


@dataclass(frozen=True)
class Joint:
    """A joint normal distribution over the inputs' deviates, by name; inputs that are not named stay as they were.

    Args:
        mean: of shape (n,); covariance: of shape (n, n), symmetric and positive definite.
    """

    names: tuple[str, ...]
    mean: Array
    covariance: Array

    def __post_init__(self) -> None:
        unknown = [n for n in self.names if n not in COLUMN]
        if unknown:
            raise ValueError(f"no input of the model is called {unknown[0]}")
        if self.mean.shape != (len(self.names),) or self.covariance.shape != (len(self.names),) * 2:
            raise ValueError("mean and covariance have to have a row for each name")

    def moved(self, z: Array) -> Array:
        """Standard normal deviates of all inputs, shape (rows, inputs), as draws from this distribution."""
        columns = [COLUMN[n] for n in self.names]
        made = z.copy()
        made[:, columns] = self.mean + z[:, columns] @ np.linalg.cholesky(self.covariance).T
        return made


def nothing_known() -> Joint:
    """What is known before any ride."""
    return Joint(tuple(i.name for i in INPUTS), np.zeros(len(INPUTS)), np.eye(len(INPUTS)))
