"""How to find a target: from which star by eye, how far in the finder, as this finder shows it."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.finderview import finder_field_deg
from jade_perch.core.evening.disc import DiscStar, Frame, stars_of
from jade_perch.core.evening.view import base_of, where_is
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Finder
from jade_perch.core.optics.orientation import finder_orientation
from jade_perch.core.optics.viewer import Viewer, naked_limit_mag
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.ephemeris import (
    INDEX,
    BodyName,
    Moment,
    Track,
    local_altaz_deg,
    make_moment,
)
from jade_perch.core.sky.sources import BODY_MAG
from jade_perch.core.sky.sunpath import sun_track
from jade_perch.core.sky.targets import Target
from jade_perch.core.skyline import is_behind

START_MAG = 3.5  # a star to start from is at least so bright; our choice
MAG_COSTS_DEG = 3.0  # each magnitude fainter is worth so much nearer; our choice
LOWEST_START_DEG = 10.0
NEAR_DEG = 0.1  # nearer it is the star itself
FIST_DEG, HAND_DEG, FINGER_DEG = 10.0, 20.0, 1.7  # at arm's length: fist, spread hand, a finger
EYE_FIELD_DEG, EYE_ROOM = 24.0, 1.7  # the eye's chart is so wide, or so many times the way
ONE_FIELD = 0.8  # of a finder's field within which both stand in it; our choice
FINDER_LIGHT = 0.8  # let through by a small finder; our estimate
FINDER_MM_A_POWER = 5.0  # the usual finder's aperture by its power: 6 × 30; our estimate
FINDER_BODIES: tuple[BodyName, ...] = ("venus", "mars", "jupiter", "saturn")


class Chart(Frozen):
    """A round chart in field radii, right and up as it is seen; the start may lie outside it."""

    title: str
    field_deg: float
    stars: list[DiscStar]
    target_x: float
    target_y: float
    start_x: float
    start_y: float
    words: str


class FindingPath(Frozen):
    """The way to a target at a moment; ``charts`` are the eye's and each finder's on the tube."""

    at_utc: datetime
    start_label: str
    away_deg: float
    charts: list[Chart]


@dataclass(frozen=True, slots=True)
class _Way:
    """Where one starts and where one goes: unit vectors in the equator of date."""

    label: str
    start: Floats
    target: Floats
    away_deg: float


def make_path(
    catalogue: Catalogue,
    site: Site,
    target: Target,
    finders: Sequence[Finder],
    viewer: Viewer,
    at_utc: datetime,
) -> FindingPath | None:
    """Return the way to a target from a bright star that stands clear; None where none does.

    Source: rules.md#finding.
    """
    moment, track = make_moment(at_utc), sun_track(site, at_utc)
    toward, _ = where_is(target, track, moment)
    way = _way(catalogue, site, toward, moment, track, viewer)
    if way is None:
        return None
    eye = _eye_chart(catalogue, site, way, moment, viewer)
    seen = [_finder_chart(catalogue, site, way, moment, viewer, one) for one in finders]
    return FindingPath(
        at_utc=at_utc, start_label=way.label, away_deg=way.away_deg, charts=[eye, *seen]
    )


def _way(
    catalogue: Catalogue,
    site: Site,
    toward: Floats,
    moment: Moment,
    track: Track,
    viewer: Viewer,
) -> _Way | None:
    """Return the best start: bright and near, over the skyline."""
    magnitude = catalogue.numbers["magnitude"]
    rows = np.flatnonzero(
        catalogue.has_shape("point", "pair")
        & (magnitude <= min(START_MAG, naked_limit_mag(viewer) - 0.5))
    )
    places = catalogue.directions[rows] @ moment.to_date.T
    at = np.array([moment.moment_utc.timestamp()])
    moving = [INDEX[name] for name in FINDER_BODIES]
    places = np.concatenate([places, track.directions(at)[moving, :, 0]])
    labels = [*(catalogue.labels[row] for row in rows.tolist()), *map(str.title, FINDER_BODIES)]
    bright = np.concatenate([magnitude[rows], [BODY_MAG[name] for name in FINDER_BODIES]])
    altitude, azimuth = local_altaz_deg(site, places.T, moment.sidereal_deg)
    clear = (altitude > LOWEST_START_DEG) & ~is_behind(site.skyline, altitude, azimuth)
    if not clear.any():
        return None
    away = np.degrees(np.arccos(np.clip(places @ toward, -1, 1)))
    cost = np.where(clear, away + MAG_COSTS_DEG * np.maximum(bright, 0.0), np.inf)
    best = int(np.argmin(cost))
    return _Way(labels[best], places[best], toward, float(away[best]))


def _chart_frame(
    middle: Floats, moment: Moment, site: Site, matrix: Floats, field_deg: float
) -> Frame:
    base = base_of(middle / np.linalg.norm(middle), moment, site)
    radius = float(np.tan(np.radians(field_deg / 2)))
    return Frame(base.toward, base.right, base.up, matrix, radius)


def _eye_chart(
    catalogue: Catalogue, site: Site, way: _Way, moment: Moment, viewer: Viewer
) -> Chart:
    field_deg = max(EYE_FIELD_DEG, EYE_ROOM * way.away_deg)
    frame = _chart_frame(way.start + way.target, moment, site, np.eye(2), field_deg)
    if way.away_deg < NEAR_DEG:
        words = f"It is {way.label} itself, plain to the eye."
    else:
        words = f"From {way.label} {distance_words(way.away_deg)} toward {_clock(frame, way)}."
    stars = stars_of(catalogue, frame, moment, naked_limit_mag(viewer), field_deg)
    return _chart("By eye", field_deg, stars, frame, way, words)


def _finder_chart(
    catalogue: Catalogue,
    site: Site,
    way: _Way,
    moment: Moment,
    viewer: Viewer,
    finder: Finder,
) -> Chart:
    field_deg, _ = finder_field_deg(finder)
    shown = finder_orientation(finder.kind, finder.eyepiece_side)
    frame = _chart_frame(way.target, moment, site, np.array(shown.matrix), field_deg)
    power = 1.0 if finder.traits.is_sight else finder.power
    limit = naked_limit_mag(viewer)
    if power > 1:
        wide = FINDER_MM_A_POWER * power / viewer.pupil.pupil_mm
        limit += 2.5 * float(np.log10(FINDER_LIGHT * max(1.0, wide) ** 2))
    stars = stars_of(catalogue, frame, moment, limit, field_deg)
    view = finder.traits.view
    title = finder.name if view == "upright" else f"{finder.name}, {view}"
    return _chart(title, field_deg, stars, frame, way, _finder_words(frame, way, field_deg))


def _finder_words(frame: Frame, way: _Way, field_deg: float) -> str:
    """Return how far and which way, in what this finder shows."""
    if way.away_deg < NEAR_DEG:
        return f"Put {way.label} in the middle."
    goes = _clock(frame, way)
    if way.away_deg <= ONE_FIELD * field_deg:
        share = way.away_deg / field_deg
        part = "a quarter" if share < 0.33 else "half" if share < 0.6 else "most"
        return f"Both stand in one field: go {part} of it from {way.label} toward {goes}."
    fields = way.away_deg / field_deg
    count = f"{fields:.1f}" if fields < 3 else f"{fields:.0f}"
    return f"From {way.label} go {count} fields toward {goes}."


def _clock(frame: Frame, way: _Way) -> str:
    """Return the direction from start to target as a clock's hour, as the chart shows it."""
    (from_x, from_y), (to_x, to_y) = frame.place(np.array([way.start, way.target])).tolist()
    hour = round(float(np.degrees(np.arctan2(to_x - from_x, to_y - from_y))) / 30) % 12
    return f"{hour or 12} o'clock"


def distance_words(away_deg: float) -> str:
    """Return an angle in the sky as hands at arm's length tell it.

    Source: rules.md#finding.
    """
    if away_deg < 0.75 * FINGER_DEG:
        return "less than a finger's width"
    if away_deg < 0.55 * FIST_DEG:
        fingers = max(1, round(away_deg / FINGER_DEG))
        return f"{fingers} fingers" if fingers > 1 else "a finger's width"
    if away_deg < 1.75 * FIST_DEG:
        halves = round(2 * away_deg / FIST_DEG)
        return {1: "half a fist", 2: "a fist", 3: "a fist and a half"}[halves]
    if away_deg < 1.15 * HAND_DEG:
        return "a spread hand"
    return f"{away_deg / FIST_DEG:.0f} fists"


def _chart(
    title: str,
    field_deg: float,
    stars: list[DiscStar],
    frame: Frame,
    way: _Way,
    words: str,
) -> Chart:
    (from_x, from_y), (to_x, to_y) = frame.place(np.array([way.start, way.target])).tolist()
    return Chart(
        title=title,
        field_deg=field_deg,
        stars=stars,
        target_x=to_x,
        target_y=to_y,
        start_x=from_x,
        start_y=from_y,
        words=words,
    )
