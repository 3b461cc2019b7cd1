"""What stands in the way: roofs, trees and hills, as points of a line around the horizon."""

from collections.abc import Sequence
from typing import Annotated

import numpy as np
from numpy.typing import ArrayLike

from jade_perch.core.arrays import Floats, Truths
from jade_perch.core.fields import Frozen, Range, UpTo

MOST_POINTS = 400  # a point a degree and some; more draw no better line
FEW_POINTS = UpTo(MOST_POINTS, "points", "Leave out points where the line is straight.")


class SkylinePoint(Frozen):
    """A point of the line; azimuth from true north through east."""

    azimuth_deg: Annotated[
        float, Range(0, 360, "°", "Count from true north through east, 0 to 360.")
    ]
    altitude_deg: Annotated[
        float, Range(-5, 90, "°", "Count from the level horizon up; 90 is overhead.")
    ]


Skyline = tuple[SkylinePoint, ...]


def ordered(points: Sequence[SkylinePoint]) -> Skyline:
    """Return points from north round through east; of two at one azimuth the first stays first.

    More points than are kept are refused.

    Source: rules.md#skyline.
    """
    FEW_POINTS.require(points, "skyline")
    return tuple(sorted(points, key=lambda point: point.azimuth_deg))


def skyline_deg(points: Skyline, azimuth_deg: ArrayLike) -> Floats:
    """Return how high the line stands at azimuths, in degrees; 0 where none was drawn.

    Straight between points, on through north; two points at one azimuth make an upright edge.

    Source: rules.md#skyline.
    """
    azimuth = np.asarray(azimuth_deg, dtype=float) % 360
    if not points:
        return np.zeros(azimuth.shape)
    at = np.array([point.azimuth_deg for point in points])
    high = np.array([point.altitude_deg for point in points])
    around = np.concatenate([[at[-1] - 360], at, [at[0] + 360]])
    return np.asarray(np.interp(azimuth, around, np.concatenate([high[-1:], high, high[:1]])))


def is_behind(points: Skyline, altitude_deg: ArrayLike, azimuth_deg: ArrayLike) -> Truths:
    """Return whether places are behind the line, or under the level horizon without one.

    Source: rules.md#skyline.
    """
    return np.asarray(np.asarray(altitude_deg) <= skyline_deg(points, azimuth_deg))
