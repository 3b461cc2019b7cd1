"""What stands on the view disc: stars, objects, Moon and planets, in field radii."""

from dataclasses import dataclass

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.fields import Frozen
from jade_perch.core.sky.catalogue import Catalogue, stars_within, unit_vectors
from jade_perch.core.sky.ephemeris import BODIES, INDEX, BodyName, Moment, Track, diameter_arcsec
from jade_perch.core.sky.jovian import jovian_moons
from jade_perch.core.sky.planets import (
    POLAR_SHARE,
    RING_INNER,
    RING_OUTER,
    pole_direction,
    ring_tilt_deg,
)
from jade_perch.core.sky.seen import WORDS, Glasses
from jade_perch.core.sky.sources import see_overhead
from jade_perch.core.sky.targets import KINDS, Shape, TargetKind
from jade_perch.core.sky.visibility import USUAL_FIELD_FACTOR

MOST_OBJECTS = 60  # brightest first; more than these outlines only cover each other
MOST_STARS = 600  # brightest first; more than this is only fog in a drawing
STEP = 1e-5  # radians, for directions of axes on the disc


class DiscStar(Frozen):
    """A star on the disc, in field radii from the middle: right and up as the eye sees it."""

    x: float
    y: float
    mag: float
    name: str = ""


class DiscObject(Frozen):
    """An extended object as its catalogue ellipse; the angle is counter-clockwise from right."""

    label: str
    kind: TargetKind
    shape: Shape
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


@dataclass(frozen=True)
class Frame:
    """Directions of right and up in the sky at the target, and what the glass does to them."""

    toward: Floats
    right: Floats
    up: Floats
    matrix: Floats
    field_radius: float

    def place(self, directions: Floats) -> Floats:
        """Return (N, 2) places on the disc, in field radii, of unit vectors (N, 3).

        Source: rules.md#disc.
        """
        depth = np.maximum(directions @ self.toward, 0.1)
        flat = np.stack([directions @ self.right, directions @ self.up], axis=-1)
        return np.asarray(flat / depth[:, np.newaxis] @ self.matrix.T / self.field_radius)

    def angle_deg(self, at: Floats, toward: Floats) -> float:
        """Return the direction on the disc of a small step from ``at`` toward another vector.

        Source: rules.md#disc.
        """
        step = at + STEP * toward
        before, after = self.place(np.array([at, step / np.linalg.norm(step)]))
        return float(np.degrees(np.arctan2(after[1] - before[1], after[0] - before[0]))) % 360


def of_date_vector(ra_deg: float, dec_deg: float, moment: Moment) -> Floats:
    """Return the unit vector, in the equator of date, of a place in the catalogue.

    Source: rules.md#disc.
    """
    vector = unit_vectors(np.array(ra_deg), np.array(dec_deg))
    return np.asarray(moment.to_date @ vector)


def stars_of(
    catalogue: Catalogue,
    frame: Frame,
    moment: Moment,
    faintest_mag: float,
    field_deg: float,
) -> list[DiscStar]:
    """Return the stars to a magnitude in a field, brightest first, companions of doubles last.

    Source: the shipped catalogue.
    """
    found, magnitude = stars_within(frame.toward @ moment.to_date, field_deg / 2)
    bright = magnitude <= faintest_mag
    places = frame.place(found[bright] @ moment.to_date.T)[:MOST_STARS]
    single = [
        DiscStar(x=round(x, 4), y=round(y, 4), mag=round(m, 2))
        for (x, y), m in zip(places.tolist(), magnitude[bright].tolist(), strict=False)
    ]
    return [*single, *_companions(catalogue, frame, moment, field_deg)]


def is_hidden(star: DiscStar, bodies: list[DiscBody]) -> bool:
    """Return whether a star stands behind the disc of the Moon or a planet.

    Source: rules.md#disc.
    """
    return any(np.hypot(star.x - body.x, star.y - body.y) < body.radius for body in bodies)


def _near(catalogue: Catalogue, frame: Frame, moment: Moment) -> Floats:
    """Return each row's distance from the middle in degrees; NaN for bodies."""
    cosines = catalogue.directions @ (frame.toward @ moment.to_date)
    return np.asarray(np.degrees(np.arccos(np.clip(cosines, -1, 1))))


def _companions(
    catalogue: Catalogue, frame: Frame, moment: Moment, field_deg: float
) -> list[DiscStar]:
    """Return the companions of double stars, which the star list keeps as one star."""
    numbers = catalogue.numbers
    is_pair = np.isfinite(numbers["companion_mag"] + numbers["position_angle_deg"])
    result = []
    for row in np.flatnonzero(is_pair & (_near(catalogue, frame, moment) <= field_deg / 2)):
        at = moment.to_date @ catalogue.directions[row]
        away = np.radians(numbers["separation_arcsec"][row] / 3600)
        companion = at + away * _along(at, numbers["position_angle_deg"][row])
        ((x, y),) = frame.place(np.array([companion / np.linalg.norm(companion)])).tolist()
        mag = float(numbers["companion_mag"][row])
        name = catalogue.labels[row]
        result.append(DiscStar(x=round(x, 5), y=round(y, 5), mag=mag, name=name))
    return result


def _along(at: Floats, position_angle_deg: float) -> Floats:
    """Return the unit step from a place toward a position angle, north through east."""
    north = np.array([0.0, 0.0, 1.0]) - at[2] * at
    north = north / np.linalg.norm(north)
    east = np.cross(north, at)
    angle = np.radians(position_angle_deg)
    return np.asarray(np.cos(angle) * north + np.sin(angle) * east)


def objects_of(
    catalogue: Catalogue,
    frame: Frame,
    moment: Moment,
    target_key: str,
    through: Glasses,
    sky_mpsas: float,
) -> list[DiscObject]:
    """Return the extended objects in the field of one rung, at most ``MOST_OBJECTS``.

    Those that show through it under so bright a sky, and the target whatever it is.

    Source: the catalogue's ellipses; rules.md#seen.
    """
    numbers = catalogue.numbers
    reach = through.true_field_deg[0] / 2 + np.nan_to_num(numbers["major_arcmin"]) / 120
    near = catalogue.has_shape("cluster", "glow") & (_near(catalogue, frame, moment) < reach)
    rows = np.flatnonzero(near & np.isfinite(numbers["major_arcmin"]))
    is_target = rows == catalogue.row_of(target_key)
    seen = see_overhead(catalogue, rows, through, sky_mpsas, USUAL_FIELD_FACTOR)
    rows = rows[(seen.best >= WORDS[-1][1]) | is_target]
    rows = rows[np.argsort(numbers["magnitude"][rows], kind="stable")][:MOST_OBJECTS]
    directions = catalogue.directions[rows] @ moment.to_date.T
    places = frame.place(directions)
    scale = np.radians(1 / 120) / frame.field_radius
    angles = np.nan_to_num(numbers["position_angle_deg"])
    return [
        DiscObject(
            label=catalogue.labels[row],
            kind=catalogue.kinds[row],
            shape=KINDS[catalogue.kinds[row]].shape,
            x=round(x, 4),
            y=round(y, 4),
            major=float(numbers["major_arcmin"][row] * scale),
            minor=float(numbers["minor_arcmin"][row] * scale),
            angle_deg=frame.angle_deg(direction, _along(direction, angles[row])),
            is_target=catalogue.keys[row] == target_key,
        )
        for row, direction, (x, y) in zip(rows.tolist(), directions, places.tolist(), strict=True)
    ]


def bodies_of(frame: Frame, track: Track, moment: Moment) -> list[DiscBody]:
    """Return Moon and planets whose discs reach into the field.  Source: rules.md#disc."""
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
                moons=_moons(frame, directions[number], moment, radius, float(distances[number]))
                if body.name == "jupiter"
                else [],
            )
        )
    return result


def _moons(
    frame: Frame, jupiter: Floats, moment: Moment, radius: float, distance_au: float
) -> list[DiscStar]:
    """Return Jupiter's bright moons on the disc; those behind the planet are left out."""
    pole = pole_direction("jupiter")
    assert pole is not None
    of_date = moment.to_date @ pole
    north = of_date - (of_date @ jupiter) * jupiter
    north = north / np.linalg.norm(north)
    west = np.cross(jupiter, north)
    icrs = moment.to_date.T @ jupiter
    found = jovian_moons(moment.moment_utc, icrs, distance_au)
    shown = [moon for moon in found if not moon.is_hidden]
    steps = [radius * (m.west_radii * west + m.north_radii * north) for m in shown]
    places = frame.place(np.array([jupiter + step for step in steps])).tolist() if shown else []
    return [
        DiscStar(x=round(x, 5), y=round(y, 5), mag=5.5, name=moon.name)
        for (x, y), moon in zip(places, shown, strict=True)
    ]
