"""What a telescope can show before any evening: from one's usual place, and from a dark one."""

from dataclasses import dataclass

import numpy as np

from jade_perch.core.arrays import Floats, Integers
from jade_perch.core.constants import DAWES_ARCSEC_MM
from jade_perch.core.evening.expect import GLOBULAR_STARS_MAG, expected
from jade_perch.core.evening.judging import best_rung, usable_rungs
from jade_perch.core.evening.prospect import look_through
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Telescope
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.optics.rungs import Rung, glasses_of
from jade_perch.core.optics.viewer import Viewer, naked_limit_mag
from jade_perch.core.sky.brightness import CLASS_MPSAS, luminance_cd_m2
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.seen import WORDS, Glasses, Word, word_of
from jade_perch.core.sky.sources import see_overhead, sources_of
from jade_perch.core.sky.visibility import FAINTEST_CD_M2, TOO_DARK, star_limit_mag
from jade_perch.core.sums import Sum

DARK_CLASS = 2  # a dark place, well away from towns
KM_AN_ARCSEC = 1.86  # on the Moon at its mean distance: 384 400 km · sin 1″
CLEAR = WORDS[1][1]
# Well-known things that a newcomer has heard of, from bright to demanding.
EXAMPLES = ("M45", "M42", "M31", "M13", "M57", "M27", "M81", "M51", "M33", "M101")
CLASSES: tuple[tuple[str, tuple[str, ...], str], ...] = (
    ("Open clusters", ("open cluster", "cluster with nebula"), "as stars, or a mist with some"),
    ("Globular clusters", ("globular cluster",), ""),
    ("Galaxies", ("galaxy",), "as grey patches, without arms in most of them"),
    ("Nebulae", ("nebula", "supernova remnant"), "as pale clouds, without colour"),
    ("Planetary nebulae", ("planetary nebula",), "as small grey discs, many like stars"),
)


@dataclass(frozen=True, slots=True)
class Feature:
    """A classic detail: how wide it is in arcsec when well placed, and how it is said."""

    title: str
    width_arcsec: float
    shows: str


# Widths at a mean opposition or greatest elongation, rounded; a dark line shows somewhat narrower.
FEATURES = (
    Feature("Phases of Venus", 10.0, "a half or a crescent"),
    Feature("Jupiter's two belts", 3.0, "two dark bands"),
    Feature("Saturn's ring", 4.0, "a ring with sky between it and the disc"),
    Feature("Mars's polar cap", 2.5, "a pale spot, near a good opposition"),
    Feature("Saturn's ring gap", 0.7, "a thin dark line where the ring is widest"),
    Feature("Uranus as a disc", 3.7, "a tiny disc"),
    Feature("Shadows of Jupiter's moons", 1.0, "an ink dot on the disc"),
)
FEATURE_LIMITS = 1.0  # a detail shows from so many times what the aperture splits on


class ReachFeature(Frozen):
    """One classic detail and whether the aperture shows it."""

    title: str
    is_shown: bool
    words: str


class ReachClass(Frozen):
    """How many of a class show clearly, here and from a dark place, and as what."""

    title: str
    here: int
    dark: int
    words: str


class ReachExample(Frozen):
    """A well-known target: its words here and from a dark place, overhead, and what is seen."""

    label: str
    here: Word
    dark: Word
    expected: str


class Reach(Frozen):
    """What a telescope can show; ``place`` is the usual place's name, empty without one."""

    telescope: str
    place: str
    here_mpsas: float
    dark_mpsas: float
    faintest_here_mag: float
    faintest_dark_mag: float
    faintest_sum: Sum
    finest_arcsec: float
    finest_moon_km: float
    finest_sum: Sum
    features: list[ReachFeature]
    classes: list[ReachClass]
    examples: list[ReachExample]


def make_reach(
    telescope: Telescope, place: str, ladder: Ladder, viewer: Viewer, catalogue: Catalogue
) -> Reach | None:
    """Return what a telescope can show with one's eyepieces, or None without any.

    Everything is taken as overhead on a moonless night.

    Source: rules.md#reach.
    """
    rungs = usable_rungs(ladder)
    if not rungs:
        return None
    glasses = glasses_of(rungs)
    dark_mpsas = max(viewer.sky_mpsas, CLASS_MPSAS[DARK_CLASS])
    rows = np.flatnonzero(catalogue.has_shape("cluster", "glow"))
    skies = viewer.sky_mpsas, dark_mpsas
    margins = [
        see_overhead(catalogue, rows, glasses, mpsas, viewer.field_factor).best for mpsas in skies
    ]
    faintest = [_faintest_mag(glasses, mpsas, viewer) for mpsas in skies]
    finest = DAWES_ARCSEC_MM / telescope.aperture_mm
    return Reach(
        telescope=telescope.name,
        place=place,
        here_mpsas=viewer.sky_mpsas,
        dark_mpsas=dark_mpsas,
        faintest_here_mag=faintest[0],
        faintest_dark_mag=faintest[1],
        faintest_sum=_faintest_sum(rungs, faintest, skies, viewer),
        finest_arcsec=finest,
        finest_moon_km=finest * KM_AN_ARCSEC,
        finest_sum=_finest_sum(telescope, finest),
        features=[_feature(one, finest) for one in FEATURES],
        classes=_classes(catalogue, rows, margins, faintest),
        examples=_examples(catalogue, rungs, glasses, viewer, dark_mpsas),
    )


def _faintest_mag(glasses: Glasses, sky_mpsas: float, viewer: Viewer) -> float:
    behind = luminance_cd_m2(sky_mpsas) * glasses.relative_brightness
    return float(star_limit_mag(behind, glasses.star_gain, 1.0, 1.0, viewer.field_factor).max())


def _feature(one: Feature, finest_arcsec: float) -> ReachFeature:
    is_shown = one.width_arcsec >= FEATURE_LIMITS * finest_arcsec
    size = f"{one.width_arcsec:g}″ against {finest_arcsec:.1f}″"
    return ReachFeature(
        title=one.title,
        is_shown=is_shown,
        words=f"{size}: {one.shows}." if is_shown else f"{size}: too fine for this aperture.",
    )


def _classes(
    catalogue: Catalogue, rows: Integers, margins: list[Floats], faintest_mag: list[float]
) -> list[ReachClass]:
    kinds = np.array([catalogue.kinds[row] for row in rows.tolist()])
    magnitude = catalogue.numbers["magnitude"][rows]
    found = []
    for title, names, words in CLASSES:
        mine = np.isin(kinds, names)
        counts = [int((one[mine] >= CLEAR).sum()) for one in margins]
        if names == ("globular cluster",):
            grainy = [
                int((mine & (magnitude + GLOBULAR_STARS_MAG <= limit)).sum())
                for limit in faintest_mag
            ]
            words = f"as round glows; stars at the edges of {grainy[0]} here, {grainy[1]} there"
        found.append(ReachClass(title=title, here=counts[0], dark=counts[1], words=words))
    return found


def _examples(
    catalogue: Catalogue,
    rungs: list[Rung],
    glasses: Glasses,
    viewer: Viewer,
    dark_mpsas: float,
) -> list[ReachExample]:
    rows = np.array([catalogue.row_of(name) for name in EXAMPLES], dtype=int)
    sources = sources_of(catalogue, rows)
    words = []
    for mpsas in (viewer.sky_mpsas, dark_mpsas):
        seen = see_overhead(catalogue, rows, glasses, mpsas, viewer.field_factor)
        named = best_rung(catalogue, rows, sources, glasses, seen)
        words.append([(word_of(float(seen.margin[n, r])), int(r)) for n, r in enumerate(named)])
    result = []
    for number, row in enumerate(rows.tolist()):
        (here, rung), (dark, other) = words[0][number], words[1][number]
        word, used = (here, rungs[rung]) if here != "not from here" else (dark, rungs[other])
        look = look_through(catalogue, row, catalogue.target(row), word, used)
        result.append(
            ReachExample(label=catalogue.labels[row], here=here, dark=dark, expected=expected(look))
        )
    return result


def _faintest_sum(
    rungs: list[Rung], faintest_mag: list[float], skies_mpsas: tuple[float, float], viewer: Viewer
) -> Sum:
    naked = [naked_limit_mag(viewer, mpsas) for mpsas in skies_mpsas]
    behind = min(luminance_cd_m2(skies_mpsas[1]) * one.relative_brightness for one in rungs)
    clamped = f" {TOO_DARK}" if behind < FAINTEST_CD_M2 else ""
    gain = [deep - eye for deep, eye in zip(faintest_mag, naked, strict=True)]
    return Sum(
        title="Faintest star",
        formula="naked-eye limit + what the telescope gains, on the best of the rungs",
        worked=f"here {naked[0]:.1f} + {gain[0]:.1f}; dark {naked[1]:.1f} + {gain[1]:.1f}, "
        f"among {len(rungs)} rungs; f = {viewer.field_factor:g}",
        result=f"magnitude {faintest_mag[0]:.1f} here, {faintest_mag[1]:.1f} from a dark place",
        source="Crumey 2014, MNRAS 442:2600",
        rule="threshold",
        sureness="estimate",
        note=f"Sky {skies_mpsas[0]:.1f} and {skies_mpsas[1]:.1f} mag/arcsec², overhead, no Moon; "
        f"half a magnitude either way.{clamped}",
    )


def _finest_sum(telescope: Telescope, finest_arcsec: float) -> Sum:
    moon_km = finest_arcsec * KM_AN_ARCSEC
    return Sum(
        title="Finest detail",
        formula="116″ ÷ aperture in mm; on the Moon 1.86 km an arcsecond",
        worked=f"116 ÷ {telescope.aperture_mm:g} = {finest_arcsec:.2f}″; "
        f"{finest_arcsec:.2f} · {KM_AN_ARCSEC:g} km",
        result=f"{finest_arcsec:.2f}″, about {moon_km:.2g} km on the Moon",
        source="Sidgwick, resolution of equal doubles (Dawes)",
        rule="resolution",
        sureness="about",
        note="In calm air; long dark lines show somewhat finer. More power adds none.",
    )
