"""How much air lies in front of the sky, and what it takes."""

import numpy as np
from numpy.typing import ArrayLike

from jade_perch.core.arrays import Floats

EXTINCTION_MAG = 0.25  # a unit of airmass; 0.2 to 0.3 at ordinary places; rules.md#air-mass


def airmass(altitude_deg: ArrayLike) -> Floats:
    """Return the mass of air in front of an altitude, 1 overhead; below the horizon as at it.

    ``altitude_deg`` is the apparent altitude, any shape.

    Source: Kasten and Young 1989, Applied Optics 28:4735.
    """
    altitude = np.maximum(np.asarray(altitude_deg, dtype=float), 0.0)
    bent = 0.50572 * np.exp(-1.6364 * np.log(altitude + 6.07995))  # half the work of a power
    return np.asarray(1 / (np.sin(np.radians(altitude)) + bent))


def dimmed_mag(altitude_deg: ArrayLike) -> Floats:
    """Return by how many magnitudes the air dims more than it does overhead.

    What it takes overhead is inside the observer's field factor, as in published limits.

    Source: rules.md#air-mass.
    """
    return np.asarray(EXTINCTION_MAG * (airmass(altitude_deg) - 1))
