"""Whether a target may be pointed at now: the Sun guard, asked at every look and every press."""

from jade_perch.core.bench.landmark import Aim
from jade_perch.core.bench.sunguard import LandmarkCheck, SunRefusal, guard
from jade_perch.core.evening.view import where_is
from jade_perch.core.moments import Now
from jade_perch.core.site import Site
from jade_perch.core.sky.ephemeris import local_altaz_deg, make_moment
from jade_perch.core.sky.sunpath import sun_track
from jade_perch.core.sky.targets import Target

LOOK_MINUTES = 20.0  # so long one stays at a target; rules.md#schedule, a hunt
LOWEST_AIM_DEG = -20.0  # lower nothing is aimed at; the guard takes no more


def aim_at(target: Target, site: Site, now: Now) -> Aim:
    """Return what the tube is pointed at for a target: a direction for bodies, else the stars.

    Source: rules.md#sun; JPL DE421.
    """
    if target.body is None:
        return Aim(at="stars", job_minutes=LOOK_MINUTES)
    moment = make_moment(now.moment_utc)
    toward, _ = where_is(target, sun_track(site, now.moment_utc), moment)
    altitude, azimuth = local_altaz_deg(site, toward, moment.sidereal_deg)
    return Aim(
        at="landmark",
        bearing_deg=float(azimuth) % 360,
        altitude_deg=max(LOWEST_AIM_DEG, float(altitude)),
        job_minutes=LOOK_MINUTES,
    )


def sun_check(target: Target, site: Site, now: Now) -> LandmarkCheck:
    """Return whether a target may be pointed at from now on.  Source: rules.md#sun."""
    return guard(aim_at(target, site, now), site, now)


def require_pointing(target: Target, site: Site, now: Now) -> None:
    """Raise ``SunRefusal`` for a target that may not be pointed at now.  Source: rules.md#sun."""
    check = sun_check(target, site, now)
    if check.refused:
        raise SunRefusal(check, "spot.target_key", site.zone)
