"""The compass: what the Earth's field does to it at a place and date."""

from datetime import datetime
from functools import cache

from pygeomag import GeoMag
from pygeomag.wmm.wmm_2025 import WMM_2025

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen
from jade_perch.core.site import Site

FIRST_YEAR, LAST_YEAR = 2025.0, 2030.0  # WMM2025 is valid for these five years
MODEL_DATES = "2025-01-01 to 2029-12-31 for the compass"
HORIZONTAL_USELESS_NT, HORIZONTAL_POOR_NT = 2000.0, 6000.0  # blackout and caution zones; WMM2025
COMPASS_CARE = "Keep 3 m from cars and rails, and off the mount's own steel."
COMPASS_DOUBT_DEG = 1.0  # how well a hand compass is read away from iron; rules.md#compass


class Magnetic(Frozen):
    """What a compass shows at a place and date; ``reading_deg`` is what to steer by."""

    declination_deg: float
    reading_deg: float
    is_useless: bool
    is_poor: bool
    words: str


@cache
def _model() -> GeoMag:
    return GeoMag(coefficients_data=WMM_2025)


def decimal_year(moment_utc: datetime) -> float:
    """Return a moment as a year with its fraction.  Source: rules.md#compass."""
    start = moment_utc.replace(month=1, day=1, hour=0, minute=0, second=0, microsecond=0)
    following = start.replace(year=start.year + 1)
    return start.year + (moment_utc - start) / (following - start)


def magnetic_at(site: Site, moment_utc: datetime, true_azimuth_deg: float = 0.0) -> Magnetic:
    """Return declination (east positive) and what a compass shows for a true azimuth.

    Raises ``OutOfRange`` outside 2025 to 2029: the model is not stretched beyond its years.

    Source: World Magnetic Model 2025 (NOAA, BGS), through pygeomag; rules.md#compass.
    """
    year = decimal_year(moment_utc)
    if not FIRST_YEAR <= year < LAST_YEAR:
        raise OutOfRange(
            "date",
            moment_utc.date().isoformat(),
            MODEL_DATES,
            "The magnetic model ends there; use Polaris, the shadow, a landmark or star drift.",
        )
    found = _model().calculate(
        glat=site.latitude_deg, glon=site.longitude_deg, alt=site.elevation_m / 1000, time=year
    )
    useless = found.h < HORIZONTAL_USELESS_NT
    poor = found.h < HORIZONTAL_POOR_NT
    words = f"{COMPASS_CARE} It is good to {COMPASS_DOUBT_DEG:g}°."
    if useless:
        words = "So near the magnetic pole a compass does not work: take another way."
    elif poor:
        words = "Near the magnetic pole a compass is unsure by several degrees: check it otherwise."
    return Magnetic(
        declination_deg=float(found.d),
        reading_deg=(true_azimuth_deg - float(found.d)) % 360,
        is_useless=useless,
        is_poor=poor,
        words=words,
    )


def true_bearing_deg(site: Site, moment_utc: datetime, compass_deg: float) -> float:
    """Return the true bearing that a compass shows as ``compass_deg``, 0 to 360.

    Raises ``OutOfRange`` where the compass cannot be trusted: outside the model's years, and
    near the magnetic poles.

    Source: true = compass + declination; rules.md#compass.
    """
    cure = "Take the true bearing off a map."
    try:
        magnetic = magnetic_at(site, moment_utc)
    except OutOfRange as outside:
        allowed = f"a map's bearing, or {MODEL_DATES}"
        raise OutOfRange("bearing_by", "compass", allowed, cure) from outside
    if magnetic.is_poor:
        allowed = "a map's bearing: so near the magnetic pole a compass is not sure enough"
        raise OutOfRange("bearing_by", "compass", allowed, cure)
    return (compass_deg + magnetic.declination_deg) % 360
