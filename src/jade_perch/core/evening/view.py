"""The view disc: what stands in a rung's field, turned and mirrored as the eye sees it."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.constants import (
    AU_KM,
    LUNAR_ARCSEC_PER_S,
    SIDEREAL_ARCSEC_PER_S,
)
from jade_perch.core.evening.disc import (
    DiscBody,
    DiscObject,
    DiscStar,
    Frame,
    bodies_of,
    is_hidden,
    objects_of,
    of_date_vector,
    stars_of,
)
from jade_perch.core.evening.interest import looking_moment
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Diagonal, Telescope
from jade_perch.core.optics import powers
from jade_perch.core.optics.orientation import Orientation, telescope_orientation
from jade_perch.core.optics.rungs import Rung, glasses_of
from jade_perch.core.optics.viewer import Course
from jade_perch.core.site import Site
from jade_perch.core.sky.brightness import site_mpsas
from jade_perch.core.sky.catalogue import Catalogue, unit_vectors
from jade_perch.core.sky.ephemeris import (
    INDEX,
    Moment,
    Track,
    diameter_arcsec,
    local_altaz_deg,
    make_moment,
    refracted_deg,
)
from jade_perch.core.sky.night import Night, require_inside
from jade_perch.core.sky.seen import pair_needs_arcsec
from jade_perch.core.sky.sunpath import sun_track
from jade_perch.core.sky.targets import Target
from jade_perch.core.skyline import is_behind

Mode = Literal["eyepiece", "correct", "mirrored", "turned"]
# How each printed side of a chart, or a turned one, shows an offset (right, up) of the sky.
CHART_SIDES: dict[Mode, tuple[tuple[float, float], tuple[float, float]]] = {
    "correct": ((1.0, 0.0), (0.0, 1.0)),
    "mirrored": ((-1.0, 0.0), (0.0, 1.0)),
    "turned": ((-1.0, 0.0), (0.0, -1.0)),
}
A_MORNING = timedelta(hours=12)  # before a night begins it is tonight's already
UNEQUAL_FROM_MAG = 0.5  # less is not worth a word
NORTH = np.array([0.0, 0.0, 1.0])  # the pole, in the equator of date
GREENWICH = Site(name="Greenwich", latitude_deg=51.48, longitude_deg=0.0, zone="UTC")
CHART_WORDS: dict[Mode, str] = {
    "correct": "The correct side of a chart: up is toward the zenith, as to the naked eye.",
    "mirrored": "The mirrored side of a chart: left and right are swapped.",
    "turned": "The correct side of a chart, turned upside down.",
}


@dataclass(frozen=True, slots=True)
class Through:
    """What one looks through: a telescope with the diagonal it wears, on one rung.

    On an equatorial head the tube turns about its own axis with the sky.
    """

    telescope: Telescope
    diagonal: Diagonal | None
    rung: Rung
    is_equatorial: bool = False


class Disc(Frozen):
    """A rung's field around a target; directions are degrees counter-clockwise from right.

    ``chart`` is the side of a chart that comes nearest to what this glass shows; all of it holds
    for ``at_utc``.
    """

    target: Target
    at_utc: datetime
    at_is_now: bool
    rung_key: str
    field_deg: float
    field_is_about: bool
    mode: Mode
    mode_words: str
    chart: Mode
    orientation: Orientation
    north_deg: float
    west_deg: float
    stars: list[DiscStar]
    objects: list[DiscObject]
    bodies: list[DiscBody]
    dimming: float
    faintest_mag: float
    declination_deg: float
    time_to_leave_s: float | None
    altitude_deg: float | None
    words: str


def make_disc(
    through: Through,
    target: Target,
    catalogue: Catalogue,
    site: Site | None,
    now_utc: datetime,
    mode: Mode = "eyepiece",
    *,
    is_now: bool = True,
) -> Disc:
    """Return what stands in a rung's field around a target, at a site and moment.

    Without a site the sky is drawn with north up, the Moon and planets as from Greenwich.

    Source: rules.md#disc; catalogue places without aberration (20 arcsec).
    """
    rung, moment = through.rung, make_moment(now_utc)
    track = sun_track(site or GREENWICH, now_utc)
    direction, size_arcsec = where_is(target, track, moment)
    base = base_of(direction, moment, site)
    altitude = None if site is None else _altitude_deg(direction, moment, site)
    orientation = _orientation(through, base, site, altitude)
    frame = _frame(base, orientation, rung, mode)
    declination = float(np.degrees(np.arcsin(np.clip(direction[2], -1, 1))))
    share, sky_mpsas = size_arcsec / 3600 / rung.true_field_deg, site_mpsas(site)[0]
    bodies = bodies_of(frame, track, moment)
    stars = stars_of(catalogue, frame, moment, rung.faintest_mag, rung.true_field_deg)
    return Disc(
        target=target,
        at_utc=now_utc,
        at_is_now=is_now,
        rung_key=rung.key,
        field_deg=rung.true_field_deg,
        field_is_about=rung.field_is_about,
        mode=mode,
        mode_words=CHART_WORDS.get(mode, _mode_words(through, orientation)),
        chart=_nearest_chart(orientation),
        orientation=orientation,
        north_deg=frame.angle_deg(direction, NORTH),
        west_deg=frame.angle_deg(direction, np.cross(direction, NORTH)),
        stars=[star for star in stars if not is_hidden(star, bodies)],
        objects=objects_of(catalogue, frame, moment, target.key, glasses_of([rung]), sky_mpsas),
        bodies=bodies,
        dimming=rung.relative_brightness,
        faintest_mag=rung.faintest_mag,
        declination_deg=declination,
        time_to_leave_s=_time_to_leave_s(target, rung, declination),
        altitude_deg=altitude,
        words=_words(target, share, _hidden_words(direction, moment, site), rung),
    )


def where_is(target: Target, track: Track, moment: Moment) -> tuple[Floats, float]:
    """Return a target's unit vector (equator of date) and its size in arcsec.

    Source: rules.md#disc.
    """
    if target.body is not None:
        at = np.array([moment.moment_utc.timestamp()])
        number = INDEX[target.body]
        distance_au = track.distances_au(at, number)
        size = float(diameter_arcsec(target.body, distance_au)[0])
        if target.across_km is not None:
            size = float(np.degrees(target.across_km / (distance_au[0] * AU_KM))) * 3600
        return track.directions(at)[number, :, 0], size
    size_arcsec = 60 * (target.major_arcmin or 0.0)
    if target.separation_arcsec is not None:
        size_arcsec = target.separation_arcsec
    return of_date_vector(target.ra_deg or 0.0, target.dec_deg or 0.0, moment), size_arcsec


def drift_way_deg(through: Through, target: Target, site: Site | None, now_utc: datetime) -> float:
    """Return which way a target leaves the field undriven, as the eye sees it.

    Degrees counter-clockwise from right; it goes where the sky goes, west.

    Source: rules.md#disc.
    """
    moment = make_moment(now_utc)
    direction, _ = where_is(target, sun_track(site or GREENWICH, now_utc), moment)
    base = base_of(direction, moment, site)
    altitude = None if site is None else _altitude_deg(direction, moment, site)
    orientation = _orientation(through, base, site, altitude)
    frame = _frame(base, orientation, through.rung, "eyepiece")
    return frame.angle_deg(direction, np.cross(direction, NORTH))


def course_of(target: Target, site: Site | None, now_utc: datetime) -> Course:
    """Return how a target goes through a field at a moment: its declination, and if it is the Moon.

    Source: rules.md#disc.
    """
    moment = make_moment(now_utc)
    direction, _ = where_is(target, sun_track(site or GREENWICH, now_utc), moment)
    declination = float(np.degrees(np.arcsin(np.clip(direction[2], -1, 1))))
    return Course(declination_deg=declination, of_moon=target.body == "moon")


def _zenith(moment: Moment, site: Site) -> Floats:
    local_deg = np.array(moment.sidereal_deg + site.longitude_deg)
    return unit_vectors(local_deg, np.array(site.latitude_deg))


def _altitude_deg(direction: Floats, moment: Moment, site: Site) -> float:
    altitude, _ = local_altaz_deg(site, direction, moment.sidereal_deg)
    return float(refracted_deg(altitude))


def _hidden_words(direction: Floats, moment: Moment, site: Site | None) -> str:
    """Return what hides a target now; empty where nothing does, or without a place."""
    if site is None:
        return ""
    altitude, azimuth = local_altaz_deg(site, direction, moment.sidereal_deg)
    if altitude <= 0:
        return " It is below the horizon now."
    return " It is behind your skyline now." * bool(is_behind(site.skyline, altitude, azimuth))


def _time_to_leave_s(target: Target, rung: Rung, declination_deg: float) -> float | None:
    """Return the time from the middle to the edge, or None where it never gets there."""
    rate = LUNAR_ARCSEC_PER_S if target.body == "moon" else SIDEREAL_ARCSEC_PER_S
    across_s = float(powers.drift_time_s(rung.true_field_deg, declination_deg, rate))
    return across_s / 2 if np.isfinite(across_s) else None


@dataclass(frozen=True, slots=True)
class Base:
    """Unit vectors in the equator of date: toward the target, to its right and up in the sky."""

    toward: Floats
    right: Floats
    up: Floats


def base_of(direction: Floats, moment: Moment, site: Site | None) -> Base:
    """Return right and up in the sky at a direction: toward the zenith, or north without a site.

    Source: rules.md#disc.
    """
    above = NORTH if site is None else _zenith(moment, site)
    up = above - (above @ direction) * direction
    length = np.linalg.norm(up)
    if length < 1e-9:  # straight overhead any direction is as good: north
        up = NORTH - (NORTH @ direction) * direction
        length = np.linalg.norm(up)
    up = up / length
    return Base(direction, np.cross(direction, up), up)


def _orientation(
    through: Through, base: Base, site: Site | None, altitude_deg: float | None
) -> Orientation:
    """Return how the glass shows a target where it stands; nobody looks below the horizon."""
    roll = _roll_deg(base, site) if through.is_equatorial and site is not None else 0.0
    tipped = 0.0 if altitude_deg is None else max(0.0, altitude_deg)
    return telescope_orientation(through.telescope, through.diagonal, tipped, roll)


def _roll_deg(base: Base, site: Site) -> float:
    """Return how far an equatorial tube is turned about its axis, clockwise seen from behind.

    Its side toward the pole is up when it looks at the equator on the meridian.
    """
    pole = NORTH if site.latitude_deg >= 0 else -NORTH
    return float(np.degrees(np.arctan2(pole @ base.right, pole @ base.up)))


def _frame(base: Base, orientation: Orientation, rung: Rung, mode: Mode) -> Frame:
    return Frame(
        toward=base.toward,
        right=base.right,
        up=base.up,
        matrix=np.array(CHART_SIDES.get(mode, orientation.matrix)),
        field_radius=float(np.tan(np.radians(rung.true_field_deg / 2))),
    )


def _mode_words(through: Through, orientation: Orientation) -> str:
    more = " On the other side of the mount it stands the other way round."
    return orientation.words + more * through.is_equatorial


def disc_moment(night: Night | None, now_utc: datetime, wish_utc: datetime | None) -> datetime:
    """Return the moment a disc is drawn for: as wished, else now, else when looking begins.

    Raises ``OutOfRange`` for a wish outside the chosen night.

    Source: rules.md#disc.
    """
    if night is None:
        return now_utc
    if wish_utc is not None:
        require_inside(night, wish_utc)
    is_tonight = night.start_utc - A_MORNING <= now_utc <= night.end_utc
    return wish_utc or (now_utc if is_tonight else looking_moment(night, now_utc))


def _nearest_chart(orientation: Orientation) -> Mode:
    if orientation.is_mirrored:
        return "mirrored"
    return "turned" if 90 < orientation.turned_deg < 270 else "correct"


def _pair_words(target: Target, rung: Rung) -> str:
    """Return how easily a pair is split; nothing closer than Dawes's limit ever is."""
    separation_arcsec = target.separation_arcsec or 0.0
    if separation_arcsec < rung.dawes_arcsec:
        return (
            f"{separation_arcsec:.1f}″ is closer than this aperture splits "
            f"({rung.dawes_arcsec:.2f}″): at best it looks long."
        )
    apart = separation_arcsec * rung.magnification
    steps = 0.0
    if target.companion_mag is not None and target.magnitude is not None:
        steps = abs(target.companion_mag - target.magnitude)
    needed = float(pair_needs_arcsec(0.0, steps))
    verdict = "comfortable" if apart >= needed else "tight"
    unequal = f" Unequal by {steps:.1f} magnitudes, it wants {needed / 60:.1f}′."
    return f"The pair stands {apart / 60:.1f}′ apart at the eye: {verdict}." + unequal * (
        steps >= UNEQUAL_FROM_MAG
    )


def _words(target: Target, share: float, where: str, rung: Rung) -> str:
    if target.traits.shape == "point":
        return f"{target.label} stays a point at any power.{where}"
    if share >= 1:
        return f"{target.label} is larger than the field.{where}"
    if target.traits.shape == "pair":
        return f"{_pair_words(target, rung)}{where}"
    return f"{target.label} fills {100 * share:.2g} % of the field across.{where}"
