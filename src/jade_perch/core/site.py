"""The place one observes from."""

from typing import Annotated

from jade_perch.core.fields import Item, Name, Range, Zone


class Site(Item):
    """An observing place: geodetic WGS84 coordinates, east and north positive, IANA zone."""

    name: Name
    latitude_deg: Annotated[
        float, Range(-90, 90, "°", "North is positive, south negative, in decimal degrees.")
    ]
    longitude_deg: Annotated[
        float, Range(-180, 180, "°", "East is positive, west negative, in decimal degrees.")
    ]
    elevation_m: Annotated[
        float, Range(-450, 6000, "m", "Type metres above the sea; 0 is fine.")
    ] = 0.0
    zone: Zone
