"""Will it be seen: every target through every glass, its light against the eye's threshold."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike

from jade_perch.core.arrays import Floats, Integers
from jade_perch.core.constants import BLUR_SEEN_ARCSEC, DAWES_ARCSEC_MM
from jade_perch.core.sky.brightness import ZERO_MPSAS_CD_M2
from jade_perch.core.sky.visibility import EyeAt, eye_at, star_limit_mag

Word = Literal["easy", "clear", "with care", "at the limit", "not from here"]
# log10 of light over threshold from which each word is said; set by the experiences of the tests
WORDS: tuple[tuple[Word, float], ...] = (
    ("easy", 0.95),
    ("clear", 0.50),
    ("with care", 0.25),
    ("at the limit", 0.0),
)
NOT_SEEN: Word = "not from here"
Part = Literal["whole", "half", "core", "stars", "point", "pair"]
PARTS: tuple[Part, ...] = ("whole", "half", "core", "stars", "point", "pair")
HALF_LIGHT_SHARE = (
    0.45  # half the light of a round glow comes from so much of its diameter; typical
)
CORE_SHARE = 0.1  # the middle tenth of the diameter; rules.md#seen
# Typical share of the light from that tenth, and how much more contrast an edge that fades wants.
CORE_LIGHT = {"galaxy": 0.06, "globular cluster": 0.10, "planetary nebula": 0.03, "nebula": 0.04}
EDGE = {"nebula": 1.6, "supernova remnant": 3.0, "cluster with nebula": 1.3, "star cloud": 1.3}
BIG_SHELL_ARCMIN, BIG_SHELL_EDGE = 3.0, 1.6  # a planetary nebula from so large on is a faint shell
THIRD_STAR_MAG = (
    3.9  # the third star of an open cluster is fainter than all of it by so much; typical
)
STARRY = ("open cluster", "cluster with nebula", "star cloud", "asterism")
FIELD_FOR_EDGE = 1.1  # a patch is told from the sky while the field is so many times its width
UNEQUAL_SHARE = 0.25  # so much more apart for each magnitude between two stars; our estimate
MISSING = -9.0  # a margin of what cannot be seen at all


@dataclass(frozen=True, slots=True)
class Sources:
    """What N targets send: arrays of length N, NaN where the catalogue does not know.

    ``edge`` is how many times more contrast the target wants than an even patch with an edge.
    """

    magnitude: Floats
    major_arcmin: Floats
    minor_arcmin: Floats
    core_light: Floats
    edge: Floats
    star_mag: Floats
    is_point: Floats
    separation_arcsec: Floats
    companion_mag: Floats


@dataclass(frozen=True, slots=True)
class Glasses:
    """What R rungs give: arrays of length R; ``star_gain`` is how many times brighter a star is."""

    magnification: Floats
    true_field_deg: Floats
    relative_brightness: Floats
    star_gain: Floats
    working_aperture_mm: Floats


@dataclass(frozen=True, slots=True)
class Seen:
    """Margins, log10 of light over threshold, and the part that gave them; shape (N, R)."""

    margin: Floats
    part: Integers

    @property
    def best(self) -> Floats:
        """The best margin of each target, shape (N,).  Source: rules.md#seen."""
        return np.asarray(self.margin.max(axis=1))


def word_of(margin: float) -> Word:
    """Return the word for a margin.  Source: rules.md#seen."""
    return next((word for word, least in WORDS if margin >= least), NOT_SEEN)


def pair_needs_arcsec(one_mag: ArrayLike, other_mag: ArrayLike) -> Floats:
    """Return how far apart at the eye two stars have to stand to look apart, in arcsec.

    Source: rules.md#resolution: the blur anybody notices, more where they are unequal.
    """
    steps = np.abs(np.asarray(other_mag, dtype=float) - np.asarray(one_mag, dtype=float))
    return np.asarray(BLUR_SEEN_ARCSEC * (1 + UNEQUAL_SHARE * steps))


def see(
    sources: Sources,
    glasses: Glasses,
    sky_cd_m2: ArrayLike,
    dimmed_mag: ArrayLike,
    field_factor: float,
) -> Seen:
    """Return how N targets stand against the threshold through R rungs.

    ``sky_cd_m2`` is the sky behind each target without the telescope and ``dimmed_mag`` what the
    air takes from it, shape (N,).  An even patch is tried whole, by its half-light part and by its
    middle tenth; a cluster also by its third star.  The best of them counts.

    Source: rules.md#seen; Crumey 2014, MNRAS 442:2600.
    """
    sky = np.asarray(sky_cd_m2, dtype=float)
    behind = sky[:, np.newaxis] * glasses.relative_brightness
    limit = star_limit_mag(behind, glasses.star_gain, 1.0, 1.0, field_factor)
    dimmed = np.asarray(dimmed_mag, dtype=float)
    light, eye = sources.magnitude + dimmed, eye_at(behind)
    trials = [
        _patch(sources, glasses, light, sky, eye, 1.0, np.ones(len(light))),
        _patch(sources, glasses, light, sky, eye, HALF_LIGHT_SHARE, np.full(len(light), 0.5)),
        _patch(sources, glasses, light, sky, eye, CORE_SHARE, sources.core_light),
    ]
    spread = [np.asarray(one - np.log10(field_factor)) for one in trials]
    single = 0.4 * (limit - light[:, np.newaxis])
    points = [
        0.4 * (limit - (sources.star_mag + dimmed)[:, np.newaxis]),
        np.where(sources.is_point[:, np.newaxis] > 0, single, np.nan),
        _pair(sources, glasses, limit, dimmed),
    ]
    margins = np.nan_to_num(np.stack([*spread, *points]), nan=MISSING, neginf=MISSING)
    best = margins.argmax(axis=0)
    return Seen(np.take_along_axis(margins, best[np.newaxis], axis=0)[0], best)


def _patch(
    sources: Sources,
    glasses: Glasses,
    light_mag: Floats,
    sky_cd_m2: Floats,
    eye: EyeAt,
    width_share: float,
    light_share: Floats,
) -> Floats:
    """Return the margin, for a perfect observer, of a part of an extended target; (N, R)."""
    area_arcsec2 = np.pi / 4 * sources.major_arcmin * sources.minor_arcmin * 3600 * width_share**2
    with np.errstate(divide="ignore", invalid="ignore"):
        surface = light_mag - 2.5 * np.log10(light_share) + 2.5 * np.log10(area_arcsec2)
        contrast = ZERO_MPSAS_CD_M2 * 10 ** (-0.4 * surface) / sky_cd_m2 / sources.edge
        area_sr = (area_arcsec2 * np.radians(1 / 3600) ** 2)[:, np.newaxis]
        threshold = eye.contrast(area_sr * glasses.magnification**2)
        margin = np.log10(contrast[:, np.newaxis] / threshold)
    width_deg = (sources.minor_arcmin * width_share / 60)[:, np.newaxis]
    return np.where(glasses.true_field_deg >= FIELD_FOR_EDGE * width_deg, margin, np.nan)


def _pair(sources: Sources, glasses: Glasses, limit_mag: Floats, dimmed_mag: Floats) -> Floats:
    """Return the margin of double stars: the fainter one has to be seen, and the two apart."""
    fainter = np.fmax(sources.companion_mag, sources.magnitude)
    needed = pair_needs_arcsec(sources.magnitude, sources.companion_mag)
    separation = sources.separation_arcsec[:, np.newaxis]
    apart = np.log10(separation * glasses.magnification / needed[:, np.newaxis]) + WORDS[1][1]
    seen = 0.4 * (limit_mag - (fainter + dimmed_mag)[:, np.newaxis])
    split = separation >= DAWES_ARCSEC_MM / glasses.working_aperture_mm
    return np.asarray(np.where(split, np.minimum(apart, seen), np.nan))
