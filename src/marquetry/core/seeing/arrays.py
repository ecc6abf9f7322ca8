"""The arrays of seeing, by what they hold."""

from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

Reals: TypeAlias = NDArray[np.float64]
"""Numbers in any shape; their unit stands with the name of the value."""
PlanPlaces: TypeAlias = NDArray[np.float64]
"""Places in a plane, … × 2, mm or pixels as the name of the value says."""
Light: TypeAlias = NDArray[np.float32]
"""Linear light, rows × columns × three colours, white paper near 1."""
