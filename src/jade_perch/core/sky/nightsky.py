"""The whole catalogue over one night: where everything stands, and how bright the sky is behind it.

Only what can be looked at is kept: moments from sunset to sunrise, places above the skyline and
above the thickest air.  What lies on the Moon is looked at when the Moon is.
"""

from dataclasses import dataclass
from datetime import date, datetime
from functools import cached_property, lru_cache

import numpy as np

from jade_perch.core.arrays import Floats, Integers, rows_of
from jade_perch.core.moments import utc_of
from jade_perch.core.site import Site
from jade_perch.core.sky.air import dimmed_mag
from jade_perch.core.sky.catalogue import Catalogue, unit_vectors
from jade_perch.core.sky.ephemeris import INDEX, Track, make_moment
from jade_perch.core.sky.night import Night, night_track
from jade_perch.core.sky.skylight import (
    TWILIGHT_SUN_DEG,
    moon_strength,
    scattered_cd_m2,
    site_glow_cd_m2,
    twilight_cd_m2,
)
from jade_perch.core.sky.sunpath import SUN_MARGIN, horizon_deg
from jade_perch.core.skyline import is_behind

STEP_S = 300.0  # how finely a night is looked at; rules.md#nightsky
LOWEST_DEG = 10.0  # below it thick air ruins every view
SKY_WEIGHT = 0.6  # how much of a darker sky becomes margin; rules.md#nightsky


@dataclass(frozen=True, eq=False)
class NightSky:
    """Moments ``unix_s`` (T,) and, for every look that is possible, one entry in flat arrays.

    ``row`` and ``step`` say which target and which moment an entry is; entries go by row, then by
    time.  Altitudes are airless, skies are without the telescope.
    """

    unix_s: Floats
    rows: int
    row: Integers
    step: Integers
    altitude_deg: Floats
    azimuth_deg: Floats
    sky_cd_m2: Floats
    moonless_cd_m2: Floats
    dimmed_mag: Floats
    highest_deg: Floats

    @cached_property
    def starts(self) -> Integers:
        """Where each row's entries begin, shape (rows + 1,).  Source: the entries."""
        return np.searchsorted(self.row, np.arange(self.rows + 1))

    def looks(self, row: int) -> slice:
        """Return the entries of one row.  Source: the entries."""
        return slice(int(self.starts[row]), int(self.starts[row + 1]))

    @cached_property
    def best(self) -> Integers:
        """The entry at which each row stands best, -1 for those that never can be looked at.

        Source: rules.md#nightsky.
        """
        best = np.full(self.rows, -1)
        present = np.flatnonzero(np.diff(self.starts))
        if present.size:
            score = -0.4 * self.dimmed_mag - SKY_WEIGHT * np.log10(self.sky_cd_m2)
            highest = np.full(self.rows, -np.inf)
            highest[present] = np.maximum.reduceat(score, self.starts[present])
            top = np.flatnonzero(score == highest[self.row])
            rows, first = np.unique(self.row[top], return_index=True)
            best[rows] = top[first]
        return best

    def moment_utc(self, step: int) -> datetime:
        """Return the moment of a step.  Source: rules.md#nightsky."""
        return utc_of(float(self.unix_s[step]))


@dataclass(frozen=True, slots=True)
class _Grid:
    """Every row at every moment, (N, T): parts of its direction, and the cosine from the Moon."""

    up: Floats
    east: Floats
    north: Floats
    to_moon: Floats


@dataclass(frozen=True, slots=True)
class _Looks:
    """Possible looks, one an entry: which target, which moment, toward where, in flat arrays."""

    row: Integers
    step: Integers
    altitude_deg: Floats
    azimuth_deg: Floats
    to_moon: Floats


def make_night_sky(catalogue: Catalogue, site: Site, night: Night) -> NightSky:
    """Return the catalogue over a night; kept for the next asker.

    Source: rules.md#nightsky.
    """
    return _night_sky(catalogue, site, night.date)


@lru_cache(maxsize=3)
def _night_sky(catalogue: Catalogue, site: Site, day: date) -> NightSky:
    track = night_track(site, day)
    return some_night_sky(catalogue, site, track, sunless(site, track))


def some_night_sky(catalogue: Catalogue, site: Site, track: Track, unix_s: Floats) -> NightSky:
    """Return a catalogue over moments of a track, which are to be without Sun; kept for nobody.

    Source: rules.md#nightsky.
    """
    grid = _grid(catalogue, site, track, unix_s)
    looks = _looks(grid)
    looks = rows_of(looks, ~is_behind(site.skyline, looks.altitude_deg, looks.azimuth_deg))
    with_moon, without = _sky_cd_m2(site, track, unix_s, looks)
    kept_as = np.float32  # a look keeps six figures, and a night a third of the room
    return NightSky(
        unix_s=unix_s,
        rows=len(catalogue),
        row=looks.row.astype(np.int32),
        step=looks.step.astype(np.int32),
        altitude_deg=looks.altitude_deg.astype(kept_as),
        azimuth_deg=looks.azimuth_deg.astype(kept_as),
        sky_cd_m2=with_moon.astype(kept_as),
        moonless_cd_m2=without.astype(kept_as),
        dimmed_mag=dimmed_mag(looks.altitude_deg).astype(kept_as),
        highest_deg=np.degrees(np.arcsin(np.clip(grid.up.max(axis=1), -1, 1))),
    )


def sunless(site: Site, track: Track) -> Floats:
    """Return the moments of a night, every five minutes, at which the Sun is down, in Unix seconds.

    It counts as up until ten minutes after it has set and from as long before it rises, seen from
    the place's height.  Where it does not set, the one moment at which it is lowest.

    Source: rules.md#sun; rules.md#nightsky.
    """
    unix_s = np.arange(track.start_s, track.end_s + STEP_S / 2, STEP_S)
    sun = track.altaz_deg(unix_s, INDEX["sun"])[0]
    margin_s = SUN_MARGIN.total_seconds()
    around = [
        np.clip(unix_s + aside, track.start_s, track.end_s) for aside in (-margin_s, margin_s)
    ]
    highest = np.max([sun, *(track.altaz_deg(at, INDEX["sun"])[0] for at in around)], axis=0)
    down = unix_s[highest < horizon_deg(site)]
    return down if down.size else unix_s[[int(np.argmin(sun))]]


def _grid(catalogue: Catalogue, site: Site, track: Track, unix_s: Floats) -> _Grid:
    """Return the whole catalogue at every moment; what moves goes its own way, features nowhere."""
    local = track.sidereal_at_deg(unix_s) + site.longitude_deg
    up = unit_vectors(local, np.full(local.shape, site.latitude_deg)).T
    east = unit_vectors(local + 90, np.zeros(local.shape)).T
    bodies = track.directions(unix_s)
    axes = (up, east, np.cross(up, east, axis=0), bodies[INDEX["moon"]])
    middle = make_moment(utc_of((track.start_s + track.end_s) / 2))
    of_date = np.nan_to_num(catalogue.directions @ middle.to_date.T)
    parts = [of_date @ axis for axis in axes]
    parts[0][~np.isfinite(catalogue.directions[:, 0])] = -1.0
    for row in np.flatnonzero(catalogue.is_body).tolist():
        body = bodies[INDEX[catalogue.bodies[row] or "moon"]]
        for part, axis in zip(parts, axes, strict=True):
            part[row] = (body * axis).sum(axis=0)
    return _Grid(*parts)


def _looks(grid: _Grid) -> _Looks:
    possible = grid.up > np.sin(np.radians(LOWEST_DEG))
    row, step = np.nonzero(possible)
    flat = rows_of(grid, possible)
    return _Looks(
        row=row,
        step=step,
        altitude_deg=np.degrees(np.arcsin(np.clip(flat.up, -1, 1))),
        azimuth_deg=np.degrees(np.arctan2(flat.east, flat.north)) % 360,
        to_moon=flat.to_moon,
    )


def _sky_cd_m2(site: Site, track: Track, unix_s: Floats, looks: _Looks) -> tuple[Floats, Floats]:
    """Return the sky behind every look, with the Moon's share and without it."""
    altitude, azimuth = track.altaz_deg(unix_s)
    sun, moon = INDEX["sun"], INDEX["moon"]
    without = site_glow_cd_m2(site, looks.altitude_deg, looks.azimuth_deg)
    dusky = np.flatnonzero(altitude[sun][looks.step] > TWILIGHT_SUN_DEG[0])
    step = looks.step[dusky]
    aside = looks.azimuth_deg[dusky] - azimuth[sun][step]
    without[dusky] += twilight_cd_m2(looks.altitude_deg[dusky], aside, altitude[sun][step])
    lit = np.flatnonzero(altitude[moon][looks.step] > 0)
    cosines = np.clip(looks.to_moon[lit], -1, 1)
    away = np.degrees(np.arccos(cosines))
    strength = moon_strength(altitude[moon], moon_phase_deg(track, unix_s))[looks.step[lit]]
    sky = without.copy()
    sky[lit] += scattered_cd_m2(looks.altitude_deg[lit], away, cosines, strength)
    return sky, without


def moon_phase_deg(track: Track, unix_s: Floats) -> Floats:
    """Return the Moon's phase angle in degrees at moments: 0 full, 180 new.

    Source: rules.md#skylight: cos i = 2k - 1 of the lit fraction k.
    """
    lit = track.fractions_lit(unix_s)[INDEX["moon"]]
    return np.asarray(np.degrees(np.arccos(np.clip(2 * lit - 1, -1, 1))))
