"""What a first-time looker will really see: one honest sentence, nothing only a camera saw."""

from dataclasses import dataclass
from math import log10

from jade_perch.core.constants import DAWES_ARCSEC_MM
from jade_perch.core.sky.seen import STARRY, THIRD_STAR_MAG, Word, pair_needs_arcsec
from jade_perch.core.sky.targets import Target

GLOBULAR_STARS_MAG = 6.0  # a globular's brightest stars are so much fainter than all of it; typical
STARS_A_MAG = 0.35  # log10 of how many more stars a magnitude deeper shows in a cluster; typical
MOST_STARS = 300  # nobody counts farther
BRIGHTER_MIDDLE = 0.08  # light share of the middle tenth from which a middle looks brighter; ours
STREAK, OVAL = 3.0, 1.4  # how many times longer than wide; our words
SMALL_ARCMIN = 15.0  # seen so small at the eye a patch is easily taken for a star; our choice
BELTS_MM, GAP_MM, CAP_MM = 50.0, 80.0, 80.0  # apertures that show belts, ring gap, polar cap; ours
PLANET_WORDS: dict[str, tuple[tuple[float, str], ...]] = {
    "jupiter": (
        (0.0, "A small disc with up to four moons in a line."),
        (BELTS_MM, "A disc with two dark belts and up to four moons in a line."),
        (150.0, "A disc with several belts, their edges uneven, and up to four moons."),
    ),
    "saturn": (
        (0.0, "A small disc in a ring, as from a picture book."),
        (GAP_MM, "The ring with its dark gap where it is widest, and one moon beside it."),
        (150.0, "The ring with its dark gap, a belt on the disc, two or three moons."),
    ),
    "mars": (
        (0.0, "A small bright disc; markings want a near Mars and calm air."),
        (CAP_MM, "A small disc, a pale cap and dusky markings in calm moments."),
    ),
    "venus": ((0.0, "A dazzling disc with a phase, and nothing on it."),),
    "mercury": ((0.0, "A tiny disc with a phase, boiling in low air."),),
    "uranus": ((0.0, "A tiny even disc, unlike the stars around it at high power."),),
    "neptune": ((0.0, "A tiny dot, hardly a disc at high power."),),
}


@dataclass(frozen=True, slots=True)
class Look:
    """One target through one rung: the word for it, and what the rung gives."""

    target: Target
    word: Word
    magnification: float
    true_field_deg: float
    faintest_mag: float
    aperture_mm: float
    core_light: float
    third_star_mag: float | None = None


def expected(look: Look) -> str:
    """Return what will be seen at the eyepiece, in one sentence.

    Source: rules.md#seen; the words are ours.
    """
    kind = look.target.kind
    if look.word == "not from here":
        return "Nothing to be seen of it from here tonight."
    if kind == "moon":
        return "Craters and peaks along the shadow line, standing out in the low light."
    if kind == "Moon feature":
        return _moon_feature(look)
    if kind == "planet":
        steps = PLANET_WORDS[look.target.body or "venus"]
        return [words for least_mm, words in steps if look.aperture_mm >= least_mm][-1]
    if kind == "star":
        return "A point of light at any power: look at its steadiness, and sharpen the focus on it."
    if kind == "double star":
        return _pair(look)
    if kind in STARRY:
        return _cluster(look)
    return _glow(look)


def _moon_feature(look: Look) -> str:
    if look.target.detail.startswith("crater"):
        return "A ring with a lit wall and a shadow in it, while the Sun stands low there."
    return "Light and shade along the shadow line; flat and pale under a high Sun."


def _pair(look: Look) -> str:
    separation = look.target.separation_arcsec or 0.0
    first, second = look.target.magnitude or 0.0, look.target.companion_mag or 0.0
    if separation < DAWES_ARCSEC_MM / look.aperture_mm:
        return "One star, at best a little long: this aperture does not split it."
    if separation * look.magnification < pair_needs_arcsec(first, second):
        return "Two stars nearly touching; they part in calm moments."
    alike = "two like points" if abs(second - first) < 0.5 else "a bright star and a fainter one"
    return f"Cleanly {alike}, {separation * look.magnification / 60:.0f}′ apart at the eye."


def stars_shown(look: Look) -> int:
    """Return about how many of a cluster's stars a rung shows.

    Source: rules.md#seen: three at the third star's magnitude, and more by a typical law.
    """
    third = look.third_star_mag
    if third is None:
        third = (look.target.magnitude or 0.0) + THIRD_STAR_MAG
    deeper = look.faintest_mag - third
    if deeper < 0:
        return 0
    return min(MOST_STARS, round(10 ** (log10(3) + STARS_A_MAG * deeper)))


def _cluster(look: Look) -> str:
    count, share = stars_shown(look), _share(look)
    misty = " in a faint mist" if look.target.kind in ("cluster with nebula", "star cloud") else ""
    if count < 3:
        return f"A misty patch without single stars, {share}."
    many = f"some {_rounded(count)} stars" if count >= 10 else "a handful of stars"
    return f"{many[:1].upper()}{many[1:]}{misty}, {share}."


def _rounded(count: int) -> int:
    step = 10 if count < 100 else 50
    return max(10, round(count / step) * step)


def _glow(look: Look) -> str:
    adjective = {
        "easy": "bright ",
        "clear": "",
        "with care": "faint ",
        "at the limit": "very faint ",
    }[look.word]
    major = (look.target.major_arcmin or 0.0) * look.magnification
    minor = (look.target.minor_arcmin or look.target.major_arcmin or 0.0) * look.magnification
    long = major / minor if minor else 1.0
    if look.target.kind == "globular cluster":
        is_grainy = look.faintest_mag >= (look.target.magnitude or 99.0) + GLOBULAR_STARS_MAG
        shape = (
            "round glow, grainy with stars at its edges" if is_grainy else "round glow, no stars"
        )
    elif look.target.kind == "planetary nebula":
        shape = "tiny grey disc, easily taken for a star" if major < SMALL_ARCMIN else "grey disc"
    else:
        shape = (
            "grey streak" if long >= STREAK else "grey oval" if long >= OVAL else "round grey glow"
        )
    middle = ", brighter in the middle" * (
        look.core_light >= BRIGHTER_MIDDLE and look.target.kind == "galaxy"
    )
    words = f"a {adjective}{shape}{middle}, {_share(look)}"
    ends = {
        "with care": "; look a little beside it.",
        "at the limit": "; look beside it and let the tube tremble.",
    }
    return f"{words[:1].upper()}{words[1:]}{ends.get(look.word, '.')}"


def _share(look: Look) -> str:
    """Return how much of the field a target takes, in words."""
    share = (look.target.major_arcmin or 0.0) / 60 / look.true_field_deg
    steps = (
        (0.04, "a speck in the field"),
        (0.12, "less than a tenth of the field"),
        (0.28, "about a fifth of the field"),
        (0.42, "about a third of the field"),
        (0.60, "half the field"),
        (1.00, "most of the field"),
    )
    return next((words for most, words in steps if share < most), "larger than the field")
