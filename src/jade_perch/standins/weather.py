"""A simulated weather service: plausible hours for a place and a seed, the same every time."""

from collections.abc import Sequence
from datetime import datetime
from functools import lru_cache
from math import cos, floor, pi
from random import Random

from jade_perch.core.site import Site
from jade_perch.core.weather import HOUR, FileHour, hour_of

USUAL_SEED = 1
WARMEST_DAY, WARMEST_HOUR = 200, 15.0  # mid July in the north; mid afternoon
FRONTS_H, SHOWERS_H, GUSTS_H = 29.0, 4.0, 1.7  # how fast each kind of change goes
NODES_KEPT = 4096


def simulated_hours(
    site: Site, hours_utc: Sequence[datetime], seed: int = USUAL_SEED
) -> list[FileHour]:
    """Return made-up hours; any hour is the same whoever asks, and goes over into the next."""
    return [_hour(site, hour_of(at), seed) for at in hours_utc]


def _hour(site: Site, hour_utc: datetime, seed: int) -> FileHour:
    front = _drift(seed, site, "front", hour_utc, FRONTS_H)
    shower = _drift(seed, site, "shower", hour_utc, SHOWERS_H)
    gust = _drift(seed, site, "gust", hour_utc, GUSTS_H)
    calm = _drift(seed, site, "calm", hour_utc, FRONTS_H)
    warm = _drift(seed, site, "warm", hour_utc, 2 * FRONTS_H)
    daily = cos(2 * pi * (_solar_hour(site, hour_utc) - WARMEST_HOUR) / 24)
    humidity = 72 - 12 * daily - 6 * _season(site, hour_utc) + 12 * front
    wind = 3.6 + 1.0 * daily + 4.5 * front + 1.5 * gust
    cloud = 32 + 70 * front + 55 * shower + 20 * gust
    return FileHour(
        hour_utc=hour_utc,
        cloud_percent=round(_within(cloud, 0, 100)),
        wind_m_s=round(_within(wind, 0, 30), 1),
        humidity_percent=round(_within(humidity, 20, 98)),
        air_c=round(_within(_mean_air_c(site, hour_utc) + 4 * daily + 3 * warm, -55, 45), 1),
        steadiness=round(_within(3.4 + 2.2 * calm - 0.25 * max(0.0, wind - 4), 1, 5)),
        transparency=round(_within(4.6 - 2 * front - (humidity - 70) / 20, 1, 5)),
    )


def _within(value: float, low: float, high: float) -> float:
    return max(low, min(high, value))


def _solar_hour(site: Site, hour_utc: datetime) -> float:
    return hour_utc.hour + site.longitude_deg / 15


def _season(site: Site, hour_utc: datetime) -> float:
    """Return 1 in high summer and -1 in deep winter."""
    day = hour_utc.timetuple().tm_yday + (182 if site.latitude_deg < 0 else 0)
    return cos(2 * pi * (day - WARMEST_DAY) / 365)


def _mean_air_c(site: Site, hour_utc: datetime) -> float:
    distance = abs(site.latitude_deg)
    season = distance / 5 * _season(site, hour_utc)
    return 31 - 0.45 * distance + season - 0.0065 * site.elevation_m


def _drift(seed: int, site: Site, name: str, hour_utc: datetime, every_h: float) -> float:
    """Return a number from -1 to 1 that wanders smoothly, another way in so many hours."""
    at = hour_utc.timestamp() / HOUR.total_seconds() / every_h
    before = floor(at)
    part = at - before
    smooth = part * part * (3 - 2 * part)
    place = f"{site.latitude_deg:.2f} {site.longitude_deg:.2f}"
    nodes = [_node(f"{seed} {place} {name} {before + step}") for step in (0, 1)]
    return nodes[0] + smooth * (nodes[1] - nodes[0])


@lru_cache(maxsize=NODES_KEPT)
def _node(named: str) -> float:
    return Random(named).uniform(-1, 1)
