"""What a step has the tube look at, as people say it: a direction, a height, a distance."""

from dataclasses import dataclass
from typing import Annotated, Literal, Self

from pydantic import model_validator

from jade_perch.core.fields import Frozen, Range, refused

USUAL_JOB_MINUTES = 30.0  # while nobody said how long; our estimate
POINTED_DOUBT_DEG = 25.0  # a hand and a ring drawn round the Sun are no better; our estimate
# A landmark whose height nobody gave is taken to be anywhere from level to so high; our estimate
UNKNOWN_HEIGHTS_DEG = (0.0, 5.0, 10.0)

AimAt = Literal["landmark", "moon", "stars", "capped", "open", "sun"]
BearingBy = Literal["map", "compass", "sun"]
HeightWord = Literal["level", "roof", "high"]
FarWord = Literal["street", "block", "valley", "horizon"]
Bearing = Annotated[float, Range(0, 360, "°", "Count from north through east.")]
Height = Annotated[float, Range(-20, 90, "°", "0 is level with the eye.")]
JobMinutes = Annotated[float, Range(5, 360, "min", "Say how long you will work.")]
Distance = Annotated[float, Range(5, 200000, "m", "Read it off a map.")]


@dataclass(frozen=True, slots=True)
class HeightTraits:
    """What a word for a height means: every altitude it may be, in degrees; our estimates."""

    words: str
    altitudes_deg: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class FarTraits:
    """What a word for a distance means: the least it is, in metres; our estimate."""

    words: str
    least_m: float


HEIGHTS: dict[HeightWord, HeightTraits] = {
    "level": HeightTraits("level with you", (-5.0, 0.0, 5.0)),
    "roof": HeightTraits("as a roof", (5.0, 10.0, 15.0, 20.0)),
    "high": HeightTraits("high up", (20.0, 30.0, 40.0, 50.0, 60.0)),
}
FAR: dict[FarWord, FarTraits] = {
    "street": FarTraits("across the street", 15.0),
    "block": FarTraits("at the end of the street", 100.0),
    "valley": FarTraits("across fields or a valley", 500.0),
    "horizon": FarTraits("on the horizon", 3000.0),
}


class Aim(Frozen):
    """What a step has the tube look at, and for how long.

    ``capped`` is nothing, caps on; ``open`` is anything, the tube being swung about; ``sun`` the
    Sun itself through its filter.  An unknown height or direction is None.
    """

    at: AimAt
    bearing_deg: Bearing | None = None
    bearing_by: BearingBy = "map"
    height: HeightWord | None = None
    altitude_deg: Height | None = None
    job_minutes: JobMinutes = USUAL_JOB_MINUTES


class Landmark(Frozen):
    """Something far away to align on by day, and how long the job will take.

    ``bearing_deg`` counts from north through east: true north off a map or as pointed at on the
    ring around the Sun, magnetic by compass; nobody having said it, the Sun has to be down.  Its
    distance along the ground and its height are numbers or words.
    """

    bearing_deg: Bearing | None = None
    bearing_by: BearingBy = "map"
    height: HeightWord | None = None
    altitude_deg: Height | None = None
    far: FarWord | None = None
    distance_m: Distance | None = None
    job_minutes: JobMinutes = USUAL_JOB_MINUTES

    @model_validator(mode="after")
    def _somewhere(self) -> Self:
        if self.far is None and self.distance_m is None:
            raise refused("distance_m", None, "5 to 200000 m", "Choose how far away it is.")
        return self

    @property
    def metres(self) -> float:
        """How far away it is at least, in metres.  Source: rules.md#finder."""
        if self.distance_m is not None:
            return self.distance_m
        return FAR[self.far].least_m if self.far is not None else 0.0

    @property
    def is_paced(self) -> bool:
        """Whether its distance is a number somebody gave.  Source: rules.md#finder."""
        return self.distance_m is not None

    def aim(self) -> Aim:
        """Return what it has the tube look at.  Source: rules.md#sun."""
        return Aim(at="landmark", **self.model_dump(exclude={"distance_m", "far"}))


def heights_of(aim: Aim) -> tuple[float, ...]:
    """Return the heights in degrees to judge: the one given, or all that a word may be.

    Source: rules.md#sun.
    """
    if aim.altitude_deg is not None:
        return (aim.altitude_deg,)
    return UNKNOWN_HEIGHTS_DEG if aim.height is None else HEIGHTS[aim.height].altitudes_deg
