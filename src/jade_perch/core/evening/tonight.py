"""What of Moon and planets is up tonight, when, and through which glass."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from jade_perch.core.constants import AU_KM, SUN_HORIZON_DEG, SUN_KEEP_AWAY_DEG, TWILIGHT_DEG
from jade_perch.core.evening.choose import FIELD_ROOM, Climb, Glass, choose_glass
from jade_perch.core.evening.reasons import When
from jade_perch.core.fields import Frozen
from jade_perch.core.moments import Now, utc_of
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.optics.limits import School
from jade_perch.core.safety import SunWatch, refused_for_sun, sun_at
from jade_perch.core.site import Site
from jade_perch.core.sky.ephemeris import (
    BODIES,
    INDEX,
    Body,
    BodyName,
    Track,
    diameter_arcsec,
    refracted_deg,
    separation_deg,
)
from jade_perch.core.sky.night import BodyNight, Night, night_track, require_inside
from jade_perch.core.sky.sunpath import watch_sun
from jade_perch.core.sky.targets import Target
from jade_perch.core.skyline import skyline_deg
from jade_perch.core.sums import Sum

LOW_DEG = 10.0  # below it thick air ruins every disc
STEP_S = 300.0  # how finely a night is searched for usable minutes
ANY_LIGHT_DEG = 90.0  # the Moon may be looked at by day
BRIGHT: tuple[BodyName, ...] = ("venus", "jupiter")  # found before the end of civil twilight
COMPASS = (
    "N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE",
    "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW",
)  # fmt: skip


class Sight(Frozen):
    """One target tonight; directions hold for ``Tonight.at_utc``, altitudes are refracted."""

    target: Target
    is_showpiece: bool
    when: When
    why: str
    altitude_deg: float
    azimuth_deg: float
    direction: str
    from_sun_deg: float
    refused: bool
    best_from_utc: datetime | None
    best_until_utc: datetime | None
    night: BodyNight
    diameter_arcsec: float
    lit_percent: float
    glass: Glass | None
    place_sum: Sum
    size_sum: Sum
    glass_sum: Sum | None
    detail_sum: Sum | None


class Tonight(Frozen):
    """Moon and planets of an evening, with the moment its directions hold for.

    ``sun`` is the Sun at that moment, ``sun_now`` the one outside, whatever is being planned.
    """

    night: Night
    at_utc: datetime
    at_is_now: bool
    sun: SunWatch
    sun_now: SunWatch
    sights: list[Sight]


@dataclass(frozen=True)
class _Moment:
    """All nine bodies at the reference moment, and over the rest of the night."""

    at_s: float
    sun: SunWatch
    altitude_deg: NDArray[np.float64]
    azimuth_deg: NDArray[np.float64]
    distance_au: NDArray[np.float64]
    lit: NDArray[np.float64]
    from_sun_deg: NDArray[np.float64]
    ahead_s: NDArray[np.float64]
    usable: NDArray[np.bool_]
    highest_in_dark_deg: NDArray[np.float64]


def make_tonight(
    targets: Sequence[Target],
    site: Site,
    night: Night,
    now: Now,
    ladder: Ladder | None,
    school: School,
    wish_utc: datetime | None = None,
) -> Tonight:
    """Return those targets that are Moon or planets, with times, places and recommended glass.

    Directions are given for ``wish_utc``, else for ``now`` while it lies inside the night,
    otherwise for sunset (or the middle of the night where there is none).  Raises ``OutOfRange``
    for a wish outside the night.

    Source: rules.md#tonight.
    """
    inside = night.start_utc <= now.moment_utc <= night.end_utc
    middle = night.start_utc + (night.end_utc - night.start_utc) / 2
    if wish_utc is not None:
        require_inside(night, wish_utc)
    at_utc = wish_utc or (now.moment_utc if inside else (night.sunset_utc or middle))
    moment = _moment(night_track(site, night.date), site, Now(at_utc, now.clock))
    sights = [_sight(one, night, moment, ladder, school) for one in targets if one.body is not None]
    order = {"now": 0, "later": 1, "not tonight": 2}
    sights.sort(key=lambda one: (order[one.when], one.best_from_utc or night.end_utc))
    return Tonight(
        night=night,
        at_utc=at_utc,
        at_is_now=inside and wish_utc is None,
        sun=moment.sun,
        sun_now=sun_at(site, now),
        sights=sights,
    )


def direction(azimuth_deg: float) -> str:
    """Return the sixteen-point compass name of an azimuth in degrees from true north.

    Source: rules.md#tonight.
    """
    return COMPASS[round(azimuth_deg / 22.5) % 16]


def _moment(track: Track, site: Site, at: Now) -> _Moment:
    at_s = at.moment_utc.timestamp()
    now = np.array([at_s])
    ahead_s = np.arange(at_s, track.end_s, STEP_S)
    altitude, azimuth = (angles[:, 0] for angles in track.altaz_deg(now))
    ahead_deg, around_deg = track.altaz_deg(ahead_s)
    sun_deg = ahead_deg[INDEX["sun"]]
    near_sun = (_from_sun_deg(track, ahead_s) < SUN_KEEP_AWAY_DEG) & _sun_counts(site, at, ahead_s)
    limits = np.array([_sun_limit_deg(body.name) for body in BODIES])
    dim_enough = sun_deg[np.newaxis] < limits[:, np.newaxis]
    return _Moment(
        at_s=at_s,
        sun=sun_at(site, at),
        altitude_deg=altitude,
        azimuth_deg=azimuth,
        distance_au=track.distances_au(now)[:, 0],
        lit=track.fractions_lit(now)[:, 0],
        from_sun_deg=_from_sun_deg(track, now)[:, 0],
        ahead_s=ahead_s,
        usable=(ahead_deg >= np.maximum(LOW_DEG, skyline_deg(site.skyline, around_deg)))
        & dim_enough
        & ~near_sun,
        highest_in_dark_deg=np.where(dim_enough, ahead_deg, -90.0).max(axis=1, initial=-90.0),
    )


def _sun_counts(site: Site, at: Now, ahead_s: NDArray[np.float64]) -> NDArray[np.bool_]:
    """Return at each moment whether the Sun counts as up."""
    span = timedelta(seconds=float(ahead_s[-1] - ahead_s[0]) if ahead_s.size else 0.0)
    watched = watch_sun(site, at.moment_utc, span)
    near = np.searchsorted(watched.moments_s, ahead_s - 1e-3)
    return np.asarray(watched.counts_as_up[np.minimum(near, watched.counts_as_up.size - 1)])


def _sun_limit_deg(body: BodyName) -> float:
    """Return how high the Sun may stand while one looks for a body."""
    if body == "moon":
        return ANY_LIGHT_DEG
    return SUN_HORIZON_DEG if body in BRIGHT else TWILIGHT_DEG["civil"]


def _from_sun_deg(track: Track, unix_s: NDArray[np.float64]) -> NDArray[np.float64]:
    places = track.directions(unix_s)
    sun = places[INDEX["sun"]]
    return np.array([separation_deg(place, sun) for place in places])


def _sight(
    target: Target, night: Night, moment: _Moment, ladder: Ladder | None, school: School
) -> Sight:
    number = INDEX[target.body or "moon"]
    body = BODIES[number]
    size = float(diameter_arcsec(body.name, moment.distance_au[number]))
    best = _first_run(moment.ahead_s, moment.usable[number])
    glass = choose_glass(ladder, target.traits, size, school) if ladder else None
    altitude_deg = float(refracted_deg(moment.altitude_deg[number]))
    azimuth_deg = float(moment.azimuth_deg[number])
    away_deg = float(moment.from_sun_deg[number])
    when: When = "not tonight" if best is None else "now" if best[0] == moment.at_s else "later"
    return Sight(
        target=target,
        is_showpiece=body.is_showpiece,
        when=when,
        why=_why_not(night.bodies[number], moment, number) if best is None else "",
        altitude_deg=altitude_deg,
        azimuth_deg=azimuth_deg,
        direction=direction(azimuth_deg),
        from_sun_deg=away_deg,
        refused=refused_for_sun(moment.sun.is_up, away_deg),
        best_from_utc=None if best is None else utc_of(best[0]),
        best_until_utc=None if best is None else utc_of(best[1]),
        night=night.bodies[number],
        diameter_arcsec=size,
        lit_percent=float(100 * moment.lit[number]),
        glass=glass,
        place_sum=_place_sum(float(moment.altitude_deg[number]), altitude_deg, azimuth_deg),
        size_sum=_size_sum(body, float(moment.distance_au[number]), size),
        glass_sum=None if glass is None else _climb_sum(glass.top, target.label, size),
        detail_sum=_climb_sum(glass.detail, target.label, size) if glass and glass.detail else None,
    )


def _first_run(
    unix_s: NDArray[np.float64], usable: NDArray[np.bool_]
) -> tuple[float, float] | None:
    """Return the first unbroken stretch of usable moments, or None."""
    good = np.flatnonzero(usable)
    if not good.size:
        return None
    ends = np.flatnonzero(~usable[good[0] :])
    last = good[0] + (ends[0] - 1 if ends.size else len(usable) - good[0] - 1)
    return float(unix_s[good[0]]), float(unix_s[last])


def _why_not(body: BodyNight, moment: _Moment, number: int) -> str:
    """Return in words why a body is not worth a look in what is left of the night."""
    if body.horizon == "does not rise":
        return "It does not rise at this place tonight."
    highest_deg = float(moment.highest_in_dark_deg[number])
    away_deg = float(moment.from_sun_deg[number])
    if away_deg < SUN_KEEP_AWAY_DEG:
        return f"Only {away_deg:.0f}° from the Sun: leave it alone."
    if highest_deg <= 0:
        return "It is up only while the Sun is, or has set already."
    if highest_deg >= LOW_DEG:
        return "It stays behind your skyline while the sky is dark enough."
    return f"It gets no higher than {highest_deg:.0f}° in a dark enough sky."


def _place_sum(true_deg: float, seen_deg: float, azimuth_deg: float) -> Sum:
    lift_arcmin = (seen_deg - true_deg) * 60
    return Sum(
        title="Altitude and direction",
        formula="altitude from hour angle and declination + refraction",
        worked=f"{true_deg:.2f}° + {lift_arcmin:.1f}′ of refraction; azimuth {azimuth_deg:.1f}°",
        result=f"{seen_deg:.1f}° up, {direction(azimuth_deg)}",
        source="JPL DE421; Meeus ch. 13; refraction after Bennett 1982",
        rule="positions",
        sureness="exact",
        note="Azimuth is counted from true north through east. Hills and roofs are not counted.",
    )


def _size_sum(body: Body, distance_au: float, size_arcsec: float) -> Sum:
    distance_km = distance_au * AU_KM
    return Sum(
        title="Apparent diameter",
        formula="2 · asin( radius ÷ distance )",
        worked=f"2 · asin( {body.radius_km:,.0f} km ÷ {distance_km:,.0f} km )",
        result=f"{size_arcsec:.1f}″ = {size_arcsec / 60:.2f}′",
        source="JPL DE421; equatorial radii IAU 2015",
        rule="planets",
        sureness="exact",
    )


def _climb_sum(climb: Climb, label: str, size_arcsec: float) -> Sum:
    part = "in detail" if climb.is_detail else "whole"
    field_arcsec = size_arcsec / climb.fraction_of_field
    return Sum(
        title=f"How far to climb: {label}",
        formula=f"strongest rung under every limit; whole: field ≥ {FIELD_ROOM:g} × object",
        worked=f"{climb.label} = {climb.magnification:.1f}×, {part}: {size_arcsec:.1f}″ × "
        f"{climb.magnification:.1f} = {climb.apparent_arcmin:.1f}′ at the eye; "
        f"{size_arcsec:.1f}″ ÷ {field_arcsec:.0f}″",
        result=f"{climb.fraction_of_field:.1%} of the field",
        source="Sidgwick on useful magnification",
        rule="choose",
        sureness="about",
        note=climb.reason + " The blur of tonight's air is an estimate from its steadiness.",
    )
