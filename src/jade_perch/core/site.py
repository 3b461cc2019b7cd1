"""The place one observes from."""

from typing import Annotated

from pydantic import AfterValidator

from jade_perch.core.fields import Frozen, Item, Loaded, Name, Range, UpTo, Zone
from jade_perch.core.skyline import FEW_POINTS, Skyline, ordered

MOST_DOMES = 12  # towns around one place; more are one glow
Latitude = Annotated[
    float, Range(-90, 90, "°", "North is positive, south negative, in decimal degrees.")
]


Longitude = Annotated[
    float, Range(-180, 180, "°", "East is positive, west negative, in decimal degrees.")
]
Elevation = Annotated[float, Range(-450, 6000, "m", "Type metres above the sea; 0 is fine.")]


class LightDome(Frozen):
    """The glow of a town: where it stands, how wide, and how much brighter it makes 20° up."""

    azimuth_deg: Annotated[
        float, Range(0, 360, "°", "Count from true north through east, 0 to 360.")
    ]
    width_deg: Annotated[
        float, Range(5, 180, "°", "Say how wide the glow looks where it is half as bright.")
    ]
    brighter_mag: Annotated[
        float, Range(0.1, 5, "mag", "Say how many magnitudes brighter the sky is there 20° up.")
    ]


FEW_DOMES = UpTo(MOST_DOMES, "domes", "Keep the brightest, and let the class say the rest.")


class Site(Item):
    """An observing place: geodetic WGS84 coordinates, east and north positive, IANA zone.

    The sky's darkness is a class from 1 to 9, the faintest star seen by eye overhead, which wins
    over it, or a meter's reading, which wins over both.  ``skyline`` runs round from north.
    """

    name: Name
    latitude_deg: Latitude
    longitude_deg: Longitude
    elevation_m: Elevation = 0.0
    zone: Zone
    dark_sky_class: (
        Annotated[int, Range(1, 9, "(1 darkest, 9 inner city)", "Leave it empty if unknown.")]
        | None
    ) = None
    sky_mpsas: (
        Annotated[float, Range(14, 22.2, "mag/arcsec²", "Leave it empty without a meter.")] | None
    ) = None
    naked_eye_limit_mag: (
        Annotated[float, Range(2, 8, "mag", "Leave it empty if nobody looked for it.")] | None
    ) = None
    light_domes: Annotated[tuple[LightDome, ...], FEW_DOMES, Loaded] = ()
    skyline: Annotated[Skyline, FEW_POINTS, Loaded, AfterValidator(ordered)] = ()
