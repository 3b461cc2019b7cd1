"""What a finder shows: its field, the parallax of what is near, and how near is near enough."""

from dataclasses import dataclass

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.advice import clock_direction
from jade_perch.core.constants import ARCMIN_PER_RADIAN
from jade_perch.core.kit import Finder
from jade_perch.core.optics.orientation import finder_orientation

SIGHT_FIELD_DEG = 10.0  # what one takes in around a dot without moving the eye; our estimate
APPARENT_FIELD_DEG = 42.0  # of a plain magnifying finder; field = this over its power; estimate
# Parallax and aim stay within this share of the longest field's radius; rules.md#finder
SHARE_OF_FIELD = 0.1
FINEST_ARCMIN = 4.0  # the naked eye puts a dot on a star no better; our estimate
FINGER_SHARE = 0.07  # of the view's radius: what a finger on a phone can point at; our estimate
MOST_SHARE = 0.5  # of the longest field's radius: farther off a target may not be in it


@dataclass(frozen=True, slots=True)
class Geometry:
    """Angles in arcmin of one finder on one target: (right, up) to the naked eye."""

    parallax_arcmin: float
    side: Floats
    matrix: Floats
    field_radius_arcmin: float
    longest_radius_arcmin: float

    def seen(self, offset_arcmin: Floats) -> Floats:
        """Return a naked-eye offset as the finder shows it, in field radii.

        Source: rules.md#finder.
        """
        return np.asarray(self.matrix @ offset_arcmin / self.field_radius_arcmin)

    def true(self, seen: Floats) -> Floats:
        """Return what is seen, in field radii, as a naked-eye offset in arcmin.

        Source: rules.md#finder.
        """
        return np.asarray(np.linalg.solve(self.matrix, seen) * self.field_radius_arcmin)

    @property
    def limit_arcmin(self) -> float:
        """How near counts as agreeing: as well as it is pointed at, well inside the main field.

        Source: rules.md#finder.
        """
        pointed = min(
            FINGER_SHARE * self.field_radius_arcmin, MOST_SHARE * self.longest_radius_arcmin
        )
        return max(FINEST_ARCMIN, SHARE_OF_FIELD * self.longest_radius_arcmin, pointed)

    @property
    def is_far_enough(self) -> bool:
        """Whether the axes may cross at the target.  Source: rules.md#finder."""
        return self.parallax_arcmin <= SHARE_OF_FIELD * self.longest_radius_arcmin


def parallax_arcmin(offset_mm: float, distance_m: float) -> float:
    """Return the angle between two axes that cross at a landmark, in arcmin.

    Source: rules.md#finder; atan(s/d).
    """
    return float(np.arctan2(offset_mm / 1000, distance_m) * ARCMIN_PER_RADIAN)


def needed_distance_m(offset_mm: float, longest_field_deg: float) -> float:
    """Return how far a landmark has to be so that its parallax stays under a tenth of the radius.

    Source: rules.md#finder; d ≥ s / tan(0.1 · TFOV / 2).
    """
    return float(offset_mm / 1000 / np.tan(np.radians(SHARE_OF_FIELD * longest_field_deg / 2)))


def finder_field_deg(finder: Finder) -> tuple[float, bool]:
    """Return a finder's true field in degrees and whether it is only about right.

    Source: rules.md#finder.
    """
    if finder.field_deg is not None:
        return finder.field_deg, False
    if finder.traits.is_sight:
        return SIGHT_FIELD_DEG, True
    return APPARENT_FIELD_DEG / finder.power, True


def geometry_of(finder: Finder, distance_m: float | None, longest_field_deg: float) -> Geometry:
    """Return the angles of a finder for a landmark's distance, None for the sky.

    Source: rules.md#finder.
    """
    field_deg, _ = finder_field_deg(finder)
    angle = 0.0 if distance_m is None else parallax_arcmin(finder.axis_offset_mm, distance_m)
    return Geometry(
        parallax_arcmin=angle,
        side=np.array(clock_direction(finder.hour)),
        matrix=np.array(finder_orientation(finder.kind, finder.eyepiece_side).matrix),
        field_radius_arcmin=field_deg * 30,
        longest_radius_arcmin=longest_field_deg * 30,
    )
