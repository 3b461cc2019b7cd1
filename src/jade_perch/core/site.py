"""The place one observes from."""

from typing import Annotated

from jade_perch.core.fields import Item, Name, Range, Zone

Latitude = Annotated[
    float, Range(-90, 90, "°", "North is positive, south negative, in decimal degrees.")
]


class Site(Item):
    """An observing place: geodetic WGS84 coordinates, east and north positive, IANA zone.

    The sky's darkness is a class from 1 to 9, or a meter's reading, which wins.
    """

    name: Name
    latitude_deg: Latitude
    longitude_deg: Annotated[
        float, Range(-180, 180, "°", "East is positive, west negative, in decimal degrees.")
    ]
    elevation_m: Annotated[
        float, Range(-450, 6000, "m", "Type metres above the sea; 0 is fine.")
    ] = 0.0
    zone: Zone
    dark_sky_class: (
        Annotated[int, Range(1, 9, "(1 darkest, 9 inner city)", "Leave it empty if unknown.")]
        | None
    ) = None
    sky_mpsas: (
        Annotated[float, Range(14, 22.2, "mag/arcsec²", "Leave it empty without a meter.")] | None
    ) = None
