"""Levels as they are read: a round vial, two straight ones, or the two angles of a digital one.

Directions count clockwise: from true north where the first foot's bearing is known, else from
the first foot itself.
"""

from typing import Annotated, ClassVar, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from jade_perch.core.arrays import Floats
from jade_perch.core.fields import Frozen, Range, refused
from jade_perch.core.kit import VIAL_CURE

USUAL_VIAL_ARCMIN = 30.0  # one division of a round vial nobody measured; our estimate
USUAL_WALL_ARCMIN = 90.0  # tilt at which a usual bubble touches its wall; our estimate
VIAL_READ_DIVISIONS = 0.2  # how well a bubble is read against its marks; our estimate
USUAL_DIGITAL_DOUBT_ARCMIN = 12.0  # a phone laid on the base, typed in; our estimate
LOOKED_DOUBT_ARCMIN = 120.0  # how level the eye finds a base; our estimate
LEAST_BETWEEN_VIALS_DEG = 30.0  # nearer to one line two vials say nothing across it

Angle = Annotated[float, Range(0, 360, "°", "Count clockwise.")]
Sensitivity = Annotated[float, Range(0.1, 240, "arcmin a division", VIAL_CURE)]
Divisions = Annotated[float, Range(-10, 10, "divisions", "Count marks from the middle.")]
Slope = Annotated[float, Range(-30, 30, "°", "A base this steep tips: stand it anew first.")]


class Divided(Frozen):
    """A vial with marks: what a division is worth is a usual one while nobody measured it."""

    sensitivity_arcmin: Sensitivity = USUAL_VIAL_ARCMIN

    @property
    def doubt_arcmin(self) -> float:
        """How far the reading may be off.  Source: rules.md#level."""
        return VIAL_READ_DIVISIONS * self.sensitivity_arcmin

    @property
    def is_measured(self) -> bool:
        """Whether somebody said what a division is.  Source: rules.md#level."""
        return "sensitivity_arcmin" in self.model_fields_set


class RoundVial(Divided):
    """A bubble under a round glass: where it stands, and where the glass ends.

    ``vial_divisions`` is the mark at which the bubble touches the wall.
    """

    kind: Literal["round"] = "round"
    bubble_divisions: Annotated[float, Range(0, 10, "divisions", "Count marks from the middle.")]
    bubble_azimuth_deg: Angle
    vial_divisions: Annotated[float, Range(1, 10, "divisions", "Count the rings.")] = 3.0

    @model_validator(mode="after")
    def _inside_the_glass(self) -> Self:
        if self.bubble_divisions > self.vial_divisions:
            raise refused(
                "bubble_divisions",
                self.bubble_divisions,
                f"0 to {self.vial_divisions:g} divisions, the wall of this vial",
                "If it touches the wall, point at the wall: the answer then says at least.",
            )
        return self

    def slope(self) -> Floats:
        """Return the uphill slope (east, north): a bubble goes to the high side.

        Source: rules.md#level.
        """
        rise = np.tan(np.radians(self.bubble_divisions * self.sensitivity_arcmin / 60))
        return np.asarray(rise * _toward(self.bubble_azimuth_deg))

    @property
    def wall_arcmin(self) -> float:
        """The tilt at which its bubble touches the wall.  Source: rules.md#level."""
        return self.vial_divisions * self.sensitivity_arcmin

    @property
    def is_at_wall(self) -> bool:
        """Whether the bubble touches the wall, so that the tilt may be larger.

        Source: rules.md#level.
        """
        return self.bubble_divisions >= self.vial_divisions - 1e-9


class StraightVials(Divided):
    """Two straight vials; each is read toward its own azimuth, negative the other way."""

    kind: Literal["straight"] = "straight"
    first_divisions: Divisions
    second_divisions: Divisions
    first_azimuth_deg: Angle = 0.0
    second_azimuth_deg: Angle = 90.0

    @model_validator(mode="after")
    def _not_along_one_line(self) -> Self:
        across = np.sin(np.radians(self.second_azimuth_deg - self.first_azimuth_deg))
        if abs(across) < np.sin(np.radians(LEAST_BETWEEN_VIALS_DEG)):
            raise refused(
                "second_azimuth_deg",
                self.second_azimuth_deg,
                f"{LEAST_BETWEEN_VIALS_DEG:g}° or more across {self.first_azimuth_deg:g}°",
                "Turn the second vial across the first.",
            )
        return self

    def slope(self) -> Floats:
        """Return the uphill slope (east, north) that both readings ask for, exactly.

        Source: rules.md#level.
        """
        lines = np.array([_toward(self.first_azimuth_deg), _toward(self.second_azimuth_deg)])
        divisions = np.array([self.first_divisions, self.second_divisions])
        rises = np.tan(np.radians(divisions * self.sensitivity_arcmin / 60))
        return np.linalg.solve(lines, rises)

    is_at_wall: ClassVar[bool] = False
    wall_arcmin: ClassVar[float] = USUAL_WALL_ARCMIN


class TwoAxes(Frozen):
    """A digital level: the rise along its own axis, and along the one 90° clockwise of it.

    ``source`` says whether somebody typed it or it was read live; nobody having said how the
    display dances, a usual doubt is taken.
    """

    kind: Literal["axes"] = "axes"
    along_deg: Slope
    across_deg: Slope
    axis_azimuth_deg: Angle = 0.0
    noise_arcmin: (
        Annotated[float, Range(0, 120, "arcmin", "What the display dances by.")] | None
    ) = None
    source: Literal["typed", "live"] = "typed"

    def slope(self) -> Floats:
        """Return the uphill slope (east, north).  Source: rules.md#level."""
        along = np.tan(np.radians(self.along_deg)) * _toward(self.axis_azimuth_deg)
        across = np.tan(np.radians(self.across_deg)) * _toward(self.axis_azimuth_deg + 90)
        return np.asarray(along + across)

    @property
    def doubt_arcmin(self) -> float:
        """How far the reading may be off.  Source: rules.md#level."""
        return USUAL_DIGITAL_DOUBT_ARCMIN if self.noise_arcmin is None else self.noise_arcmin

    is_at_wall: ClassVar[bool] = False
    is_measured: ClassVar[bool] = True
    wall_arcmin: ClassVar[float] = USUAL_WALL_ARCMIN


class ByEye(Frozen):
    """No vial: somebody looked whether it stands roughly level."""

    kind: Literal["look"] = "look"
    looks_level: bool


Vial = RoundVial | StraightVials | TwoAxes
LevelReading = Annotated[Vial | ByEye, Field(discriminator="kind")]


class Tilt(Frozen):
    """How a base leans: by how much, toward which side it is low, and how sure that is.

    ``low_azimuth_deg`` counts from true north where ``by_bearing``, else from foot 1.
    """

    tilt_arcmin: float
    low_azimuth_deg: float
    doubt_arcmin: float
    is_at_least: bool
    by_bearing: bool = False


def read_tilt(reading: Vial, *, by_bearing: bool = True) -> Tilt:
    """Return the tilt of a base in arcmin and the direction of its low side, from a reading.

    Source: plane geometry; rules.md#level: the low side is opposite the bubble.
    """
    east, north = reading.slope()
    return Tilt(
        tilt_arcmin=float(np.degrees(np.arctan(np.hypot(east, north))) * 60),
        low_azimuth_deg=float(np.degrees(np.arctan2(-east, -north))) % 360,
        doubt_arcmin=reading.doubt_arcmin,
        is_at_least=reading.is_at_wall,
        by_bearing=by_bearing,
    )


def _toward(direction_deg: float) -> Floats:
    """Return the unit vector (right, up) of a direction, clockwise from up, in degrees."""
    return np.array([np.sin(np.radians(direction_deg)), np.cos(np.radians(direction_deg))])
