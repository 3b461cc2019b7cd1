"""What can be looked at: one model for it, and its kinds, one row each."""

from dataclasses import dataclass
from typing import Annotated, Literal

from jade_perch.core.fields import Frozen, OneOf
from jade_perch.core.sky.ephemeris import BodyName

Shape = Literal["disc", "point", "pair", "cluster", "glow"]


@dataclass(frozen=True, slots=True)
class KindTraits:
    """What one kind of target is: the word for it, how it is drawn and judged.

    ``keeps_whole`` says that climbing ends where the whole of it no longer fits the field.
    """

    title: str
    shape: Shape
    keeps_whole: bool = False


KINDS: dict[str, KindTraits] = {
    "moon": KindTraits("Moon", "disc", keeps_whole=True),
    "planet": KindTraits("planet", "disc"),
    "Moon feature": KindTraits("Moon feature", "disc"),
    "star": KindTraits("star", "point"),
    "double star": KindTraits("double star", "pair"),
    "asterism": KindTraits("asterism", "cluster"),
    "open cluster": KindTraits("open cluster", "cluster"),
    "globular cluster": KindTraits("globular cluster", "cluster"),
    "cluster with nebula": KindTraits("cluster with nebula", "cluster"),
    "star cloud": KindTraits("star cloud", "cluster"),
    "galaxy": KindTraits("galaxy", "glow"),
    "nebula": KindTraits("nebula", "glow"),
    "planetary nebula": KindTraits("planetary nebula", "glow"),
    "supernova remnant": KindTraits("supernova remnant", "glow"),
}
TargetKind = Annotated[str, OneOf(tuple(KINDS))]


class Target(Frozen):
    """Something to look at; the same key names it everywhere and for good.

    Places are ICRS; bodies of the solar system have none, they move.  Sizes in arcmin, position
    angles from north through east, of a double star from the brighter one; its magnitude is
    the brighter one's, ``companion_mag`` the other's.  ``detail`` is its kind in words, with
    what tells it apart.  A feature of the Moon has ``body`` "moon", its selenographic place (north
    and east positive) and how far across it is; it stands where the Moon stands.
    """

    key: str
    label: str
    kind: TargetKind
    detail: str = ""
    constellation: str = ""
    body: BodyName | None = None
    ra_deg: float | None = None
    dec_deg: float | None = None
    magnitude: float | None = None
    major_arcmin: float | None = None
    minor_arcmin: float | None = None
    position_angle_deg: float | None = None
    separation_arcsec: float | None = None
    companion_mag: float | None = None
    moon_latitude_deg: float | None = None
    moon_longitude_deg: float | None = None
    across_km: float | None = None

    @property
    def traits(self) -> KindTraits:
        """What its kind is.  Source: rules.md#catalogue."""
        return KINDS[self.kind]


class Placed(Frozen):
    """A target at the moment it is looked at: airless altitude, azimuth from north."""

    target: Target
    altitude_deg: float
    azimuth_deg: float
