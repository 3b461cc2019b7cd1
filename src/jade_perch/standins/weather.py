"""A simulated weather service: plausible air for a place and moment, the same every time."""

from datetime import datetime
from math import cos, pi

from jade_perch.core.bench.cooling import Weather
from jade_perch.core.site import Site

WARMEST_DAY, WARMEST_HOUR = 200, 15.0  # mid July in the north; mid afternoon


def simulated_weather(site: Site, moment_utc: datetime) -> Weather:
    """Return made-up air: warm by latitude, season and hour of the Sun, damper when colder."""
    distance = abs(site.latitude_deg)
    day = moment_utc.timetuple().tm_yday + (182 if site.latitude_deg < 0 else 0)
    season = cos(2 * pi * (day - WARMEST_DAY) / 365)
    hour = moment_utc.hour + moment_utc.minute / 60 + site.longitude_deg / 15
    daily = cos(2 * pi * (hour - WARMEST_HOUR) / 24)
    air_c = 31 - 0.45 * distance + distance / 5 * season + 4 * daily - 0.0065 * site.elevation_m
    humidity = min(98.0, max(20.0, 70 - 12 * daily - 6 * season))
    return Weather(air_c=round(max(-55.0, min(45.0, air_c)), 1), humidity_percent=round(humidity))
