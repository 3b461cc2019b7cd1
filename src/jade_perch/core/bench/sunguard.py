"""The Sun guard: whatever is aimed at by day goes through ``guard``, as often as anybody asks."""

from datetime import datetime, timedelta

import numpy as np

from jade_perch.core.arrays import Floats, Truths
from jade_perch.core.bench.advice import Advice
from jade_perch.core.bench.landmark import POINTED_DOUBT_DEG, Aim, AimAt, heights_of
from jade_perch.core.bench.magnetic import COMPASS_CARE, COMPASS_DOUBT_DEG, true_bearing_deg
from jade_perch.core.constants import SUN_KEEP_AWAY_DEG
from jade_perch.core.errors import FieldProblem, JobError, OutOfRange
from jade_perch.core.moments import Now, clock_time, utc_of
from jade_perch.core.safety import judged_words, not_outside
from jade_perch.core.site import Site
from jade_perch.core.sky.ephemeris import INDEX
from jade_perch.core.sky.sunpath import A_DAY, SUN_MARGIN, Watched, sun_track, watch_sun
from jade_perch.core.sums import Sum

ELSEWHERE = "Choose a landmark in a safe direction, or wait until the Sun is down."
SLACK_DEG = 0.5  # for the half disc of the Sun, so that its rim stays as far away
SPARE_DEG = 0.5  # what is allowed from a minute on stays so throughout it: the Sun moves 0.25°
MINUTE = timedelta(minutes=1)


class LandmarkCheck(Advice):
    """Whether something may be aimed at during the whole job, and if not, from when.

    ``true_bearing_deg`` is the landmark's, by whatever it was read; None for others.
    ``holds_until_utc`` is the end of the job that was looked at.
    """

    refused: bool
    true_bearing_deg: float | None = None
    nearest_deg: float | None
    allowed_from_utc: datetime | None
    holds_until_utc: datetime

    @property
    def words(self) -> str:
        """Everything it says, in one go.  Source: rules.md#sun."""
        return f"{self.instruction} {self.detail}".strip()


class SunRefusal(JobError):
    """Aiming is refused because of the Sun; nothing but time or another target changes that."""

    def __init__(self, check: LandmarkCheck, field: str, zone: str) -> None:
        super().__init__(check.words)
        self.check, self.field, self.zone = check, field, zone

    def problem(self) -> FieldProblem:
        """Return the refusal as the data a page shows beside the field.

        Source: rules.md#sun.
        """
        nearest = "the Sun is up"
        if self.check.nearest_deg is not None:
            nearest = f"{self.check.nearest_deg:.0f}° from the Sun"
        until = self.check.allowed_from_utc
        wait = "not within a day" if until is None else f"from {clock_time(until, self.zone)}"
        return FieldProblem(
            field=self.field,
            value=nearest,
            allowed=f"{SUN_KEEP_AWAY_DEG:g}° or more while the Sun is up",
            cure=f"Choose another target, or wait until it is allowed ({wait}).",
            detail=str(self),
        )


FIELD_OF: dict[AimAt, str] = {
    "landmark": "landmark.bearing_deg",
    "moon": "on",
    "stars": "on",
    "capped": "caps_on",
    "open": "caps_on",
    "sun": "session",
}


def guard(aim: Aim, site: Site, now: Now, *, session_is_open: bool = False) -> LandmarkCheck:
    """Return whether an aim is allowed now and for its whole job: the one judgement of the house.

    Raises ``OutOfRange`` for an aim that cannot be judged: a landmark without a bearing, a
    compass that cannot be trusted, a Moon under the horizon.

    Source: rules.md#sun.
    """
    if aim.at == "landmark":
        return _check_direction(aim, site, now)
    if aim.at == "moon":
        return _check_direction(_moon(aim, site, now), site, now)
    if aim.at == "stars":
        words = "Refused: the Sun is up, and no star is there to aim at."
        return _check_down(aim, site, now, words, "Take a landmark in a safe direction, or wait.")
    if aim.at == "open":
        words = "Refused: the Sun is up; first put the caps on tube and finder."
        return _check_down(aim, site, now, words, "Then say so.")
    if aim.at == "sun" and not session_is_open:
        words = "Refused: no solar session is open for this telescope."
        return _check_down(aim, site, now, words, "Go through its checks first.")
    return _caps_on(aim, site, now)


def require_safe(check: LandmarkCheck, aim: Aim, zone: str) -> LandmarkCheck:
    """Return a check that allows aiming; raises ``SunRefusal`` for one that does not.

    Source: rules.md#sun.
    """
    if check.refused:
        raise SunRefusal(check, FIELD_OF[aim.at], zone)
    return check


def _moon(aim: Aim, site: Site, now: Now) -> Aim:
    """Return the Moon as something to aim at, where it stands now; it has to be up for the job."""
    at_s = now.moment_utc.timestamp() + 60 * np.array([0.0, aim.job_minutes])
    altitude, azimuth = sun_track(site, now.moment_utc).altaz_deg(at_s, INDEX["moon"])
    if altitude.min() <= 0:
        standing = f"the Moon, {altitude.min():.0f}° up during the job"
        cure = "Take a landmark by day, a star by night, or wait until it has risen."
        raise OutOfRange("on", standing, "a Moon over the horizon for the whole job", cure)
    place = {"bearing_deg": float(azimuth[0]) % 360, "altitude_deg": float(altitude[0])}
    return aim.model_copy(update=place)


def _check_direction(aim: Aim, site: Site, now: Now) -> LandmarkCheck:
    """Judge one direction over the whole job; a compass bearing is made true first."""
    if aim.bearing_deg is None:
        return _check_somewhere(aim, site, now)
    bearing_deg, slack_deg = _true(aim.bearing_deg, aim, site, now.moment_utc)
    care = COMPASS_CARE if aim.bearing_by == "compass" else ""
    heights = heights_of(aim)
    job = aim.job_minutes * MINUTE
    watched = watch_sun(site, now.moment_utc, job)
    apart = apart_deg(bearing_deg, heights, watched)
    while_up = np.where(watched.counts_as_up, apart, np.inf)
    nearest = int(np.argmin(while_up))
    nearest_deg = float(while_up[nearest])
    least_deg = SUN_KEEP_AWAY_DEG + slack_deg
    is_refused = nearest_deg < least_deg
    allowed = None
    if is_refused:
        allowed = _allowed_from(site, now.moment_utc, job, bearing_deg, heights, least_deg)
    instruction, detail = _words(is_refused, nearest_deg, watched.counts_as_up, site, now)
    sun_deg = float(watched.azimuth_deg[nearest]), float(watched.seen_deg[nearest])
    return LandmarkCheck(
        instruction=instruction,
        detail=f"{detail} {care}".strip(),
        is_done=not is_refused,
        sums=[_direction_sum(aim, bearing_deg, slack_deg, nearest_deg, sun_deg)],
        refused=is_refused,
        true_bearing_deg=bearing_deg,
        nearest_deg=nearest_deg if watched.counts_as_up.any() else None,
        allowed_from_utc=allowed,
        holds_until_utc=now.moment_utc + job,
    )


def _check_somewhere(aim: Aim, site: Site, now: Now) -> LandmarkCheck:
    """Judge a landmark nobody said the direction of: allowed only while the Sun is down.

    Raises ``OutOfRange`` while the Sun counts as up at any time of the job.
    """
    if watch_sun(site, now.moment_utc, aim.job_minutes * MINUTE).counts_as_up.any():
        cure = "Point at it on the ring: left of the Sun, right of it, or behind you."
        raise OutOfRange("bearing_deg", None, "a direction while the Sun is up", cure)
    return _caps_on(aim, site, now)


def _true(bearing_deg: float, aim: Aim, site: Site, at_utc: datetime) -> tuple[float, float]:
    """Return a bearing from true north, and what is added to the least distance for its doubt."""
    if aim.bearing_by == "map":
        return bearing_deg, SLACK_DEG
    if aim.bearing_by == "sun":
        return bearing_deg, SLACK_DEG + POINTED_DOUBT_DEG
    return true_bearing_deg(site, at_utc, bearing_deg), SLACK_DEG + COMPASS_DOUBT_DEG


def apart_deg(
    bearing_deg: float | Floats, heights_deg: tuple[float, ...], watched: Watched
) -> Floats:
    """Return the angle in degrees to the Sun every minute, from the nearest of some heights.

    A column of bearings gives a row each.  Source: haversine formula.
    """
    apart = [
        separation_from_deg(bearing_deg, height, watched.azimuth_deg, watched.seen_deg)
        for height in heights_deg
    ]
    return np.asarray(np.min(apart, axis=0))


def _allowed_from(
    site: Site,
    from_utc: datetime,
    job: timedelta,
    bearing_deg: float | None,
    heights_deg: tuple[float, ...] = (),
    least_deg: float = 0.0,
) -> datetime | None:
    """Return the first whole minute within a day from which a job is allowed throughout.

    None for the bearing is any direction at all.  A little is kept in hand, so that no second of
    that minute is refused.
    """
    start = utc_of(np.ceil(from_utc.timestamp() / 60) * 60)
    watched = watch_sun(site, start, A_DAY + job + 2 * MINUTE, SUN_MARGIN + MINUTE)
    bad = watched.counts_as_up
    if bearing_deg is not None:
        bad = bad & (apart_deg(bearing_deg, heights_deg, watched) < least_deg + SPARE_DEG)
    length = int(np.ceil(job / MINUTE)) + 2
    upto = np.concatenate([[0], np.cumsum(bad)])
    free = np.flatnonzero(upto[length:] == upto[:-length])
    return utc_of(watched.moments_s[free[0]]) if free.size else None


def unsafe_from(aim: Aim, site: Site, from_utc: datetime, to_utc: datetime) -> datetime | None:
    """Return the first minute of a span at which an aim is too near the Sun; None for never.

    For anything but a direction that is the first minute at which the Sun counts as up.

    Source: rules.md#sun.
    """
    watched = watch_sun(site, from_utc, to_utc - from_utc)
    bad = watched.counts_as_up
    if aim.bearing_deg is not None:
        bearing_deg, slack_deg = _true(aim.bearing_deg, aim, site, from_utc)
        apart = apart_deg(bearing_deg, heights_of(aim), watched)
        bad = bad & (apart < SUN_KEEP_AWAY_DEG + slack_deg)
    return utc_of(watched.moments_s[int(np.argmax(bad))]) if bad.any() else None


def _words(
    is_refused: bool, nearest_deg: float, is_up: Truths, site: Site, now: Now
) -> tuple[str, str]:
    by_clock = now.by_clock(site.zone)
    if not is_up.any():
        return _down_for_the_job(site, now)
    if is_refused:
        when = "comes" if is_up[0] else "comes up during the job and stands"
        detail = f"{SUN_KEEP_AWAY_DEG:g}° is the least. {ELSEWHERE}{not_outside(now)}"
        return f"Refused: the Sun {when} within {nearest_deg:.0f}° of it{by_clock}.", detail
    if by_clock:
        return f"Safe{by_clock}: {nearest_deg:.0f}° from the Sun.", not_outside(now).strip()
    return f"Safe: the Sun stays {nearest_deg:.0f}° away or more while you work.", ""


def _down_for_the_job(site: Site, now: Now) -> tuple[str, str]:
    if now.clock == "real":
        return "The Sun is down for the whole job.", ""
    return f"The Sun is down{now.by_clock(site.zone)}.", not_outside(now).strip()


def _check_down(aim: Aim, site: Site, now: Now, words: str, cure: str) -> LandmarkCheck:
    """Judge what is allowed only while the Sun is down for the whole job."""
    job = aim.job_minutes * MINUTE
    watched = watch_sun(site, now.moment_utc, job)
    is_refused = bool(watched.counts_as_up.any()) or aim.at == "sun"
    instruction, detail = _down_for_the_job(site, now)
    if is_refused:
        instruction, detail = words, f"{cure}{judged_words(site, now)}"
    allowed = None
    if is_refused and aim.at != "sun":
        allowed = _allowed_from(site, now.moment_utc, job, None)
    return _down_check(aim, watched, instruction, detail, is_refused, allowed, now)


def _caps_on(aim: Aim, site: Site, now: Now) -> LandmarkCheck:
    """Judge what needs no look through: allowed, with the caution that goes with it."""
    job = aim.job_minutes * MINUTE
    watched = watch_sun(site, now.moment_utc, job)
    instruction, detail = _down_for_the_job(site, now)
    if watched.counts_as_up.any():
        instruction = "Caps stay on tube and finder: nobody looks through for this."
        detail = "The Sun is up."
        if aim.at == "sun":
            instruction, detail = "Only through the filter of this session.", ""
    return _down_check(aim, watched, instruction, detail, False, None, now)


def _down_check(
    aim: Aim,
    watched: Watched,
    instruction: str,
    detail: str,
    is_refused: bool,
    allowed: datetime | None,
    now: Now,
) -> LandmarkCheck:
    return LandmarkCheck(
        instruction=instruction,
        detail=detail,
        is_done=not is_refused,
        refused=is_refused,
        nearest_deg=None,
        allowed_from_utc=allowed,
        holds_until_utc=now.moment_utc + aim.job_minutes * MINUTE,
        sums=[
            Sum(
                title="Sun during the job",
                formula="highest altitude over the job",
                worked=f"{aim.job_minutes:.0f} min from azimuth {watched.azimuth_deg[0]:.0f}°",
                result=f"{watched.altitude_deg.max():.1f}°",
                source="JPL DE421",
                rule="sun",
                sureness="exact",
                note=f"It counts as up for {SUN_MARGIN / MINUTE:.0f} minutes either side.",
            )
        ],
    )


def _direction_sum(
    aim: Aim,
    bearing_deg: float,
    slack_deg: float,
    nearest_deg: float,
    sun_deg: tuple[float, float],
) -> Sum:
    read = f" (compass {aim.bearing_deg:.0f}°)" if aim.bearing_by == "compass" else ""
    doubt = {"map": "", "compass": " and the compass's doubt", "sun": " and for pointing by hand"}
    heights = heights_of(aim)
    height = f"{heights[0]:.0f}° up"
    if len(heights) > 1:
        height = f"{heights[0]:g} to {heights[-1]:g}° up"
    return Sum(
        title="Nearest to the Sun",
        formula="cos d = sin a · sin a☉ + cos a · cos a☉ · cos(A − A☉), least over the job",
        worked=f"landmark {bearing_deg:.0f}°{read}, {height}; Sun "
        f"{sun_deg[0]:.0f}°, {sun_deg[1]:.0f}° up",
        result=f"{nearest_deg:.1f}°" if np.isfinite(nearest_deg) else "the Sun is down",
        source="Spherical law of cosines; JPL DE421",
        rule="sun",
        sureness="exact" if len(heights) == 1 and aim.bearing_by == "map" else "about",
        note=f"{slack_deg:g}° is added for the Sun's own disc{doubt[aim.bearing_by]}.",
    )


def separation_from_deg(
    bearing_deg: float | Floats, altitude_deg: float, azimuth_deg: Floats, sun_altitude_deg: Floats
) -> Floats:
    """Return the angle in degrees between one direction and others.  Source: haversine formula."""
    one, other = np.radians(altitude_deg), np.radians(sun_altitude_deg)
    across = np.radians(azimuth_deg - bearing_deg)
    inner = np.sin((other - one) / 2) ** 2 + np.cos(one) * np.cos(other) * np.sin(across / 2) ** 2
    return np.asarray(np.degrees(2 * np.arcsin(np.sqrt(np.clip(inner, 0, 1)))))
