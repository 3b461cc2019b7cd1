"""The view disc: what stands in a rung's field, turned and mirrored as the eye sees it."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from jade_perch.core.constants import SIDEREAL_DAY_S
from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Diagonal, Telescope
from jade_perch.core.optics import powers
from jade_perch.core.optics.orientation import Orientation, telescope_orientation
from jade_perch.core.optics.rungs import Rung
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import (
    CATALOGUE_FAINTEST_MAG,
    double_stars,
    named_stars,
    sky_objects,
    stars_within,
    unit_vectors,
)
from jade_perch.core.sky.ephemeris import (
    BODIES,
    INDEX,
    BodyName,
    Moment,
    Track,
    diameter_arcsec,
    make_moment,
    refracted_deg,
)
from jade_perch.core.sky.night import evening_date, night_track
from jade_perch.core.sky.planets import (
    POLAR_SHARE,
    RING_INNER,
    RING_OUTER,
    jovian_moons,
    pole_direction,
    ring_tilt_deg,
)

Floats = NDArray[np.float64]
Mode = Literal["eyepiece", "correct", "mirrored", "turned"]
# How each printed side of a chart, or a turned one, shows an offset (right, up) of the sky.
CHART_SIDES: dict[Mode, tuple[tuple[float, float], tuple[float, float]]] = {
    "correct": ((1.0, 0.0), (0.0, 1.0)),
    "mirrored": ((-1.0, 0.0), (0.0, 1.0)),
    "turned": ((-1.0, 0.0), (0.0, -1.0)),
}
CHART_WORDS: dict[Mode, str] = {
    "correct": "The correct side of a chart: up is toward the zenith, as to the naked eye.",
    "mirrored": "The mirrored side of a chart: left and right are swapped.",
    "turned": "The correct side of a chart, turned upside down.",
}
MOST_STARS = 600  # brightest first; more than this is only fog in a drawing
STEP = 1e-5  # radians, for directions of axes on the disc


class TargetName(Frozen):
    """Something the disc can show, for the search field."""

    key: str
    label: str
    kind: str


class DiscStar(Frozen):
    """A star on the disc, in field radii from the middle: right and up as the eye sees it."""

    x: float
    y: float
    mag: float
    name: str = ""


class DiscObject(Frozen):
    """An extended object as its catalogue ellipse; the angle is counter-clockwise from right."""

    label: str
    kind: str
    x: float
    y: float
    major: float
    minor: float
    angle_deg: float
    is_target: bool


class DiscBody(Frozen):
    """Moon or planet: its disc, the bright limb's direction, its pole, rings and moons."""

    label: str
    body: BodyName
    x: float
    y: float
    radius: float
    polar_share: float
    lit: float
    bright_limb_deg: float
    pole_deg: float | None
    ring_inner: float | None
    ring_outer: float | None
    ring_tilt_deg: float | None
    moons: list[DiscStar]


class Disc(Frozen):
    """A rung's field around a target; directions are degrees counter-clockwise from right.

    ``chart`` is the side of a chart that comes nearest to what this glass shows.
    """

    target: TargetName
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
    share_of_field: float
    declination_deg: float
    time_to_leave_s: float
    altitude_deg: float | None
    words: str


@dataclass(frozen=True)
class _Frame:
    """Directions of right and up in the sky at the target, and what the glass does to them."""

    toward: Floats
    right: Floats
    up: Floats
    matrix: Floats
    field_radius: float

    def place(self, directions: Floats) -> Floats:
        """Return (N, 2) places on the disc, in field radii, of unit vectors (N, 3)."""
        depth = np.maximum(directions @ self.toward, 0.1)
        flat = np.stack([directions @ self.right, directions @ self.up], axis=-1)
        return np.asarray(flat / depth[:, np.newaxis] @ self.matrix.T / self.field_radius)

    def angle_deg(self, at: Floats, toward: Floats) -> float:
        """Return the direction on the disc of a small step from ``at`` toward another vector."""
        step = at + STEP * toward
        before, after = self.place(np.array([at, step / np.linalg.norm(step)]))
        return float(np.degrees(np.arctan2(after[1] - before[1], after[0] - before[0]))) % 360


def target_names() -> list[TargetName]:
    """Return everything the disc can be centred on, Moon and planets first."""
    bodies = [
        TargetName(key=b.name, label=b.label, kind="Moon" if b.name == "moon" else "planet")
        for b in BODIES
        if b.name != "sun"
    ]
    things = [
        TargetName(key=o.label, label=f"{o.label} {o.name}".strip(), kind=o.kind)
        for o in sky_objects()
    ]
    doubles = [
        TargetName(key=d.name, label=d.name, kind=f"double star, {d.separation_arcsec:g}″")
        for d in double_stars()
    ]
    taken = {double.key for double in doubles}
    stars = [
        TargetName(key=s.name, label=s.name, kind="star")
        for s in named_stars()
        if s.name not in taken
    ]
    return [*bodies, *things, *doubles, *stars]


def make_disc(
    telescope: Telescope,
    diagonal: Diagonal | None,
    rung: Rung,
    target_key: str,
    site: Site | None,
    now_utc: datetime,
    mode: Mode = "eyepiece",
) -> Disc:
    """Return what stands in a rung's field around a target, at a site and moment.

    Without a site the sky is drawn with north up, the Moon and planets as from Greenwich.
    Raises ``OutOfRange`` for targets that are not known, and for the Sun.

    Source: handbook sections 2, 3 and 5; catalogue places without aberration (20 arcsec).
    """
    target = _target(target_key)
    moment = make_moment(now_utc)
    place = site or Site(name="Greenwich", latitude_deg=51.48, longitude_deg=0.0, zone="UTC")
    track = night_track(place, evening_date(place, now_utc))
    direction, size_arcsec = _where(target, track, moment)
    orientation = telescope_orientation(telescope, diagonal)
    frame = _frame(direction, moment, site, orientation, rung, mode)
    limit = min(rung.faintest_mag, CATALOGUE_FAINTEST_MAG)
    declination = float(np.degrees(np.arcsin(np.clip(direction[2], -1, 1))))
    leave_s = float(powers.drift_time_s(rung.true_field_deg, declination)) / 2
    north = np.array([0.0, 0.0, 1.0])
    share = size_arcsec / 3600 / rung.true_field_deg
    altitude = None if site is None else _altitude_deg(direction, moment, site)
    bodies = _bodies(frame, track, moment)
    stars = _stars(frame, direction, moment, limit, rung.true_field_deg)
    return Disc(
        target=target,
        rung_key=rung.key,
        field_deg=rung.true_field_deg,
        field_is_about=rung.field_is_about,
        mode=mode,
        mode_words=CHART_WORDS.get(mode, orientation.words),
        chart=_nearest_chart(orientation),
        orientation=orientation,
        north_deg=frame.angle_deg(direction, north),
        west_deg=frame.angle_deg(direction, np.cross(direction, north)),
        stars=[star for star in stars if not _is_hidden(star, bodies)],
        objects=_objects(frame, moment, target, rung.true_field_deg),
        bodies=bodies,
        dimming=rung.relative_brightness,
        faintest_mag=rung.faintest_mag,
        share_of_field=share,
        declination_deg=declination,
        time_to_leave_s=min(leave_s, SIDEREAL_DAY_S),
        altitude_deg=altitude,
        words=_words(target, share, altitude, rung),
    )


def _target(key: str) -> TargetName:
    names = {one.key.casefold(): one for one in target_names()}
    found = names.get(key.strip().casefold())
    if found is None:
        cure = "Search by its label, such as moon, M44 or Albireo; the Sun is never a target."
        raise OutOfRange("target", key, "Moon, planets, showpieces, named stars", cure)
    return found


def _where(target: TargetName, track: Track, moment: Moment) -> tuple[Floats, float]:
    """Return the target's unit vector (equator of date) and its size in arcsec."""
    if target.key in INDEX:
        at = np.array([moment.moment_utc.timestamp()])
        number = INDEX[target.key]
        size = diameter_arcsec(BODIES[number].name, track.distances_au(at, number))
        return track.directions(at)[number, :, 0], float(size[0])
    for thing in sky_objects():
        if thing.label == target.key:
            return _of_date(thing.ra_deg, thing.dec_deg, moment), thing.major_arcmin * 60
    for double in double_stars():
        if double.name == target.key:
            return _of_date(double.ra_deg, double.dec_deg, moment), double.separation_arcsec
    star = next(one for one in named_stars() if one.name == target.key)
    return _of_date(star.ra_deg, star.dec_deg, moment), 0.0


def _of_date(ra_deg: float, dec_deg: float, moment: Moment) -> Floats:
    vector = unit_vectors(np.array(ra_deg), np.array(dec_deg))
    return np.asarray(moment.to_date @ vector)


def _zenith(moment: Moment, site: Site) -> Floats:
    local_deg = np.array(moment.sidereal_deg + site.longitude_deg)
    return unit_vectors(local_deg, np.array(site.latitude_deg))


def _altitude_deg(direction: Floats, moment: Moment, site: Site) -> float:
    sine = np.clip(direction @ _zenith(moment, site), -1, 1)
    return float(refracted_deg(np.degrees(np.arcsin(sine))))


def _frame(
    direction: Floats,
    moment: Moment,
    site: Site | None,
    orientation: Orientation,
    rung: Rung,
    mode: Mode,
) -> _Frame:
    above = np.array([0.0, 0.0, 1.0]) if site is None else _zenith(moment, site)
    up = above - (above @ direction) * direction
    up = up / np.linalg.norm(up)
    matrix = np.array(CHART_SIDES.get(mode, orientation.matrix))
    return _Frame(
        toward=direction,
        right=np.cross(direction, up),
        up=up,
        matrix=matrix,
        field_radius=float(np.tan(np.radians(rung.true_field_deg / 2))),
    )


def _stars(
    frame: _Frame, direction: Floats, moment: Moment, limit_mag: float, field_deg: float
) -> list[DiscStar]:
    found, magnitude = stars_within(moment.to_date.T @ direction, field_deg / 2)
    bright = magnitude <= limit_mag
    places = frame.place(found[bright] @ moment.to_date.T)[:MOST_STARS]
    single = [
        DiscStar(x=round(x, 4), y=round(y, 4), mag=round(m, 2))
        for (x, y), m in zip(places.tolist(), magnitude[bright].tolist(), strict=False)
    ]
    return [*single, *_companions(frame, direction, moment, field_deg)]


def _is_hidden(star: DiscStar, bodies: list[DiscBody]) -> bool:
    """Return whether a star stands behind the disc of the Moon or a planet."""
    return any(np.hypot(star.x - body.x, star.y - body.y) < body.radius for body in bodies)


def _nearest_chart(orientation: Orientation) -> Mode:
    if orientation.is_mirrored:
        return "mirrored"
    return "turned" if 90 < orientation.turned_deg < 270 else "correct"


def _companions(
    frame: _Frame, direction: Floats, moment: Moment, field_deg: float
) -> list[DiscStar]:
    """Return the companions of showpiece doubles, which the star list keeps as one star."""
    result = []
    for double in double_stars():
        at = _of_date(double.ra_deg, double.dec_deg, moment)
        if at @ direction < np.cos(np.radians(field_deg / 2)):
            continue
        away = np.radians(double.separation_arcsec / 3600)
        companion = at + away * _along(at, double.position_angle_deg)
        ((x, y),) = frame.place(np.array([companion / np.linalg.norm(companion)])).tolist()
        result.append(
            DiscStar(x=round(x, 5), y=round(y, 5), mag=double.magnitudes[1], name=double.name)
        )
    return result


def _along(at: Floats, position_angle_deg: float) -> Floats:
    """Return the unit step from a place toward a position angle, north through east."""
    north = np.array([0.0, 0.0, 1.0]) - at[2] * at
    north = north / np.linalg.norm(north)
    east = np.cross(north, at)
    angle = np.radians(position_angle_deg)
    return np.asarray(np.cos(angle) * north + np.sin(angle) * east)


def _objects(
    frame: _Frame, moment: Moment, target: TargetName, field_deg: float
) -> list[DiscObject]:
    things = sky_objects()
    ra = np.array([thing.ra_deg for thing in things])
    dec = np.array([thing.dec_deg for thing in things])
    directions = unit_vectors(ra, dec) @ moment.to_date.T
    radii_deg = np.array([thing.major_arcmin for thing in things]) / 120
    apart_deg = np.degrees(np.arccos(np.clip(directions @ frame.toward, -1, 1)))
    near = np.flatnonzero(apart_deg < field_deg / 2 + radii_deg)
    places = frame.place(directions[near])
    scale = np.radians(1 / 120) / frame.field_radius
    result = []
    for number, (x, y) in zip(near, places.tolist(), strict=True):
        thing = things[number]
        along = _along(directions[number], thing.position_angle_deg or 0.0)
        result.append(
            DiscObject(
                label=thing.label,
                kind=thing.kind,
                x=round(x, 4),
                y=round(y, 4),
                major=float(thing.major_arcmin * scale),
                minor=float(thing.minor_arcmin * scale),
                angle_deg=frame.angle_deg(directions[number], along),
                is_target=thing.label == target.key,
            )
        )
    return result


def _bodies(frame: _Frame, track: Track, moment: Moment) -> list[DiscBody]:
    """Return Moon and planets whose discs reach into the field."""
    at = np.array([moment.moment_utc.timestamp()])
    directions = track.directions(at)[:, :, 0]
    distances, lit = track.distances_au(at)[:, 0], track.fractions_lit(at)[:, 0]
    sun = directions[INDEX["sun"]]
    result = []
    for number, body in enumerate(BODIES):
        radius = np.radians(float(diameter_arcsec(body.name, distances[number])) / 7200)
        radius_on_disc = float(np.tan(radius) / frame.field_radius)
        ((x, y),) = frame.place(directions[number][np.newaxis]).tolist()
        in_front = directions[number] @ frame.toward > 0.5
        if body.name == "sun" or not in_front or np.hypot(x, y) > 1 + radius_on_disc:
            continue
        pole = pole_direction(body.name)
        pole_deg = None
        if pole is not None:
            pole_deg = frame.angle_deg(directions[number], moment.to_date @ pole)
        ringed = body.name == "saturn"
        icrs = moment.to_date.T @ directions[number]
        result.append(
            DiscBody(
                label=body.label,
                body=body.name,
                x=round(x, 4),
                y=round(y, 4),
                radius=radius_on_disc,
                polar_share=POLAR_SHARE.get(body.name, 1.0),
                lit=float(lit[number]),
                bright_limb_deg=frame.angle_deg(directions[number], sun),
                pole_deg=pole_deg,
                ring_inner=RING_INNER if ringed else None,
                ring_outer=RING_OUTER if ringed else None,
                ring_tilt_deg=ring_tilt_deg(icrs) if ringed else None,
                moons=_moons(frame, directions[number], moment, radius)
                if body.name == "jupiter"
                else [],
            )
        )
    return result


def _moons(frame: _Frame, jupiter: Floats, moment: Moment, radius: float) -> list[DiscStar]:
    """Return Jupiter's bright moons on the disc; those behind the planet are left out."""
    pole = pole_direction("jupiter")
    assert pole is not None
    of_date = moment.to_date @ pole
    north = of_date - (of_date @ jupiter) * jupiter
    north = north / np.linalg.norm(north)
    west = np.cross(jupiter, north)
    shown = [moon for moon in jovian_moons(moment.moment_utc) if not moon.is_hidden]
    steps = [radius * (m.west_radii * west + m.north_radii * north) for m in shown]
    places = frame.place(np.array([jupiter + step for step in steps])).tolist() if shown else []
    return [
        DiscStar(x=round(x, 5), y=round(y, 5), mag=5.5, name=moon.name)
        for (x, y), moon in zip(places, shown, strict=True)
    ]


def _words(target: TargetName, share: float, altitude: float | None, rung: Rung) -> str:
    below = altitude is not None and altitude <= 0
    where = " It is below the horizon now." if below else ""
    if target.kind == "star":
        return f"{target.label} stays a point at any power.{where}"
    if share >= 1:
        return f"{target.label} is larger than the field.{where}"
    if target.kind.startswith("double star"):
        apart = share * rung.true_field_deg * 3600 * rung.magnification
        verdict = "comfortable" if apart >= 240 else "tight"
        return (
            f"The pair stands {apart / 60:.0f}′ apart at the eye: {verdict} for equal stars, "
            f"unequal ones need more.{where}"
        )
    return f"{target.label} fills {100 * share:.2g} % of the field across.{where}"
