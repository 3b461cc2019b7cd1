"""Every target of a night through one's own glass: the margin, the best rung, and from when on."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from jade_perch.core.arrays import Floats, Integers, rows_of
from jade_perch.core.evening.choose import FIELD_ROOM
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.optics.neighbours import SAME
from jade_perch.core.optics.rungs import Rung, glasses_of
from jade_perch.core.optics.viewer import Viewer
from jade_perch.core.sky.brightness import CLASS_MPSAS, luminance_cd_m2
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.nightsky import NightSky
from jade_perch.core.sky.seen import STARRY, Glasses, Seen, Sources, see
from jade_perch.core.sky.sources import sources_of

# Exit pupils in mm that suit each kind; rules.md#choose.
SUITS_MM: dict[str, tuple[float, float]] = {
    "nebula": (4.0, 6.0),
    "supernova remnant": (4.0, 6.0),
    "star cloud": (4.0, 6.0),
    "cluster with nebula": (3.0, 5.0),
    "open cluster": (3.0, 5.0),
    "asterism": (3.0, 5.0),
    "galaxy": (2.0, 3.0),
    "globular cluster": (1.0, 2.0),
    "planetary nebula": (0.7, 1.5),
    "planet": (0.5, 1.0),
    "Moon feature": (0.5, 1.0),
    "double star": (0.7, 2.0),
    "star": (2.0, 5.0),
    "moon": (1.0, 6.0),
}
CLUSTER_ROOM = 2.0  # and for clusters, so that they stand in sky
OCTAVE_COSTS = 0.15  # of margin, for each doubling away from the pupil that suits; our choice
NO_ROOM_COSTS = 0.5  # of margin, where the field is too small to stand it in sky; our choice
MORE_APERTURE = 1.5  # so much more is the next size of telescope; our choice
DARKER_CLASS = 3  # a place in the country, an hour's drive; our choice
NAKED_EYE_FIELD_DEG = 100.0
MOST_TRIED = 16  # rungs a whole catalogue is ranked through; a step of a fifth in power


@dataclass(frozen=True, slots=True)
class Judged:
    """M targets at their best moments: rows of the catalogue, margins at the rung that is named.

    ``rung`` is the index among the rungs, ``part`` what of the target made it; ``entry`` the look
    in the night's sky.
    """

    rows: Integers
    entry: Integers
    margin: Floats
    rung: Integers
    part: Integers


def naked_eye(viewer: Viewer) -> Glasses:
    """Return the eye alone as a glass.  Source: rules.md#seen: everything is one."""
    one = np.ones(1)
    return Glasses(one, one * NAKED_EYE_FIELD_DEG, one, one, one * viewer.pupil.pupil_mm)


def usable_rungs(ladder: Ladder | None) -> list[Rung]:
    """Return the rungs that tonight's air and the whole aperture allow, weakest first.

    Where the air forbids all of them the weakest is left; without a ladder there are none.

    Source: rules.md#choose.
    """
    if ladder is None:
        return []
    full = [one for one in ladder.rungs if not one.is_masked]
    most = ladder.air_magnification * SAME
    return [one for one in full if one.magnification <= most] or full[:1]


def glasses_for(rungs: Sequence[Rung], viewer: Viewer) -> Glasses:
    """Return what is looked through: some rungs, and without any the eye alone.

    Source: rules.md#prospects.
    """
    return glasses_of(rungs) if rungs else naked_eye(viewer)


def columns_of(glasses: Glasses) -> tuple[tuple[float, ...], ...]:
    """Return glasses as numbers that can be told apart and made glasses again.

    Source: the columns, in their order.
    """
    return tuple(tuple(getattr(glasses, name).tolist()) for name in Glasses.__slots__)


def thinned(glasses: Glasses) -> Glasses:
    """Return a few of many rungs, spread evenly by power, to rank a whole catalogue by.

    What is shown in the end is judged through all of them.

    Source: rules.md#prospects; our choice.
    """
    count = glasses.magnification.size
    if count <= MOST_TRIED:
        return glasses
    order = np.argsort(glasses.magnification, kind="stable")
    steps = np.log(glasses.magnification[order])
    wanted = np.linspace(steps[0], steps[-1], MOST_TRIED)
    kept = order[np.unique(np.abs(steps[np.newaxis] - wanted[:, np.newaxis]).argmin(axis=1))]
    return rows_of(glasses, kept)


def judge(
    catalogue: Catalogue, sky: NightSky, rows: Integers, glasses: Glasses, field_factor: float
) -> Judged:
    """Return targets that can be looked at tonight, each at its best moment on its best rung.

    Rows that never can be looked at are left out.

    Source: rules.md#seen; rules.md#choose for the rung.
    """
    entry = sky.best[rows]
    rows, entry = rows[entry >= 0], entry[entry >= 0]
    sources = sources_of(catalogue, rows)
    seen = see(sources, glasses, sky.sky_cd_m2[entry], sky.dimmed_mag[entry], field_factor)
    rung = best_rung(catalogue, rows, sources, glasses, seen)
    at = np.arange(len(rows)), rung
    return Judged(rows, entry, seen.margin[at], rung, seen.part[at])


def best_rung(
    catalogue: Catalogue, rows: Integers, sources: Sources, glasses: Glasses, seen: Seen
) -> Integers:
    """Return which rung is named: the best margin, less what suits neither kind nor field.

    Source: rules.md#prospects.
    """
    suits, room = (column[rows] for column in _wishes_of_kinds(catalogue))
    pupil = glasses.working_aperture_mm / glasses.magnification
    octaves = np.maximum(np.log2(suits[:, :1] / pupil), np.log2(pupil / suits[:, 1:])).clip(min=0.0)
    wide = np.nan_to_num(sources.major_arcmin) / 60 * room
    tight = glasses.true_field_deg[np.newaxis] < wide[:, np.newaxis]
    score = np.minimum(seen.margin, 1.5) - OCTAVE_COSTS * octaves - NO_ROOM_COSTS * tight
    return np.asarray(score.argmax(axis=1))


@lru_cache(maxsize=2)
def _wishes_of_kinds(catalogue: Catalogue) -> tuple[Floats, Floats]:
    """Return what each kind wishes for, a row each: the pupils that suit, (N, 2), and its room."""
    kinds = catalogue.kinds
    suits = np.array([SUITS_MM[kind] for kind in kinds], dtype=float).reshape(-1, 2)
    room = np.array([CLUSTER_ROOM if kind in STARRY else FIELD_ROOM for kind in kinds], dtype=float)
    return suits, room


def course(
    catalogue: Catalogue, sky: NightSky, judged: Judged, glasses: Glasses, field_factor: float
) -> list[tuple[Integers, Floats]]:
    """Return for each judged target its looks in time order, and the margin at each.

    Each through the rung that was named for it.

    Source: rules.md#seen.
    """
    looks = [np.arange(*sky.looks(row).indices(sky.row.size)) for row in judged.rows.tolist()]
    found = []
    sources = sources_of(catalogue, judged.rows)
    for number, entries in enumerate(looks):
        one = rows_of(sources, np.full(entries.size, number))
        glass = rows_of(glasses, judged.rung[number : number + 1])
        seen = see(one, glass, sky.sky_cd_m2[entries], sky.dimmed_mag[entries], field_factor)
        found.append((entries, seen.margin[:, 0]))
    return found


@dataclass(frozen=True, slots=True)
class Gains:
    """What each change alone would add to the margins of M targets; NaN where there is none."""

    more_power: Floats
    less_power: Floats
    darker_place: Floats
    moon_gone: Floats
    more_aperture: Floats


def gains(
    catalogue: Catalogue, sky: NightSky, judged: Judged, glasses: Glasses, field_factor: float
) -> Gains:
    """Return what would help each judged target, by the same model asked again.

    Source: rules.md#seen.
    """
    sources = sources_of(catalogue, judged.rows)
    behind, dimmed = sky.sky_cd_m2[judged.entry], sky.dimmed_mag[judged.entry]
    country = luminance_cd_m2(CLASS_MPSAS[DARKER_CLASS])
    at = np.arange(len(judged.rows)), judged.rung

    def _asked(glass: Glasses, sky_cd_m2: Floats) -> Floats:
        return see(sources, glass, sky_cd_m2, dimmed, field_factor).margin

    own = _asked(glasses, behind)
    edge = np.full((len(judged.rows), 1), np.nan)
    beside = np.concatenate([edge, own, edge], axis=1)
    bigger = replace(
        glasses,
        magnification=glasses.magnification * MORE_APERTURE,
        true_field_deg=glasses.true_field_deg / MORE_APERTURE,
        star_gain=glasses.star_gain * MORE_APERTURE**2,
        working_aperture_mm=glasses.working_aperture_mm * MORE_APERTURE,
    )
    return Gains(
        more_power=beside[at[0], judged.rung + 2] - judged.margin,
        less_power=beside[at[0], judged.rung] - judged.margin,
        darker_place=_asked(glasses, np.minimum(behind, country))[at] - judged.margin,
        moon_gone=_asked(glasses, np.minimum(behind, sky.moonless_cd_m2[judged.entry]))[at]
        - judged.margin,
        more_aperture=_asked(bigger, behind)[at] - judged.margin,
    )
