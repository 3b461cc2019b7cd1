"""Dark hours without the Moon, night by night: which evenings of the coming weeks are best."""

from datetime import date, datetime, timedelta
from functools import lru_cache
from itertools import groupby
from typing import Annotated

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.constants import REFRACTION_AT_HORIZON_DEG, TWILIGHT_DEG
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.moments import utc_of
from jade_perch.core.site import Site
from jade_perch.core.sky.ephemeris import covered_date, sun_and_moon_deg
from jade_perch.core.sky.night import night_bounds

NIGHTS = 60  # two moons and a bit
STEP_S = 900.0  # between looks; straight lines between them err by less than ten seconds
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
    days = [first + timedelta(days=n) for n in range(nights)]
    covered_date(days[0])
    covered_date(days[-1])
    bounds = [night_bounds(site, day) for day in days]
    start_s, end_s = bounds[0][0].timestamp(), bounds[-1][1].timestamp()
    unix_s = np.arange(start_s, end_s + STEP_S, STEP_S)
    sun_deg, moon_deg, lit = sun_and_moon_deg(site, unix_s)
    dusk = sun_deg - TWILIGHT_DEG["astronomical"]
    moon = moon_deg + REFRACTION_AT_HORIZON_DEG + MOON_RADIUS_DEG
    cuts = np.sort(np.concatenate([_crossings(unix_s, dusk), _crossings(unix_s, moon)]))
    found = []
    for day, (begin, end) in zip(days, bounds, strict=True):
        edges = [begin.timestamp(), *cuts[(cuts > begin.timestamp()) & (cuts < end.timestamp())]]
        edges.append(end.timestamp())
        middles = (np.array(edges[:-1]) + np.array(edges[1:])) / 2
        is_dark = np.interp(middles, unix_s, dusk) < 0
        is_moonless = np.interp(middles, unix_s, moon) < 0
        spans = [
            DarkSpan(start_utc=utc_of(a), end_utc=utc_of(b), is_moonless=bool(none))
            for a, b, dark, none in zip(edges[:-1], edges[1:], is_dark, is_moonless, strict=True)
            if dark and b - a >= 1
        ]
        midnight = (begin.timestamp() + end.timestamp()) / 2
        found.append(_night(day, spans, float(100 * np.interp(midnight, unix_s, lit))))
    return _named(found)


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
