"""The whole sky at a moment on one round map: named stars, Moon and planets, what is planned."""

from collections.abc import Sequence
from datetime import datetime

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.evening.plan import Block
from jade_perch.core.evening.prospects import NUMBER_ONLY, is_classic
from jade_perch.core.fields import Frozen
from jade_perch.core.moments import clock_time, day_words
from jade_perch.core.optics.viewer import Viewer, naked_limit_mag
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import Catalogue, stars
from jade_perch.core.sky.ephemeris import BODIES, BodyName, Moment, make_moment
from jade_perch.core.sky.night import Night, night_track, require_inside
from jade_perch.core.sky.sources import BODY_MAG
from jade_perch.core.skyline import is_behind, skyline_deg

FAINTEST_MAG = 4.8  # more stars hide the figures of the bright ones; our choice
NAMED_MAG, MOST_NAMED = 2.6, 44  # stars with a word beside them; more words than that collide
DAYLIGHT_DEG = -6.0  # a higher Sun hides the stars a map could start from; civil twilight
SKYLINE_STEP_DEG = 3.0


class SkyDot(Frozen):
    """Something on the map: right and up in radii of it, north up and east left."""

    x: float
    y: float
    mag: float
    label: str = ""


class SkyCard(Frozen):
    """The map of a moment; ``skyline`` are the points of what stands around, from north."""

    title: str
    subtitle: str
    stars: list[SkyDot]
    named: list[SkyDot]
    bodies: list[SkyDot]
    targets: list[SkyDot]
    skyline: list[tuple[float, float]]
    words: str
    planned: list[str]


def make_sky(
    catalogue: Catalogue,
    site: Site,
    night: Night,
    viewer: Viewer,
    at_utc: datetime,
    blocks: Sequence[Block] = (),
) -> SkyCard:
    """Return the sky over a place at a moment of a night, what the skyline hides left out.

    ``blocks`` are the plan's, marked where they stand then and told by their times.

    Raises ``OutOfRange`` for a moment outside the night.

    Source: rules.md#paper; equal distances from the zenith.
    """
    require_inside(night, at_utc)
    moment, track = make_moment(at_utc), night_track(site, night.date)
    high, around = (values[:, 0] for values in track.altaz_deg(np.array([at_utc.timestamp()])))
    names = [one.name for one in BODIES]
    sun_deg = float(high[names.index("sun")])
    table = stars()
    limit = min(FAINTEST_MAG, naked_limit_mag(viewer)) if sun_deg < DAYLIGHT_DEG else -np.inf
    shown = table.magnitude <= limit
    dots = _dots(site, *moment.altaz_deg(site, table.directions[shown]), table.magnitude[shown])
    planned = [one for one in blocks if one.kind == "target" and one.target_key is not None]
    keys = [catalogue.row_of(one.target_key or "") for one in planned]
    rows = [row for row in keys if row is not None and catalogue.bodies[row] is None]
    where = moment.altaz_deg(site, catalogue.directions[rows])
    mags = np.nan_to_num(catalogue.numbers["magnitude"][rows])
    labels = [_short(catalogue.labels[row]) for row in rows]
    return SkyCard(
        title=f"The sky at {clock_time(at_utc, site.zone)}",
        subtitle=f"{day_words(night.date)}, {site.name}",
        stars=dots,
        named=_named(catalogue, site, moment, limit),
        bodies=_bodies(site, names, high, around),
        targets=_dots(site, *where, mags, labels),
        skyline=_skyline(site),
        words=_words(sun_deg, limit),
        planned=[f"{clock_time(one.starts_utc, site.zone)}  {one.label}" for one in planned],
    )


def _short(label: str) -> str:
    """Return a label's number where it is one of the classic list, for a crowded map."""
    first = label.split()[0]
    return first if is_classic(first) else label


def _place(high_deg: float, around_deg: float) -> tuple[float, float]:
    out, turn = (90 - high_deg) / 90, np.radians(around_deg)
    return round(float(-out * np.sin(turn)), 4), round(float(out * np.cos(turn)), 4)


def _dots(
    site: Site, high: Floats, around: Floats, mags: Floats, labels: Sequence[str] = ()
) -> list[SkyDot]:
    """Return what stands clear as dots."""
    clear = (high > 0) & ~is_behind(site.skyline, high, around)
    return [
        SkyDot(x=x, y=y, mag=round(float(mags[number]), 2), label=labels[number] if labels else "")
        for number in np.flatnonzero(clear).tolist()
        for x, y in [_place(float(high[number]), float(around[number]))]
    ]


def _named(catalogue: Catalogue, site: Site, moment: Moment, limit_mag: float) -> list[SkyDot]:
    """Return the bright stars that have a name, the brightest first."""
    magnitude = catalogue.numbers["magnitude"]
    bright = catalogue.has_shape("point", "pair") & (magnitude <= min(NAMED_MAG, limit_mag))
    rows = [
        row
        for row in np.flatnonzero(bright).tolist()
        if NUMBER_ONLY.fullmatch(catalogue.labels[row]) is None
    ]
    rows.sort(key=lambda row: float(magnitude[row]))
    labels = [catalogue.labels[row] for row in rows]
    where = moment.altaz_deg(site, catalogue.directions[rows])
    return _dots(site, *where, magnitude[rows], labels)[:MOST_NAMED]


def _bodies(site: Site, names: Sequence[BodyName], high: Floats, around: Floats) -> list[SkyDot]:
    kept = [number for number, name in enumerate(names) if name != "sun" or high[number] > 0]
    mags = np.array([BODY_MAG.get(names[number], 0.0) for number in kept])
    labels = [names[number].title() for number in kept]
    return _dots(site, high[kept], around[kept], mags, labels)


def _skyline(site: Site) -> list[tuple[float, float]]:
    azimuths = np.arange(0, 360, SKYLINE_STEP_DEG)
    heights = np.clip(skyline_deg(site.skyline, azimuths), 0, 90)
    return [_place(float(h), float(a)) for h, a in zip(heights, azimuths, strict=True)]


def _words(sun_deg: float, limit_mag: float) -> str:
    held = "Hold it over you, north to the north: east and west are where they belong."
    if sun_deg > 0:
        return f"The Sun is up: never point anything at it, or near it. {held}"
    if not np.isfinite(limit_mag):
        return f"Too bright for stars to start from. {held}"
    return f"Stars to magnitude {limit_mag:.1f}. {held}"
