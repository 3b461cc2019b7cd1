"""What of a list is left, and on which coming night each of it next stands well."""

import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import NamedTuple
from zoneinfo import ZoneInfo

import numpy as np

from jade_perch.core.arrays import Floats, Truths
from jade_perch.core.evening.judging import glasses_for, judge, usable_rungs
from jade_perch.core.evening.tonight import make_tonight
from jade_perch.core.fields import Frozen
from jade_perch.core.moments import Now, day_words, utc_of
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.optics.limits import School
from jade_perch.core.optics.viewer import Viewer
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import Catalogue, unit_vectors
from jade_perch.core.sky.cover import is_covered
from jade_perch.core.sky.ephemeris import (
    INDEX,
    directions_of_date,
    make_moment,
    sun_and_moon,
)
from jade_perch.core.sky.moon import LOW_LIGHT_DEG, lights_deg
from jade_perch.core.sky.night import make_night, night_bounds, night_track
from jade_perch.core.sky.nightsky import LOWEST_DEG, STEP_S, some_night_sky, sunless
from jade_perch.core.sky.seen import NOT_SEEN, Word, word_of
from jade_perch.core.sky.targets import Shape
from jade_perch.core.skyline import is_behind

NIGHTS_BETWEEN = 5  # of the nights that are looked at; the Moon is gone on some of each month
NIGHTS_LOOKED_AT = 74  # a year and a few days
LOOKS_A_NIGHT = 49  # every half hour from noon to noon
WELL_UP_DEG = 30.0  # from here on the air costs little; our choice
NEAR_HIGHEST_DEG = 5.0  # or so near the highest it ever stands here; our choice
MOON_NIGHTS, MOON_LOOKS = 62, 25  # two moons, every hour: low light on a feature is soon gone
MOON_UP_DEG = 20.0  # for its features; our choice
DARK_DEG, DUSK_DEG, BRIGHT_DEG = -18.0, -9.0, -3.0  # of the Sun: faint things, points, the bright
BEDTIME_HOURS = 13.0  # after noon by the place's clock: one in the morning; our choice
PLANET_NIGHTS = 6  # tried at most: an inner planet stands well for a few days only
_Axes = tuple[Floats, Floats, Floats, Floats]
FAINT: tuple[Shape, ...] = ("glow", "cluster")
DEGREES_A_DAY = 360.98564736629  # of sidereal time; Meeus ch. 12


@dataclass(frozen=True, slots=True)
class Looker:
    """Who would look, from where and through what; no ladder is the eye alone."""

    place: Site
    viewer: Viewer
    ladder: Ladder | None
    school: School


class Ahead(Frozen):
    """When one target next stands well: a night it was really judged on, or why there is none."""

    target_key: str
    date: dt.date | None = None
    at_utc: datetime | None = None
    altitude_deg: float | None = None
    word: Word | None = None
    words: str


@dataclass(frozen=True, slots=True)
class _Nights:
    """Some nights in looks: days, moments (D, T), and Sun and Moon over the horizon at each.

    ``is_early`` marks moments before people go to bed.
    """

    days: tuple[date, ...]
    unix_s: Floats
    sun_deg: Floats
    moon_deg: Floats
    is_early: Truths


def look_ahead(
    catalogue: Catalogue, rows: Sequence[int], looker: Looker, first: date
) -> list[Ahead]:
    """Return when each of some rows next stands well, from an evening on, within a year.

    Candidates are nights five apart on which it stands high while it is dark, and for what is
    faint without the Moon; before one in the morning, or where that never happens at any hour.
    The night that is named is judged as the plan judges it, through the present kit: what does
    not show on it is not named.  Features of the Moon are named for the
    moment low light falls on them.

    Source: rules.md#ahead.
    """
    features = [row for row in rows if catalogue.features[row]]
    planets = [row for row in rows if catalogue.kinds[row] == "planet"]
    fixed = [row for row in rows if np.isfinite(catalogue.directions[row, 0])]
    found: dict[int, Ahead] = {}
    found |= _features_ahead(catalogue, features, looker.place, first)
    if planets or fixed:
        nights = _nights(looker.place, first, NIGHTS_BETWEEN, NIGHTS_LOOKED_AT, LOOKS_A_NIGHT)
        axes = _axes(looker.place, nights.unix_s)
        found |= _planets_ahead(catalogue, planets, looker, nights, axes)
        found |= _fixed_ahead(catalogue, fixed, looker, nights, axes)
    return [found.get(row) or _moving(catalogue, row) for row in rows]


def _moving(catalogue: Catalogue, row: int) -> Ahead:
    return Ahead(target_key=catalogue.keys[row], words="The Moon itself is up most evenings.")


def _nights(site: Site, first: date, between: int, count: int, looks: int) -> _Nights:
    days = [first + timedelta(days=between * n) for n in range(count)]
    days = [day for day in days if is_covered(day)]
    bounds = [night_bounds(site, day) for day in days]
    unix_s = np.array([np.linspace(a.timestamp(), b.timestamp(), looks) for a, b in bounds])
    sky = sun_and_moon(site, unix_s.ravel())
    sun_deg, moon_deg = (one.reshape(unix_s.shape) for one in (sky.sun_deg, sky.moon_deg))
    bedtimes = np.array([_bedtime_s(site, day) for day in days])
    is_early = unix_s <= bedtimes[:, np.newaxis]
    return _Nights(tuple(days), unix_s, sun_deg, moon_deg, is_early)


def _bedtime_s(site: Site, day: date) -> float:
    noon = datetime.combine(day, time(12), tzinfo=ZoneInfo(site.zone))
    return noon.timestamp() + BEDTIME_HOURS * 3600


def _axes(site: Site, unix_s: Floats) -> _Axes:
    """Return up, east and north in the equator of date, (3, D, T), and the turn from ICRS to it.

    Precession within the year moves nothing by more than an arcminute.
    """
    flat = unix_s.ravel()
    moment = make_moment(utc_of(float(flat[0])))
    turned = moment.sidereal_deg + DEGREES_A_DAY * (flat - flat[0]) / 86400
    local = turned + site.longitude_deg
    up = unit_vectors(local, np.full(local.shape, site.latitude_deg)).T
    east = unit_vectors(local + 90, np.zeros(local.shape)).T
    north = np.cross(up, east, axis=0)
    shaped = (one.reshape(3, *unix_s.shape) for one in (up, east, north))
    return (*shaped, moment.to_date)  # type: ignore[return-value]


def _heights(places: Floats, axes: _Axes, site: Site) -> Floats:
    """Return altitudes in degrees (D, T), -90 behind the skyline; places are (3,) or (3, D)."""
    spread = places.reshape(3, -1, 1)
    sines, east, north = ((spread * axis).sum(axis=0) for axis in axes[:3])
    altitude = np.degrees(np.arcsin(np.clip(sines, -1, 1)))
    azimuth = np.degrees(np.arctan2(east, north)) % 360
    return np.where(is_behind(site.skyline, altitude, azimuth), -90.0, altitude)


def _standing_well(altitude_deg: Floats, is_time: Truths) -> Truths:
    """Return on which nights (D,) something stands as well as it ever does here while it may."""
    highest = float(altitude_deg.max())
    wanted = max(LOWEST_DEG, min(WELL_UP_DEG, highest - NEAR_HIGHEST_DEG))
    return np.asarray((is_time & (altitude_deg >= wanted)).any(axis=1))


def _fixed_ahead(
    catalogue: Catalogue, rows: Sequence[int], looker: Looker, nights: _Nights, axes: _Axes
) -> dict[int, Ahead]:
    if not rows:
        return {}
    is_faint = catalogue.has_shape(*FAINT)
    moonless_dark = (nights.sun_deg <= DARK_DEG) & (nights.moon_deg <= 0)
    dusk = nights.sun_deg <= DUSK_DEG
    candidates: dict[int, list[_Try]] = {}
    found: dict[int, Ahead] = {}
    for row in rows:
        altitude = _heights(axes[3] @ catalogue.directions[row], axes, looker.place)
        if altitude.max() < LOWEST_DEG:
            words = "It never stands high enough over this place's skyline."
            found[row] = Ahead(target_key=catalogue.keys[row], words=words)
            continue
        is_time = moonless_dark if is_faint[row] else dusk
        candidates[row] = [
            *_tries(altitude, is_time & nights.is_early, is_early=True),
            *_tries(altitude, is_time, is_early=False),
        ]
    return found | _judged(catalogue, candidates, looker, nights.days)


class _Try(NamedTuple):
    """A night to judge by its number, and whether only its hours before bed count."""

    night: int
    is_early: bool


def _tries(altitude_deg: Floats, is_time: Truths, *, is_early: bool) -> list[_Try]:
    """Return the first night on which something stands well, and the one it stands highest on."""
    well = np.flatnonzero(_standing_well(altitude_deg, is_time)).tolist()
    if not well:
        return []
    best = int(np.where(is_time, altitude_deg, -90.0).max(axis=1).argmax())
    return [_Try(night, is_early) for night in dict.fromkeys((well[0], best))]


def _judged(
    catalogue: Catalogue,
    candidates: Mapping[int, Sequence[_Try]],
    looker: Looker,
    days: Sequence[date],
) -> dict[int, Ahead]:
    """Return for each row the first of its tries on which it really shows, night by night."""
    found: dict[int, Ahead] = {}
    for place in range(max(map(len, candidates.values()), default=0)):
        together: dict[_Try, list[int]] = {}
        for row, tries in candidates.items():
            if row not in found and len(tries) > place:
                together.setdefault(tries[place], []).append(row)
        for one, rows in together.items():
            found |= _seen_on(catalogue, rows, looker, days[one.night], is_early=one.is_early)
    for row, tries in candidates.items():
        if row not in found:
            words = (
                "It stands well, but does not show through this kit from here."
                if tries
                else "Within a year it never stands well here while it is dark."
            )
            found[row] = Ahead(target_key=catalogue.keys[row], words=words)
    return found


def _seen_on(
    catalogue: Catalogue, rows: Sequence[int], looker: Looker, day: date, *, is_early: bool
) -> dict[int, Ahead]:
    """Return those of some rows that show on a night, as the plan judges it."""
    some, track = catalogue.only(rows), night_track(looker.place, day)
    unix_s = sunless(looker.place, track)
    if is_early:
        unix_s = unix_s[unix_s <= _bedtime_s(looker.place, day)]
    if not unix_s.size:
        return {}
    sky = some_night_sky(some, looker.place, track, unix_s)
    glasses = glasses_for(usable_rungs(looker.ladder), looker.viewer)
    judged = judge(some, sky, np.arange(len(rows)), glasses, looker.viewer.field_factor)
    found = {}
    for number, entry, margin in zip(judged.rows, judged.entry, judged.margin, strict=True):
        word = word_of(float(margin))
        if word != NOT_SEEN:
            at_utc = sky.moment_utc(int(sky.step[entry]))
            high = float(sky.altitude_deg[entry])
            key = some.keys[int(number)]
            found[rows[int(number)]] = _named(looker.place, key, day, at_utc, high, word)
    return found


def _planets_ahead(
    catalogue: Catalogue, rows: Sequence[int], looker: Looker, nights: _Nights, axes: _Axes
) -> dict[int, Ahead]:
    if not rows:
        return {}
    middles = nights.unix_s.mean(axis=1)
    places = directions_of_date(looker.place, middles)[0]
    is_time = (nights.sun_deg <= BRIGHT_DEG) & nights.is_early
    found = {}
    for row in rows:
        body = catalogue.bodies[row]
        altitude = _heights(places[INDEX[body or "moon"]], axes, looker.place)
        ever = np.where(is_time, altitude, -90.0)
        well = np.flatnonzero(_standing_well(ever, is_time)).tolist()
        candidates = [nights.days[n] for n in well[:PLANET_NIGHTS]]
        found[row] = _planet_on(catalogue, row, looker, candidates)
    return found


def _planet_on(catalogue: Catalogue, row: int, looker: Looker, days: Sequence[date]) -> Ahead:
    """Return the first of some nights on which a planet is worth a look, as the plan says.

    Named is when it then stands highest before bed.
    """
    target = catalogue.target(row)
    for day in days:
        night = make_night(looker.place, day)
        at = (looker.place, night, Now(night.start_utc), looker.ladder, looker.school)
        (sight,) = make_tonight([target], *at).sights
        last = min(
            _bedtime_s(looker.place, day),
            (sight.best_until_utc or night.start_utc).timestamp(),
        )
        if sight.best_from_utc is None or sight.best_from_utc.timestamp() > last:
            continue
        unix_s = np.arange(sight.best_from_utc.timestamp(), last + 1, STEP_S)
        number = INDEX[target.body or "moon"]
        high = night_track(looker.place, day).altaz_deg(unix_s, number)[0]
        best = int(high.argmax())
        when = utc_of(float(unix_s[best]))
        return _named(looker.place, target.key, day, when, float(high[best]), None)
    words = "Within a year it does not stand well here before one in the morning."
    return Ahead(target_key=target.key, words=words)


def _features_ahead(
    catalogue: Catalogue, rows: Sequence[int], site: Site, first: date
) -> dict[int, Ahead]:
    """Return when low light next falls on features while the Moon stands high in the dark."""
    if not rows:
        return {}
    nights = _nights(site, first, 1, MOON_NIGHTS, MOON_LOOKS)
    is_time = (nights.sun_deg <= BRIGHT_DEG) & (nights.moon_deg >= MOON_UP_DEG)
    night, look = np.nonzero(is_time)
    unix_s = nights.unix_s[night, look]
    found = {}
    columns = catalogue.numbers
    latitude_deg = columns["moon_latitude_deg"][list(rows)]
    longitude_deg = columns["moon_longitude_deg"][list(rows)]
    light = np.empty((len(rows), 0))
    if unix_s.size:
        light = lights_deg(latitude_deg, longitude_deg, unix_s, sun_and_moon(site, unix_s))
    for n, row in enumerate(rows):
        key = catalogue.keys[row]
        lit = np.flatnonzero((light[n] >= 0) & (light[n] <= LOW_LIGHT_DEG))
        if not lit.size:
            words = "Within two months no low light falls on it while the Moon stands high."
            found[row] = Ahead(target_key=key, words=words)
            continue
        at = int(lit[0])
        day, high = nights.days[int(night[at])], float(nights.moon_deg[night[at], look[at]])
        found[row] = _named(site, key, day, utc_of(float(unix_s[at])), high, None)
    return found


def _named(
    site: Site, key: str, day: date, at_utc: datetime, altitude_deg: float, word: Word | None
) -> Ahead:
    clock = f"{at_utc.astimezone(ZoneInfo(site.zone)):%H:%M}"
    said = f": {word}" if word else ""
    is_after = at_utc.astimezone(ZoneInfo(site.zone)).date() > day
    night = "in the night of " if is_after else ""
    return Ahead(
        target_key=key,
        date=day,
        at_utc=at_utc,
        altitude_deg=altitude_deg,
        word=word,
        words=f"{night}{day_words(day)}, {clock}, {altitude_deg:.0f}° up{said}.",
    )
