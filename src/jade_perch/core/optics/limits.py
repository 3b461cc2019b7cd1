"""Where more power stops paying: the eye below, the aperture and the air above."""

from typing import Literal

import numpy as np

from jade_perch.core.constants import BLUR_SEEN_ARCSEC
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Observer

School = Literal["detail", "comfort", "steady"]
SCHOOL_EXIT_PUPIL_MM: dict[School, float] = {"detail": 1.0, "comfort": 0.7, "steady": 0.5}
SCHOOL_TITLES: dict[School, str] = {
    "detail": "every detail",
    "comfort": "comfortable",
    "steady": "steady night",
}
SCHOOL_WORDS: dict[School, str] = {
    "detail": "every detail is visible by here (1 mm exit pupil)",
    "comfort": "comfortable up to here (0.7 mm exit pupil)",
    "steady": "planets and doubles on a steady night (0.5 mm exit pupil)",
}

PUPIL_AGES_YEARS = (20.0, 40.0, 60.0, 80.0)
PUPILS_MM = (7.0, 6.0, 5.0, 4.5)
USUAL_AGE_YEARS = 40.0  # assumed when nobody has said how old the eye is

# Seeing disc (FWHM, arcsec) for the five steps of steadiness; our own estimate, said so on screen.
USUAL_STEADINESS = 3  # taken while nobody has judged tonight's air
SEEING_ARCSEC_BY_STEADINESS = {1: 4.0, 2: 3.0, 3: 2.0, 4: 1.5, 5: 1.0}

WIDE_MM, CLUSTER_MM = 4.0, 2.0  # exit pupils where one use gives way to the next; rules.md#schools
ROUNDING_MM = 1e-9  # so that 140/280 counts as the 0.5 mm it is

Band = Literal["wasted", "widest", "clusters", "all_round", "fine", "empty"]
BANDS_FROM_MM: tuple[tuple[Band, float], ...] = (
    ("widest", WIDE_MM),
    ("clusters", CLUSTER_MM),
    ("all_round", SCHOOL_EXIT_PUPIL_MM["detail"]),
    ("fine", SCHOOL_EXIT_PUPIL_MM["steady"]),
)


class BandEdge(Frozen):
    """A stretch of the ladder by exit pupil in mm, and the powers it spans.

    The ends that have no end, wasted light below and empty magnification above, are None.
    """

    band: Band
    low_mm: float
    high_mm: float | None
    low_magnification: float | None
    high_magnification: float | None
    words: str


class Ceiling(Frozen):
    """A power above which one school, or tonight's air, sees nothing gained."""

    name: Literal["detail", "comfort", "steady", "air"]
    title: str
    magnification: float
    words: str
    sure: bool


class EyePupil(Frozen):
    """The dark-adapted eye pupil in mm, and whether somebody measured it."""

    pupil_mm: float
    measured: bool
    words: str


def eye_pupil(observer: Observer | None) -> EyePupil:
    """Return the observer's eye pupil: measured, else about by age, else about for forty years.

    Source: means by age after the literature collected in Sidgwick; single eyes differ by 1 mm
    and more.
    """
    if observer is not None and observer.eye_pupil_mm is not None:
        words = f"{observer.eye_pupil_mm:g} mm, measured"
        return EyePupil(pupil_mm=observer.eye_pupil_mm, measured=True, words=words)
    known = observer is not None and observer.age_years is not None
    age = float(observer.age_years or 0) if observer is not None and known else USUAL_AGE_YEARS
    pupil = float(np.interp(age, PUPIL_AGES_YEARS, PUPILS_MM))
    who = f"by age {age:.0f}" if known else f"taken for an eye of {USUAL_AGE_YEARS:.0f} years"
    words = f"about {pupil:.1f} mm, {who}; eyes differ by 1 mm and more"
    return EyePupil(pupil_mm=pupil, measured=False, words=words)


def seeing_arcsec(steadiness: int) -> float:
    """Return the seeing disc in arcsec (FWHM) that goes with steadiness 1 (boiling) to 5 (calm).

    Source: rules.md#air.
    """
    return SEEING_ARCSEC_BY_STEADINESS[steadiness]


def air_limit(seeing_fwhm_arcsec: float) -> float:
    """Return the magnification at which a seeing disc in arcsec looks 4 arcmin wide.

    Source: rules.md#air: 40/s; the blur most people notice.
    """
    return BLUR_SEEN_ARCSEC / seeing_fwhm_arcsec


def ceilings(
    aperture_mm: float,
    steadiness: int | None,
    *,
    air_is_told: bool = False,
    learned_magnification: float | None = None,
    learned_words: str = "",
) -> list[Ceiling]:
    """Return the three schools' ceilings for an aperture in mm, and the air's for tonight.

    ``steadiness`` runs from 1 to 5; None, not judged yet, is taken for the usual.  ``air_is_told``
    where the weather hours say it.  What the notes say of such air wins over the rule, and says so.

    Source: rules.md#schools; rules.md#learned-air.
    """
    schools: list[Ceiling] = [
        Ceiling(
            name=school,
            title=SCHOOL_TITLES[school],
            magnification=aperture_mm / pupil_mm,
            words=SCHOOL_WORDS[school],
            sure=True,
        )
        for school, pupil_mm in SCHOOL_EXIT_PUPIL_MM.items()
    ]
    seeing = seeing_arcsec(USUAL_STEADINESS if steadiness is None else steadiness)
    judged = "not judged yet" if steadiness is None else f"steadiness {steadiness} of 5"
    judged += " by the weather hours" * air_is_told
    words = f"tonight's air: {judged}, taken as {seeing:g}″ of blur"
    most = air_limit(seeing) if learned_magnification is None else learned_magnification
    air = Ceiling(
        name="air",
        title="tonight's air",
        magnification=most,
        words=words + learned_words,
        sure=False,
    )
    return [*schools, air]


def band_edges(eye_pupil_mm: float, aperture_mm: float) -> list[BandEdge]:
    """Return the bands by exit pupil, widest beam first, for this eye and aperture in mm.

    Source: rules.md#exit-pupil.
    """
    edges: list[tuple[Band, float, str]] = [
        ("wasted", eye_pupil_mm, "wasted light"),
        ("widest", min(WIDE_MM, eye_pupil_mm), "widest, brightest"),
        ("clusters", min(CLUSTER_MM, eye_pupil_mm), "clusters, galaxies"),
        ("all_round", SCHOOL_EXIT_PUPIL_MM["detail"], "all-round, globulars"),
        ("fine", SCHOOL_EXIT_PUPIL_MM["steady"], "planets, doubles"),
        ("empty", 0.0, "empty magnification"),
    ]
    highs = [None, *(low for _, low, _ in edges[:-1])]
    return [
        BandEdge(
            band=band,
            low_mm=low,
            high_mm=high,
            low_magnification=None if high is None else aperture_mm / high,
            high_magnification=aperture_mm / low if low else None,
            words=words,
        )
        for (band, low, words), high in zip(edges, highs, strict=True)
        if high is None or high > low
    ]


def band_of(exit_pupil_mm: float, eye_pupil_mm: float) -> Band:
    """Return the band an exit pupil in mm falls into for this eye pupil in mm.

    Source: rules.md#exit-pupil.
    """
    if exit_pupil_mm > eye_pupil_mm:
        return "wasted"
    for band, low_mm in BANDS_FROM_MM:
        if exit_pupil_mm >= low_mm - ROUNDING_MM:
            return band
    return "empty"
