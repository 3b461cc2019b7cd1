"""Positions of Sun, Moon and planets at a site, all bodies and a whole night in one pass.

The ephemeris is asked at a few Chebyshev nodes; a fit through them then gives every minute.
"""

from dataclasses import dataclass
from datetime import UTC, datetime
from functools import cache
from importlib.resources import files
from typing import Any, Literal

import numpy as np
from numpy.polynomial import chebyshev
from numpy.typing import ArrayLike
from skyfield.api import Loader, wgs84
from skyfield.earthlib import refract

from jade_perch.core.arrays import Floats
from jade_perch.core.constants import AU_KM
from jade_perch.core.site import Site
from jade_perch.core.sky.cover import require_covered

BodyName = Literal[
    "sun", "moon", "mercury", "venus", "mars", "jupiter", "saturn", "uranus", "neptune"
]


@dataclass(frozen=True, slots=True)
class Body:
    """A body of the solar system; the radius is the equatorial one in km."""

    name: BodyName
    label: str
    segment: str
    radius_km: float
    is_showpiece: bool = True


# Equatorial radii: IAU Working Group on Cartographic Coordinates 2015.
BODIES = (
    Body("sun", "Sun", "sun", 695700.0),
    Body("moon", "Moon", "moon", 1737.4),
    Body("mercury", "Mercury", "mercury", 2440.53, is_showpiece=False),
    Body("venus", "Venus", "venus", 6051.8),
    Body("mars", "Mars", "mars", 3396.19),
    Body("jupiter", "Jupiter", "jupiter barycenter", 71492.0),
    Body("saturn", "Saturn", "saturn barycenter", 60268.0),
    Body("uranus", "Uranus", "uranus barycenter", 25559.0, is_showpiece=False),
    Body("neptune", "Neptune", "neptune barycenter", 24764.0, is_showpiece=False),
)
INDEX = {body.name: number for number, body in enumerate(BODIES)}

NODES = 18  # samples over one day; the fit then errs by less than 0.01 arcsec even for the Moon
DEGREE = 14
ALL = slice(None)


def local_altaz_deg(site: Site, places: Floats, sidereal_deg: ArrayLike) -> tuple[Floats, Floats]:
    """Return true (airless) altitudes and azimuths in degrees of vectors in the equator of date.

    ``places`` has x, y, z along its first axis, of any length; ``sidereal_deg`` is Greenwich
    apparent sidereal time.  Azimuth runs from north through east, 0 to 360.

    Source: Meeus, Astronomical Algorithms, ch. 13.
    """
    x, y, z = places
    local = np.radians(np.asarray(sidereal_deg) + site.longitude_deg)
    latitude = np.radians(site.latitude_deg)
    to_meridian = x * np.cos(local) + y * np.sin(local)
    to_east = y * np.cos(local) - x * np.sin(local)
    north = z * np.cos(latitude) - to_meridian * np.sin(latitude)
    up = z * np.sin(latitude) + to_meridian * np.cos(latitude)
    length = np.sqrt(x * x + y * y + z * z)
    altitude = np.degrees(np.arcsin(np.clip(up / length, -1, 1)))
    return altitude, np.degrees(np.arctan2(to_east, north)) % 360


@dataclass(frozen=True, slots=True)
class Track:
    """Apparent topocentric places of all nine bodies over a span, as Chebyshev series.

    ``start_s`` and ``end_s`` are Unix seconds.  ``places`` holds, for each body, the unit vector
    in the true equator and equinox of date; ``distance_au`` and ``light`` (fraction lit) follow
    the order of ``BODIES``; ``sidereal_deg`` is Greenwich apparent sidereal time, unwrapped.
    """

    site: Site
    start_s: float
    end_s: float
    places: Floats
    distance_au: Floats
    light: Floats
    sidereal_deg: Floats

    def _at(self, coefficients: Floats, unix_s: Floats) -> Floats:
        x = 2 * (unix_s - self.start_s) / (self.end_s - self.start_s) - 1
        return np.asarray(chebyshev.chebval(x, coefficients))

    def altaz_deg(self, unix_s: Floats, which: slice | int = ALL) -> tuple[Floats, Floats]:
        """Return true (airless) altitudes and azimuths in degrees, each of shape (9, N).

        Azimuth runs from north through east, 0 to 360.  ``unix_s`` has shape (N,); with one
        body's number as ``which`` the answers have that shape too.

        Source: Meeus, Astronomical Algorithms, ch. 13.
        """
        places = np.moveaxis(self._at(self.places[:, which], unix_s), -2, 0)
        return local_altaz_deg(self.site, places, self._at(self.sidereal_deg, unix_s))

    def sidereal_at_deg(self, unix_s: Floats) -> Floats:
        """Return Greenwich apparent sidereal time in degrees, unwrapped.

        Source: rules.md#positions.
        """
        return self._at(self.sidereal_deg, unix_s)

    def distances_au(self, unix_s: Floats, which: slice | int = ALL) -> Floats:
        """Return topocentric distances in astronomical units, shape (9, N), or (N,) for one.

        Source: rules.md#positions.
        """
        return self._at(self.distance_au[:, which], unix_s)

    def fractions_lit(self, unix_s: Floats) -> Floats:
        """Return the lit fraction of each disc, 0 to 1, shape (9, N).

        Source: rules.md#positions.
        """
        return np.clip(self._at(self.light, unix_s), 0, 1)

    def directions(self, unix_s: Floats) -> Floats:
        """Return unit vectors in the equator of date, shape (9, 3, N).

        Source: rules.md#positions.
        """
        vectors = self._at(self.places, unix_s)
        length = np.linalg.norm(vectors, axis=1, keepdims=True)
        return np.asarray(vectors / length)


@cache
def _almanac() -> tuple[Any, Any]:
    """Open the shipped kernel and time scale once per process."""
    loader = Loader(str(files("skyfield_data") / "data"), verbose=False)
    return loader("de421.bsp"), loader.timescale(builtin=True)


def make_track(site: Site, start_utc: datetime, end_utc: datetime) -> Track:
    """Return the tracks of all nine bodies over up to a day and a half at ``site``.

    Raises ``OutOfRange`` for moments outside the ephemeris.

    Source: JPL DE421; light time, deflection and aberration by Skyfield; no polar motion.
    """
    for moment in (start_utc, end_utc):
        require_covered(moment)
    kernel, scale = _almanac()
    start_s, end_s = start_utc.timestamp(), end_utc.timestamp()
    nodes = chebyshev.chebpts1(NODES)
    unix_s = (nodes + 1) / 2 * (end_s - start_s) + start_s
    times = scale.from_datetimes([datetime.fromtimestamp(s, UTC) for s in unix_s])
    observer = kernel["earth"] + wgs84.latlon(
        site.latitude_deg, site.longitude_deg, site.elevation_m
    )
    here = observer.at(times)
    sun_at = here.observe(kernel["sun"]).apparent()
    places, distances, light = [], [], []
    for body in BODIES:
        seen = sun_at if body.name == "sun" else here.observe(kernel[body.segment]).apparent()
        _, _, distance = seen.radec("date")
        # rotate from the celestial reference frame into the true equator of date
        equator_of_date = np.einsum("ij...,j...->i...", times.M, seen.position.au)
        places.append(equator_of_date / distance.au)
        distances.append(distance.au)
        light.append(_fraction_lit(seen.position.au, sun_at.position.au))
    sidereal = np.unwrap(times.gast * 15, period=360)
    return Track(
        site=site,
        start_s=start_s,
        end_s=end_s,
        places=_fit(nodes, np.array(places)),
        distance_au=_fit(nodes, np.array(distances)),
        light=_fit(nodes, np.array(light)),
        sidereal_deg=_fit(nodes, sidereal),
    )


@dataclass(frozen=True, slots=True)
class SunAndMoon:
    """Sun and Moon from a place at many moments: airless altitudes (N,), places in au (3, N), ICRS.

    ``lit_share`` is that of the Moon's disc.
    """

    sun_deg: Floats
    moon_deg: Floats
    lit_share: Floats
    sun_au: Floats
    moon_au: Floats


def sun_and_moon(site: Site, unix_s: Floats) -> SunAndMoon:
    """Return Sun and Moon at moments of many nights at once, in one pass.

    Raises ``OutOfRange`` outside the ephemeris.

    Source: JPL DE421 through Skyfield.
    """
    kernel, _, here = _from_here(site, unix_s)
    sun, moon = (here.observe(kernel[name]).apparent() for name in ("sun", "moon"))
    heights = [np.asarray(seen.altaz()[0].degrees) for seen in (sun, moon)]
    lit = _fraction_lit(moon.position.au, sun.position.au)
    return SunAndMoon(heights[0], heights[1], lit, sun.position.au, moon.position.au)


def directions_of_date(site: Site, unix_s: Floats) -> tuple[Floats, Floats]:
    """Return unit vectors of the nine bodies in the equator of date, shape (9, 3, N), and Greenwich
    apparent sidereal time in degrees, (N,).

    For many nights at once.  Raises ``OutOfRange`` outside the ephemeris.

    Source: JPL DE421 through Skyfield.
    """
    kernel, times, here = _from_here(site, unix_s)
    places = [here.observe(kernel[body.segment]).apparent().position.au for body in BODIES]
    of_date = np.einsum("ij...,bj...->bi...", times.M, np.array(places))
    return of_date / np.linalg.norm(of_date, axis=1, keepdims=True), np.asarray(times.gast * 15)


def _from_here(site: Site, unix_s: Floats) -> tuple[Any, Any, Any]:
    """Return the kernel, moments as it takes them, and a place at those moments."""
    for edge in (unix_s[0], unix_s[-1]):
        require_covered(datetime.fromtimestamp(float(edge), UTC))
    kernel, scale = _almanac()
    days = np.floor(unix_s / 86400)  # whole days apart, or leap seconds would be counted in
    times = scale.utc(1970, 1, 1 + days, 0, 0, unix_s - 86400 * days)
    place = wgs84.latlon(site.latitude_deg, site.longitude_deg, site.elevation_m)
    return kernel, times, (kernel["earth"] + place).at(times)


@dataclass(frozen=True, slots=True)
class Moment:
    """The sky at one moment: rotation from ICRS to the true equator of date, sidereal time."""

    moment_utc: datetime
    to_date: Floats
    sidereal_deg: float

    def altaz_deg(self, site: Site, directions: Floats) -> tuple[Floats, Floats]:
        """Return true altitudes and azimuths in degrees of ICRS unit vectors, last axis 3.

        Source: rules.md#positions.
        """
        places = np.moveaxis(directions @ self.to_date.T, -1, 0)
        return local_altaz_deg(site, places, self.sidereal_deg)


def make_moment(moment_utc: datetime) -> Moment:
    """Return what turns catalogue directions (ICRS) into those of date and of a site.

    Raises ``OutOfRange`` outside the ephemeris.  Source: IAU 2000A through Skyfield.
    """
    require_covered(moment_utc)
    time = _almanac()[1].from_datetime(moment_utc)
    return Moment(moment_utc, np.asarray(time.M), float(time.gast) * 15)


def _fraction_lit(body_au: Floats, sun_au: Floats) -> Floats:
    """Return (1 + cos i)/2 with the phase angle i at the body between Sun and observer."""
    to_sun = sun_au - body_au
    cosine = np.sum(-body_au * to_sun, axis=0)
    length = np.linalg.norm(body_au, axis=0) * np.linalg.norm(to_sun, axis=0)
    with np.errstate(invalid="ignore", divide="ignore"):
        return np.where(length > 0, (1 + cosine / length) / 2, 1.0)


def _fit(nodes: Floats, values: Floats) -> Floats:
    """Return Chebyshev coefficients, degree first, of each series along the last axis."""
    flat = values.reshape(-1, values.shape[-1]).T
    fitted = chebyshev.chebfit(nodes, flat, DEGREE)
    return np.asarray(fitted.reshape(DEGREE + 1, *values.shape[:-1]))


def diameter_arcsec(body: BodyName, distance_au: Floats) -> Floats:
    """Return the apparent equatorial diameter in arcsec at a distance in astronomical units.

    Source: geometry, 2·asin(radius / distance); radii IAU 2015.
    """
    radius_km = BODIES[INDEX[body]].radius_km
    return np.asarray(np.degrees(2 * np.arcsin(radius_km / (distance_au * AU_KM))) * 3600)


def refracted_deg(altitude_deg: Floats) -> Floats:
    """Return altitudes in degrees as seen through air of 10 °C and 1010 mbar.

    Below -1° nothing is added: there is no line of sight.

    Source: Bennett 1982, J. Navigation 35:255, inverted by Skyfield.
    """
    seen = np.asarray(refract(altitude_deg, 10.0, 1010.0))
    return np.where(altitude_deg < -1.0, altitude_deg, seen)


def separation_deg(one_direction: Floats, other_direction: Floats) -> Floats:
    """Return the angle in degrees between unit vectors of shape (3, N).

    Source: rules.md#positions.
    """
    across = np.linalg.norm(np.cross(one_direction, other_direction, axis=0), axis=0)
    return np.asarray(
        np.degrees(np.arctan2(across, np.sum(one_direction * other_direction, axis=0)))
    )
