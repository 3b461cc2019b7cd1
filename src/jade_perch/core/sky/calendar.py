"""Dark hours without the Moon, night by night: which evenings of the coming weeks are best."""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from functools import lru_cache
from itertools import groupby, pairwise
from typing import Annotated, NamedTuple

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.constants import REFRACTION_AT_HORIZON_DEG, TWILIGHT_DEG
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.moments import utc_of
from jade_perch.core.site import Site
from jade_perch.core.sky.cover import covered_date, is_covered
from jade_perch.core.sky.ephemeris import sun_and_moon
from jade_perch.core.sky.night import night_bounds

NIGHTS = 60  # two moons and a bit
STEP_S = 900.0  # between looks; straight lines between them err by less than ten seconds
COARSE_S = 1800.0  # for what is drawn small; straight lines err by less than two minutes
BEST_SHARE = 0.9  # of the longest moonless dark, from which a night is among the best; our choice
WORTH_HOURS = 1.0  # less dark is not worth naming; our choice
MOON_RADIUS_DEG = 0.26  # mean apparent radius

NightsAhead = Annotated[int, Range(1, 120, "nights", "Ask for fewer nights at once.")]


class DarkSpan(Frozen):
    """A stretch of darkness, with the Moon up or without it."""

    start_utc: datetime
    end_utc: datetime
    is_moonless: bool


class CalendarNight(Frozen):
    """One evening's darkness: all of it, the part without Moon, and how much of the Moon is lit."""

    date: date
    spans: list[DarkSpan]
    dark_hours: float
    moonless_hours: float
    moon_lit_percent: float
    is_best: bool


class Calendar(Frozen):
    """Nights from a date on; ``best_words`` names the best ones, or says why there are none."""

    nights: list[CalendarNight]
    best_words: str


@lru_cache(maxsize=16)
def dark_calendar(site: Site, first: date, nights: int = NIGHTS) -> Calendar:
    """Return the darkness of so many nights; kept for the next asker.

    Raises ``OutOfRange`` for nights the ephemeris does not reach.

    Source: JPL DE421; Sun under -18°, Moon's upper limb under a level horizon.
    """
    days = tuple(first + timedelta(days=n) for n in range(nights))
    covered_date(days[0])
    covered_date(days[-1])
    found = []
    for day, one in zip(days, _courses(site, days, STEP_S), strict=True):
        cuts = [*_crossings(one.unix_s, one.dusk_deg), *_crossings(one.unix_s, one.moon_deg)]
        edges = [float(one.unix_s[0]), *sorted(cuts), float(one.unix_s[-1])]
        middles = (np.array(edges[:-1]) + np.array(edges[1:])) / 2
        is_dark = np.interp(middles, one.unix_s, one.dusk_deg) < 0
        is_moonless = np.interp(middles, one.unix_s, one.moon_deg) < 0
        spans = [
            DarkSpan(start_utc=utc_of(a), end_utc=utc_of(b), is_moonless=bool(none))
            for a, b, dark, none in zip(edges[:-1], edges[1:], is_dark, is_moonless, strict=True)
            if dark and b - a >= 1
        ]
        found.append(_night(day, spans, one.moon_lit_percent))
    return _named(found)


class Stretch(Frozen):
    """A stretch of time."""

    start_utc: datetime
    end_utc: datetime


class NightShape(Frozen):
    """A past or coming night as it is drawn small: when it is dark, and when the Moon is up."""

    start_utc: datetime
    end_utc: datetime
    dark: list[Stretch]
    moon_up: list[Stretch]
    moon_lit_percent: float


@lru_cache(maxsize=64)
def night_shapes(site: Site, days: tuple[date, ...]) -> dict[date, NightShape]:
    """Return the shapes of some nights at one place, to a few minutes; kept for the next asker.

    Nights the ephemeris does not reach are left out.

    Source: JPL DE421; Sun under -18°, Moon's upper limb over a level horizon.
    """
    within = [day for day in dict.fromkeys(days) if is_covered(day)]
    courses = _courses(site, within, COARSE_S)
    return {day: _shape(one) for day, one in zip(within, courses, strict=True)}


class _Course(NamedTuple):
    """One night from noon to noon, each (T,): how far the Sun is above darkness, and the Moon."""

    unix_s: Floats
    dusk_deg: Floats
    moon_deg: Floats
    moon_lit_percent: float


def _courses(site: Site, days: Sequence[date], step_s: float) -> list[_Course]:
    """Return the nights of some dates at one place, looked at so often, in one pass."""
    if not days:
        return []
    bounds = [night_bounds(site, day) for day in days]
    parts = [
        np.linspace(start, end, 1 + int(np.ceil((end - start) / step_s)))
        for start, end in ((a.timestamp(), b.timestamp()) for a, b in bounds)
    ]
    sky = sun_and_moon(site, np.concatenate(parts))
    cuts = np.cumsum([part.size for part in parts])[:-1]
    columns = (np.split(one, cuts) for one in (sky.sun_deg, sky.moon_deg, sky.lit_share))
    return [
        _Course(
            unix_s,
            sun - TWILIGHT_DEG["astronomical"],
            moon + REFRACTION_AT_HORIZON_DEG + MOON_RADIUS_DEG,
            float(100 * np.interp((unix_s[0] + unix_s[-1]) / 2, unix_s, bright)),
        )
        for unix_s, sun, moon, bright in zip(parts, *columns, strict=True)
    ]


def _shape(one: _Course) -> NightShape:
    return NightShape(
        start_utc=utc_of(float(one.unix_s[0])),
        end_utc=utc_of(float(one.unix_s[-1])),
        dark=_stretches(one.unix_s, -one.dusk_deg),
        moon_up=_stretches(one.unix_s, one.moon_deg),
        moon_lit_percent=one.moon_lit_percent,
    )


def _stretches(unix_s: Floats, height: Floats) -> list[Stretch]:
    """Return when a height is above zero."""
    edges = [unix_s[0], *_crossings(unix_s, height), unix_s[-1]]
    return [
        Stretch(start_utc=utc_of(a), end_utc=utc_of(b))
        for a, b in pairwise(edges)
        if np.interp((a + b) / 2, unix_s, height) > 0
    ]


def _crossings(unix_s: Floats, height: Floats) -> Floats:
    """Return when a height passes zero, by straight lines between looks."""
    at = np.flatnonzero(np.diff(height > 0))
    share = height[at] / (height[at] - height[at + 1])
    return np.asarray(unix_s[at] + share * (unix_s[at + 1] - unix_s[at]))


def _night(day: date, spans: list[DarkSpan], lit_percent: float) -> CalendarNight:
    hours = [(one.end_utc - one.start_utc).total_seconds() / 3600 for one in spans]
    moonless = sum(h for h, one in zip(hours, spans, strict=True) if one.is_moonless)
    return CalendarNight(
        date=day,
        spans=spans,
        dark_hours=sum(hours),
        moonless_hours=moonless,
        moon_lit_percent=lit_percent,
        is_best=False,
    )


def _named(nights: list[CalendarNight]) -> Calendar:
    most = max(one.moonless_hours for one in nights)
    if most < WORTH_HOURS:
        words = "No night among these gets an hour of dark sky without the Moon."
        return Calendar(nights=nights, best_words=words)
    marked = [
        one.model_copy(update={"is_best": one.moonless_hours >= BEST_SHARE * most})
        for one in nights
    ]
    runs = [list(run) for best, run in groupby(marked, key=lambda one: one.is_best) if best]
    words = " and ".join(_run_words(run[0].date, run[-1].date) for run in runs)
    return Calendar(
        nights=marked, best_words=f"Best {words}: up to {most:.1f} dark hours without the Moon."
    )


def _run_words(first: date, last: date) -> str:
    if first == last:
        return f"{first.day} {first:%b}"
    head = f"{first.day}" if first.month == last.month else f"{first.day} {first:%b}"
    return f"{head} to {last.day} {last:%b}"
