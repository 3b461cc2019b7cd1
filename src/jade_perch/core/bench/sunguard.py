"""The Sun over the hours of a job: its track, safe bearings, and what is refused and until when."""

from datetime import UTC, datetime, timedelta
from functools import lru_cache
from typing import Annotated, Literal

import numpy as np

from jade_perch.core.arrays import Floats, Truths
from jade_perch.core.bench.advice import Advice
from jade_perch.core.bench.magnetic import COMPASS_CARE, COMPASS_DOUBT_DEG, true_bearing_deg
from jade_perch.core.constants import SUN_HORIZON_DEG, SUN_KEEP_AWAY_DEG
from jade_perch.core.errors import FieldProblem, JobError
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.moments import utc_of
from jade_perch.core.safety import CAUTION
from jade_perch.core.site import Site
from jade_perch.core.sky.ephemeris import INDEX, Track, make_track, refracted_deg
from jade_perch.core.sums import Sum

AHEAD = timedelta(hours=6)  # how far the ring looks ahead, as long as one may work by day
TRACK_SPAN = timedelta(hours=30)  # a day and a quarter, so that the next sunset is always inside
STEP_S = 120.0  # the Sun moves half a degree in it
ELSEWHERE = "Choose a landmark in a safe direction, or wait until the Sun is down."
RING_STEP_DEG = 2.0
SLACK_DEG = 0.5  # for the half disc of the Sun, so that its rim stays as far away


class Landmark(Frozen):
    """Something far away to align on by day, and how long the job will take.

    ``bearing_deg`` counts from north through east: true north off a map, magnetic by compass;
    ``distance_m`` is measured along the ground.
    """

    bearing_deg: Annotated[float, Range(0, 360, "°", "Count from north through east.")]
    bearing_by: Literal["map", "compass"] = "map"
    altitude_deg: Annotated[float, Range(-20, 90, "°", "0 is level with the eye.")] = 0.0
    distance_m: Annotated[float, Range(5, 200000, "m", "Read it off a map.")]
    job_minutes: Annotated[float, Range(5, 360, "min", "Say how long you will work.")] = 30.0


class LandmarkCheck(Advice):
    """Whether a landmark may be aimed at during the whole job, and if not, from when.

    ``true_bearing_deg`` is the landmark's, by whatever it was read; None for stars.
    """

    refused: bool
    true_bearing_deg: float | None = None
    nearest_deg: float | None
    allowed_from_utc: datetime | None

    @property
    def words(self) -> str:
        """Everything it says, in one go.  Source: rules.md#sun."""
        return f"{self.instruction} {self.detail}".strip()


class SunMark(Frozen):
    """The Sun at one moment of its track."""

    at_utc: datetime
    azimuth_deg: float
    altitude_deg: float


class Arc(Frozen):
    """A stretch of bearings, clockwise from ``from_deg`` to ``to_deg``; 0 to 360 is all round."""

    from_deg: float
    to_deg: float


class SunRing(Frozen):
    """The Sun's track from now on and the bearings that stay safe for level aiming.

    ``holds_until_utc`` is the end of what was looked at: six hours, or sunset if that is sooner.
    """

    is_up: bool
    sun: SunMark
    track: list[SunMark]
    unsafe: list[Arc]
    safe: list[Arc]
    holds_until_utc: datetime
    sets_utc: datetime | None
    rises_utc: datetime | None
    words: str
    caution: str


class SunRefusal(JobError):
    """Aiming is refused because of the Sun; nothing but time or another landmark changes that."""

    def __init__(self, check: LandmarkCheck) -> None:
        super().__init__(check.words)
        self.check = check

    def problem(self) -> FieldProblem:
        """Return the refusal as the data a page shows beside the landmark.

        Source: rules.md#sun.
        """
        nearest = "" if self.check.nearest_deg is None else f"{self.check.nearest_deg:.0f}°"
        until = self.check.allowed_from_utc
        wait = "not within a day" if until is None else f"at {until:%H:%M} UTC"
        return FieldProblem(
            field="landmark.bearing_deg",
            value=f"{nearest} from the Sun",
            allowed=f"{SUN_KEEP_AWAY_DEG:g}° or more while the Sun is up",
            cure=f"Choose another landmark, or wait until the Sun is down ({wait}).",
            detail=str(self),
        )


@lru_cache(maxsize=16)
def _track_from(site: Site, hour_s: float) -> Track:
    start = datetime.fromtimestamp(hour_s, UTC)
    return make_track(site, start, start + TRACK_SPAN)


def sun_track(site: Site, from_utc: datetime) -> Track:
    """Return the tracks from the full hour before a moment on; kept for the next asker.

    Raises ``OutOfRange`` for moments outside the ephemeris.

    Source: rules.md#sun.
    """
    hour_s = from_utc.timestamp() // 3600 * 3600
    return _track_from(site, hour_s)


def sun_path(site: Site, from_utc: datetime, span: timedelta) -> tuple[Floats, Floats, Floats]:
    """Return moments (Unix s), altitudes and azimuths in degrees of the Sun, every two minutes.

    Source: rules.md#sun.
    """
    start, length = from_utc.timestamp(), span.total_seconds()
    moments = start + np.linspace(0, length, max(2, int(np.ceil(length / STEP_S)) + 1))
    altitude, azimuth = sun_track(site, from_utc).altaz_deg(moments, INDEX["sun"])
    return moments, altitude, azimuth


def check_landmark(site: Site, landmark: Landmark, from_utc: datetime) -> LandmarkCheck:
    """Return whether a landmark stays far enough from the Sun while it is up, for the whole job.

    A compass bearing is made true first, and its doubt added.  Raises ``OutOfRange`` where the
    compass cannot be trusted.

    Source: rules.md#sun; spherical law of cosines between bearing and Sun.
    """
    bearing_deg, slack_deg, care = landmark.bearing_deg, SLACK_DEG, ""
    if landmark.bearing_by == "compass":
        bearing_deg = true_bearing_deg(site, from_utc, bearing_deg)
        slack_deg += COMPASS_DOUBT_DEG
        care = f" {COMPASS_CARE}"
    job = timedelta(minutes=landmark.job_minutes)
    _, altitude, azimuth = sun_path(site, from_utc, job)
    seen = refracted_deg(altitude)
    apart = separation_from_deg(bearing_deg, landmark.altitude_deg, azimuth, seen)
    is_up = altitude > SUN_HORIZON_DEG
    apart_while_up = np.where(is_up, apart, np.inf)
    nearest = int(np.argmin(apart_while_up))
    nearest_deg = float(apart_while_up[nearest])
    refused = nearest_deg < SUN_KEEP_AWAY_DEG + slack_deg
    sun_deg = float(azimuth[nearest]), float(seen[nearest])
    instruction, detail = _check_words(refused, nearest_deg, is_up)
    return LandmarkCheck(
        instruction=instruction,
        detail=f"{detail}{care}".strip(),
        is_done=not refused,
        sums=[_check_sum(landmark, bearing_deg, slack_deg, nearest_deg, sun_deg)],
        refused=refused,
        true_bearing_deg=bearing_deg,
        nearest_deg=nearest_deg if is_up.any() else None,
        allowed_from_utc=_next_change(site, from_utc, to_up=False) if refused else None,
    )


def _check_words(refused: bool, nearest_deg: float, is_up: Truths) -> tuple[str, str]:
    if not is_up.any():
        return "The Sun is down for the whole job.", ""
    if refused:
        when = "comes" if is_up[0] else "comes up during the job and stands"
        detail = f"{SUN_KEEP_AWAY_DEG:g}° is the least. {ELSEWHERE}"
        return f"Refused: the Sun {when} within {nearest_deg:.0f}° of it.", detail
    return f"Safe: the Sun stays {nearest_deg:.0f}° away or more while you work.", ""


def _check_sum(
    landmark: Landmark,
    bearing_deg: float,
    slack_deg: float,
    nearest_deg: float,
    sun_deg: tuple[float, float],
) -> Sum:
    by_compass = landmark.bearing_by == "compass"
    read = f" (compass {landmark.bearing_deg:.0f}°)" if by_compass else ""
    doubt = " and the compass's doubt" if by_compass else ""
    return Sum(
        title="Nearest to the Sun",
        formula="cos d = sin a · sin a☉ + cos a · cos a☉ · cos(A − A☉), least over the job",
        worked=f"landmark {bearing_deg:.0f}°{read}, {landmark.altitude_deg:.0f}° up; Sun "
        f"{sun_deg[0]:.0f}°, {sun_deg[1]:.0f}° up",
        result=f"{nearest_deg:.1f}°" if np.isfinite(nearest_deg) else "the Sun is down",
        source="Spherical law of cosines; JPL DE421",
        rule="sun",
        sureness="about" if by_compass else "exact",
        note=f"{slack_deg:g}° is added for the Sun's own disc{doubt}.",
    )


def require_safe(check: LandmarkCheck) -> LandmarkCheck:
    """Return a check that allows aiming; raises ``SunRefusal`` for one that does not.

    Source: rules.md#sun.
    """
    if check.refused:
        raise SunRefusal(check)
    return check


def check_stars(site: Site, from_utc: datetime, job_minutes: float) -> LandmarkCheck:
    """Return whether stars may be aimed at: only while the Sun is down for the whole job.

    Source: rules.md#sun.
    """
    job = timedelta(minutes=job_minutes)
    _, altitude, azimuth = sun_path(site, from_utc, job)
    is_up = altitude > SUN_HORIZON_DEG
    refused = bool(is_up.any())
    words = "Refused: the Sun is up, and no star is there to aim at."
    return LandmarkCheck(
        instruction=words if refused else "The Sun is down for the whole job.",
        detail="Take a landmark in a safe direction, or wait." if refused else "",
        is_done=not refused,
        refused=refused,
        nearest_deg=None,
        allowed_from_utc=_next_change(site, from_utc, to_up=False) if is_up.any() else None,
        sums=[
            Sum(
                title="Sun during the job",
                formula="highest altitude over the job",
                worked=f"{job_minutes:.0f} min from azimuth {azimuth[0]:.0f}°",
                result=f"{altitude.max():.1f}°",
                source="JPL DE421",
                rule="sun",
                sureness="exact",
            )
        ],
    )


def moon_landmark(site: Site, at_utc: datetime, job_minutes: float) -> Landmark:
    """Return the Moon as something to aim at, where it stands now.

    Source: JPL DE421; it moves with the sky, slower against the Sun than half a degree an hour.
    """
    at = np.array([at_utc.timestamp()])
    altitude, azimuth = sun_track(site, at_utc).altaz_deg(at, INDEX["moon"])
    return Landmark(
        bearing_deg=float(azimuth[0]),
        altitude_deg=float(np.clip(altitude[0], -20, 90)),
        distance_m=200000.0,
        job_minutes=job_minutes,
    )


def separation_from_deg(
    bearing_deg: float, altitude_deg: float, azimuth_deg: Floats, sun_altitude_deg: Floats
) -> Floats:
    """Return the angle in degrees between one direction and others.  Source: haversine formula."""
    one, other = np.radians(altitude_deg), np.radians(sun_altitude_deg)
    across = np.radians(azimuth_deg - bearing_deg)
    inner = np.sin((other - one) / 2) ** 2 + np.cos(one) * np.cos(other) * np.sin(across / 2) ** 2
    return np.asarray(np.degrees(2 * np.arcsin(np.sqrt(np.clip(inner, 0, 1)))))


def sun_ring(site: Site, now_utc: datetime, aiming_altitude_deg: float = 0.0) -> SunRing:
    """Return the Sun's track over the next six hours and which bearings stay safe all the while.

    Bearings are for aiming at ``aiming_altitude_deg`` over the horizon.

    Source: rules.md#sun.
    """
    moments, altitude, azimuth = sun_path(site, now_utc, AHEAD)
    is_up = altitude > SUN_HORIZON_DEG
    seen = refracted_deg(altitude)
    bearings = np.arange(0.0, 360.0, RING_STEP_DEG)
    nearest = np.full(bearings.shape, np.inf)
    for azimuth_deg, altitude_deg in zip(azimuth[is_up], seen[is_up], strict=True):
        apart = separation_from_deg(
            float(azimuth_deg), float(altitude_deg), bearings, np.full(1, aiming_altitude_deg)
        )
        nearest = np.minimum(nearest, apart)
    bad = nearest < SUN_KEEP_AWAY_DEG + SLACK_DEG
    sets = _next_change(site, now_utc, to_up=False) if is_up[0] else None
    rises = None if is_up[0] else _next_change(site, now_utc, to_up=True)
    half_hours = np.flatnonzero(is_up)[::15]
    marks = [
        SunMark(
            at_utc=utc_of(moments[n]), azimuth_deg=float(azimuth[n]), altitude_deg=float(seen[n])
        )
        for n in half_hours
    ]
    end = now_utc + AHEAD
    unsafe, safe = _arcs(bad)
    return SunRing(
        is_up=bool(is_up[0]),
        sun=SunMark(at_utc=now_utc, azimuth_deg=float(azimuth[0]), altitude_deg=float(seen[0])),
        track=marks,
        unsafe=unsafe,
        safe=safe,
        holds_until_utc=min(end, sets) if sets is not None else end,
        sets_utc=sets,
        rises_utc=rises,
        words=_ring_words(bool(is_up[0]), sets, bad),
        caution=CAUTION,
    )


def _ring_words(is_up: bool, sets: datetime | None, bad: Truths) -> str:
    if not is_up:
        return "The Sun is down."
    if bad.all():
        return "No bearing is safe: wait until the Sun is down."
    if not bad.any():
        return "The Sun stands high: every level bearing is safe; never tilt up toward it."
    until = "" if sets is not None else " The Sun does not set within a day."
    return f"Aim only at bearings outside the hatched part.{until}"


def _arcs(bad: Truths) -> tuple[list[Arc], list[Arc]]:
    """Return unsafe and safe stretches of bearings; what lies between two of them is unsafe."""
    whole = [Arc(from_deg=0.0, to_deg=360.0)]
    if bad.all() or not bad.any():
        return (whole, []) if bad.all() else ([], whole)
    unsafe, safe = [], []
    for start in np.flatnonzero(bad & ~np.roll(bad, 1)).tolist():
        length = int(np.argmin(np.roll(bad, -start)))
        unsafe.append(_arc(start - 1, start + length))
    for start in np.flatnonzero(~bad & np.roll(bad, 1)).tolist():
        length = int(np.argmax(np.roll(bad, -start)))
        if length > 1:  # a single bearing is no stretch to aim into
            safe.append(_arc(start, start + length - 1))
    return unsafe, safe


def _arc(first: int, last: int) -> Arc:
    low, high = first * RING_STEP_DEG % 360, last * RING_STEP_DEG % 360
    return Arc(from_deg=float(low), to_deg=float(high))


def _next_change(site: Site, from_utc: datetime, *, to_up: bool) -> datetime | None:
    """Return when the Sun next rises or sets within a day, to the minute; None when it does not."""
    moments, altitude, _ = sun_path(site, from_utc, timedelta(hours=24))
    up = altitude > SUN_HORIZON_DEG
    changes = np.flatnonzero(up[1:] != up[:-1]) + 1
    found = [n for n in changes if up[n] == to_up]
    if not found:
        return None
    before, after = altitude[found[0] - 1], altitude[found[0]]
    share = (SUN_HORIZON_DEG - before) / (after - before)
    return utc_of(moments[found[0] - 1] + share * (moments[found[0]] - moments[found[0] - 1]))
