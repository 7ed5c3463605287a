"""The one array type of the core: what NumPy takes as numbers comes in, float arrays go out."""

from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

Array: TypeAlias = NDArray[np.float64]
Numbers: TypeAlias = float | Array
