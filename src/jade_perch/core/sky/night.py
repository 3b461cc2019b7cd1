"""One night at one site: Sun, twilights, dark window, Moon, and when each body is up."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from functools import lru_cache
from itertools import pairwise
from typing import Literal
from zoneinfo import ZoneInfo

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.constants import (
    REFRACTION_AT_HORIZON_DEG,
    SUN_HORIZON_DEG,
    TWILIGHT_DEG,
)
from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen
from jade_perch.core.moments import utc_of
from jade_perch.core.site import Site
from jade_perch.core.sky.cover import covered_date
from jade_perch.core.sky.ephemeris import (
    BODIES,
    INDEX,
    BodyName,
    Track,
    diameter_arcsec,
    make_track,
)

Light = Literal["day", "civil", "nautical", "astronomical", "dark"]
LIGHTS: tuple[Light, ...] = ("day", "civil", "nautical", "astronomical", "dark")
STEP_S = 60.0  # a body that is up for less than this may be missed
ZONE_FITS = timedelta(hours=3)  # a zone's noon is no farther from the Sun's; our choice
MORNING_HOURS = 6.0  # before noon the day turns where the Sun does not set; our choice
EVENT_S = 0.5  # how late an event may be reported


class Span(Frozen):
    """A stretch of time; an end at the edge of the night is not an event, so it is None."""

    start_utc: datetime
    end_utc: datetime
    starts: bool
    ends: bool


class LightSpan(Frozen):
    """A stretch of one kind of daylight or darkness."""

    light: Light
    start_utc: datetime
    end_utc: datetime


class BodyNight(Frozen):
    """When one body is above the horizon this night, and its highest point."""

    body: BodyName
    label: str
    up: list[Span]
    culmination_utc: datetime
    culmination_altitude_deg: float
    horizon: Literal["rises and sets", "never sets", "does not rise"]


class Night(Frozen):
    """From noon to noon: the light, the dark window and the nine bodies.

    ``sunset_utc`` is None where the Sun does not set or does not rise; ``sun_words`` and
    ``dark_words`` say in full what there is, also at high latitudes.  The Moon's lit percent
    holds for sunset, or for midnight where there is none.
    """

    date: date
    start_utc: datetime
    end_utc: datetime
    sunset_utc: datetime | None
    sunrise_utc: datetime | None
    lights: list[LightSpan]
    dark: list[Span]
    moonless: list[Span]
    moon_lit_percent: float
    moon_waxing: bool
    bodies: list[BodyNight]
    sun_words: str
    dark_words: str


def require_inside(night: Night, moment_utc: datetime) -> None:
    """Raise ``OutOfRange`` for a moment outside a night.  Source: rules.md#night."""
    if not night.start_utc <= moment_utc <= night.end_utc:
        allowed = f"{night.start_utc:%Y-%m-%d %H:%M} to {night.end_utc:%Y-%m-%d %H:%M} UTC"
        raise OutOfRange("at_utc", moment_utc.isoformat(), allowed, "Choose a time of this night.")


def evening_date(site: Site, now_utc: datetime) -> date:
    """Return the date whose evening ``now_utc`` belongs to; from sunrise on it is the coming one's.

    So what is set up by day, in the morning or after noon, is there in the evening.  Where the
    Sun does not set the day turns at six, mean solar time; where it does not rise, at noon.

    Source: rules.md#night.
    """
    local = now_utc.astimezone(ZoneInfo(site.zone)).date()
    days = (local + timedelta(days=1), local, local - timedelta(days=1), local - timedelta(days=2))
    day = next(one for one in days if night_bounds(site, one)[0] <= now_utc or one == days[-1])
    return day + timedelta(days=1) if now_utc >= _turns_utc(make_night(site, day)) else day


def _turns_utc(night: Night) -> datetime:
    """Return from when the next evening is meant."""
    if night.sunrise_utc is not None:
        return night.sunrise_utc
    if all(span.light == "day" for span in night.lights):
        return night.end_utc - timedelta(hours=MORNING_HOURS)
    return night.end_utc


def night_bounds(site: Site, day: date) -> tuple[datetime, datetime]:
    """Return the noons, in UTC, that enclose the night of a civil date at ``site``.

    From the earlier of twelve o'clock and mean solar noon to the later of the next day's, so that
    whatever rises after either noon belongs to the evening of its date.  Solar noon is the one
    nearest to twelve o'clock in the site's zone; where the two lie hours apart, because the zone
    does not fit the longitude, it counts alone and the night stays in one piece.

    Source: Meeus, ch. 28: mean solar time is UTC plus longitude/15 h, the equation of time
    (at most 17 minutes) left out.
    """
    covered_date(day)
    civil = datetime.combine(day, time(12), tzinfo=ZoneInfo(site.zone)).astimezone(UTC)
    solar = datetime.combine(day, time(12), tzinfo=UTC) - timedelta(hours=site.longitude_deg / 15)
    nearest = min(
        (solar + timedelta(days=shift) for shift in (-1, 0, 1)), key=lambda t: abs(t - civil)
    )
    next_civil = datetime.combine(
        day + timedelta(days=1), time(12), tzinfo=ZoneInfo(site.zone)
    ).astimezone(UTC)
    if abs(nearest - civil) > ZONE_FITS:
        return nearest, nearest + timedelta(days=1)
    return min(nearest, civil), max(nearest + timedelta(days=1), next_civil)


Pieces = list[tuple[float, float]]


@dataclass(frozen=True)
class Sampled:
    """A night's track with every body's altitude on one grid that cannot miss an event."""

    track: Track
    grid_s: Floats
    altitude_deg: Floats

    def height_deg(self, number: int, limit_deg: float | None, unix_s: Floats) -> Floats:
        """Return the altitude over a limit; None means the body's own rising and setting.

        Source: rules.md#night.
        """
        altitude, _ = self.track.altaz_deg(unix_s, number)
        return np.asarray(altitude - self._limit(number, limit_deg, unix_s))

    def _limit(self, number: int, limit_deg: float | None, unix_s: Floats) -> Floats | float:
        if limit_deg is not None:
            return limit_deg
        if BODIES[number].name == "sun":
            return SUN_HORIZON_DEG
        if BODIES[number].name != "moon":
            return -REFRACTION_AT_HORIZON_DEG
        distance = self.track.distances_au(unix_s, number)
        return -REFRACTION_AT_HORIZON_DEG - diameter_arcsec("moon", distance) / 7200

    def crossings_s(self, body: BodyName, limit_deg: float | None = None) -> Floats:
        """Return the Unix seconds at which a body passes the limit, by halving, all at once.

        Source: rules.md#night.
        """
        number = INDEX[body]
        over = self.altitude_deg[number] - self._limit(number, limit_deg, self.grid_s) > 0
        before = np.flatnonzero(np.diff(over))
        low, high, side = self.grid_s[before], self.grid_s[before + 1], over[before]
        while low.size and float((high - low).max()) > EVENT_S:
            middle = (low + high) / 2
            same = (self.height_deg(number, limit_deg, middle) > 0) == side
            low, high = np.where(same, middle, low), np.where(same, high, middle)
        return np.asarray(high)

    def pieces(self, body: BodyName, limit_deg: float | None = None, *, above: bool) -> Pieces:
        """Return the stretches in Unix seconds in which a body is above (or below) a limit.

        Source: rules.md#night.
        """
        edges = [self.track.start_s, *self.crossings_s(body, limit_deg), self.track.end_s]
        middles = np.array([(a + b) / 2 for a, b in pairwise(edges)])
        wanted = (self.height_deg(INDEX[body], limit_deg, middles) > 0) == above
        return [(edges[i], edges[i + 1]) for i in np.flatnonzero(wanted)]


@lru_cache(maxsize=32)
def night_track(site: Site, day: date) -> Track:
    """Return the tracks of all bodies over the night of ``day``; kept for the next asker.

    Source: rules.md#night.
    """
    return make_track(site, *night_bounds(site, day))


@lru_cache(maxsize=32)
def make_night(site: Site, day: date) -> Night:
    """Return the whole night of ``day`` at ``site``; kept for the next asker.

    Raises ``OutOfRange`` for dates outside the ephemeris.

    Source: horizons -0.833° for the Sun, 34' of refraction for the rest (Meeus ch. 15), the
    Moon by its upper limb; twilights -6, -12, -18°.  The level horizon of the sea is meant.
    """
    track = night_track(site, day)
    grid = np.arange(track.start_s, track.end_s + STEP_S / 2, STEP_S)
    sampled = Sampled(track, grid, track.altaz_deg(grid)[0])
    sun = sampled.altitude_deg[INDEX["sun"]]
    up = {body.name: sampled.pieces(body.name, above=True) for body in BODIES}
    dark = sampled.pieces("sun", TWILIGHT_DEG["astronomical"], above=False)
    moonless = _common(dark, sampled.pieces("moon", above=False))
    lit = track.fractions_lit(grid)[INDEX["moon"]]
    at_dusk = int(np.argmax(sun < SUN_HORIZON_DEG)) or len(grid) // 2
    sunset, sunrise = _sunset_and_sunrise(up["sun"], track, float(grid[np.argmin(sun)]))
    return Night(
        date=day,
        start_utc=utc_of(track.start_s),
        end_utc=utc_of(track.end_s),
        sunset_utc=sunset,
        sunrise_utc=sunrise,
        lights=_lights(sampled),
        dark=[_span(piece, track) for piece in dark],
        moonless=[_span(piece, track) for piece in moonless],
        moon_lit_percent=float(100 * lit[at_dusk]),
        moon_waxing=bool(lit[-1] > lit[0]),
        bodies=[_body_night(sampled, body.name, up[body.name]) for body in BODIES],
        sun_words=_sun_words(sunset, sunrise, float(sun.max())),
        dark_words=_dark_words(dark, float(sun.min())),
    )


def _common(one: Pieces, other: Pieces) -> Pieces:
    pairs = [(max(a, c), min(b, d)) for a, b in one for c, d in other]
    return [(low, high) for low, high in pairs if high > low]


def _lights(sampled: Sampled) -> list[LightSpan]:
    """Return the night cut where the Sun passes its four limits, each piece named."""
    limits = (SUN_HORIZON_DEG, *TWILIGHT_DEG.values())
    cuts = {sampled.track.start_s, sampled.track.end_s}
    for limit in limits:
        cuts.update(sampled.crossings_s("sun", limit))
    edges = sorted(cuts)
    middles = np.array([(a + b) / 2 for a, b in pairwise(edges)])
    altitude = sampled.height_deg(INDEX["sun"], 0.0, middles)
    depth = np.sum([altitude < limit for limit in limits], axis=0)
    return [
        LightSpan(light=LIGHTS[int(d)], start_utc=utc_of(a), end_utc=utc_of(b))
        for d, (a, b) in zip(depth, pairwise(edges), strict=True)
    ]


def _sunset_and_sunrise(
    up: Pieces, track: Track, lowest_s: float
) -> tuple[datetime | None, datetime | None]:
    """Return the last sunset before and the first sunrise after the Sun's lowest moment."""
    sets = [b for _, b in up if b < track.end_s and b <= lowest_s]
    rises = [a for a, _ in up if a > track.start_s and a >= lowest_s]
    return (utc_of(sets[-1]) if sets else None, utc_of(rises[0]) if rises else None)


def _body_night(sampled: Sampled, body: BodyName, up: Pieces) -> BodyNight:
    altitude = sampled.altitude_deg[INDEX[body]]
    highest = int(np.argmax(altitude))
    track = sampled.track
    whole = up == [(track.start_s, track.end_s)]
    return BodyNight(
        body=body,
        label=BODIES[INDEX[body]].label,
        up=[_span(piece, track) for piece in up],
        culmination_utc=utc_of(float(sampled.grid_s[highest])),
        culmination_altitude_deg=float(altitude[highest]),
        horizon="never sets" if whole else "rises and sets" if up else "does not rise",
    )


def _span(piece: tuple[float, float], track: Track) -> Span:
    low, high = piece
    return Span(
        start_utc=utc_of(low),
        end_utc=utc_of(high),
        starts=low > track.start_s,
        ends=high < track.end_s,
    )


def _sun_words(sunset: datetime | None, sunrise: datetime | None, highest_deg: float) -> str:
    if sunset is not None or sunrise is not None:
        return "The Sun sets and rises."
    if highest_deg > SUN_HORIZON_DEG:
        return "The Sun does not set."
    return "The Sun does not rise."


def _dark_words(dark: Pieces, lowest_deg: float) -> str:
    if dark:
        return "dark"
    return f"no dark tonight: the Sun only goes down to {lowest_deg:.1f}°"
