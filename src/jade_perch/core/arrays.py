"""The arrays the core computes with, named once."""

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Integers = NDArray[np.intp]
Truths = NDArray[np.bool_]
