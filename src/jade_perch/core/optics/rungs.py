"""Combinations as rungs: their figures, bands and verdicts for one viewer."""

from collections.abc import Sequence
from math import isfinite
from typing import Any, Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.constants import DAWES_ARCSEC_MM, RAYLEIGH_ARCSEC_MM
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Diagonal
from jade_perch.core.optics import powers
from jade_perch.core.optics.combinations import Combination, Placement
from jade_perch.core.optics.limits import (
    ROUNDING_MM,
    SCHOOL_EXIT_PUPIL_MM,
    Band,
    School,
    band_of,
)
from jade_perch.core.optics.table import Figures, compute
from jade_perch.core.optics.viewer import Viewer
from jade_perch.core.sky.brightness import luminance_cd_m2
from jade_perch.core.sky.seen import Glasses
from jade_perch.core.sky.visibility import (
    light_left_fraction,
    relative_brightness,
    star_limit_mag,
)

ShadowSeen = Literal["none", "by_day", "by_night"]
DAY_PUPIL_MM = 2.5  # eye pupil by day, 2 to 3 mm; rules.md#power
SHADOW_SHARE = 0.7  # shadow this large against the eye's pupil is noticed; our estimate
SHADOW_TAKES = 0.9  # less light left than this is said; our choice
LEAST_LIGHT = 1e-6  # of the aperture: where the shadow fills the eye no star is seen
GLASSES_RELIEF_MM = 15.0  # less is uncomfortable with glasses; rules.md#power
ASTIGMATISM_PUPIL_MM = 2.0  # wider beams show the eye's astigmatism; rules.md#power


class Rung(Frozen):
    """One combination and its figures; ``key`` names it inside one telescope's ladder.

    ``_off_percent`` is how far a figure may be off, 0 where every input is known.  ``drift_s`` and
    ``nudge_s`` are None where what is looked at never leaves the field.
    """

    key: str
    label: str
    eyepiece_id: int | None
    amplifier_ids: list[int | None]
    placement: Placement
    is_masked: bool
    magnification: float
    magnification_off_percent: float
    true_field_deg: float
    field_off_percent: float
    field_is_about: bool
    exit_pupil_mm: float
    focal_ratio: float
    aperture_mm: float
    working_aperture_mm: float
    relative_brightness: float
    faintest_mag: float
    dawes_arcsec: float
    rayleigh_arcsec: float
    drift_s: float | None
    nudge_s: float | None
    eye_relief_alone_mm: float | None
    eye_relief_mm: float | None
    refocus_mm: float | None
    shadow: ShadowSeen
    band: Band
    passes: dict[School, bool]
    verdict: str
    glasses: str
    adapters: list[str]


def make_rungs(
    combinations: Sequence[Combination],
    diagonals: dict[int | None, Diagonal | None],
    viewer: Viewer,
) -> list[Rung]:
    """Return combinations as rungs for one viewer, in the order given.

    Source: rules.md#power; Crumey 2014 for the faintest star.
    """
    return rungs_of(combinations, compute(combinations, diagonals), viewer)


def rungs_of(combinations: Sequence[Combination], figures: Figures, viewer: Viewer) -> list[Rung]:
    """Return combinations as rungs for one viewer, from figures that are already computed.

    ``figures`` hold one value a combination, in the same order.

    Source: rules.md#power.
    """
    seen = view_figures(figures, viewer)
    names = ("magnification", "true_field_deg", "exit_pupil_mm", "focal_ratio", "aperture_mm")
    columns: dict[str, list[Any]] = {name: getattr(figures, name).tolist() for name in names}
    columns |= {name: values.tolist() for name, values in seen.items()}
    for name in ("drift_s", "nudge_s"):
        columns[name] = [value if isfinite(value) else None for value in columns[name]]
    columns["magnification_off_percent"] = (100 * figures.amplification_off).tolist()
    columns["field_off_percent"] = (100 * figures.field_off).tolist()
    shadows = (figures.obstruction * figures.exit_pupil_mm).tolist()
    gains = figures.eye_relief_gain_mm.tolist()
    columns["inward_mm"] = figures.inward_mm.tolist()
    columns["amplification"] = figures.amplification.tolist()
    rows = [dict(zip(columns, row, strict=True)) for row in zip(*columns.values(), strict=True)]
    return [
        _rung(combination, row, shadow_mm, gain_mm, viewer)
        for combination, row, shadow_mm, gain_mm in zip(
            combinations, rows, shadows, gains, strict=True
        )
    ]


def view_figures(figures: Figures, viewer: Viewer) -> dict[str, Floats]:
    """Return what one viewer gets out of combinations, as arrays by figure name.

    Source: rules.md#power.
    """
    pupil_mm = viewer.pupil.pupil_mm
    working = np.minimum(figures.aperture_mm, figures.magnification * pupil_mm)
    left = light_left_fraction(figures.obstruction, figures.exit_pupil_mm, pupil_mm)
    through = figures.transmission * left
    bright = relative_brightness(through, figures.exit_pupil_mm, pupil_mm)
    background = luminance_cd_m2(viewer.sky_mpsas) * bright
    return {
        "working_aperture_mm": working,
        "relative_brightness": bright,
        "faintest_mag": star_limit_mag(
            background,
            np.maximum(through, LEAST_LIGHT),
            working,
            pupil_mm,
            viewer.field_factor,
        ),
        "light_left": left,
        "dawes_arcsec": DAWES_ARCSEC_MM / working,
        "rayleigh_arcsec": RAYLEIGH_ARCSEC_MM / working,
        "drift_s": powers.drift_time_s(
            figures.true_field_deg, viewer.declination_deg, viewer.rate_arcsec_per_s
        ),
        "nudge_s": powers.nudge_interval_s(
            figures.true_field_deg, viewer.declination_deg, viewer.rate_arcsec_per_s
        ),
    }


def glasses_of(rungs: Sequence[Rung]) -> Glasses:
    """Return rungs as the columns that targets are held against.

    Source: rules.md#seen: a star gains the surface's share times the magnification squared.
    """
    power = np.array([one.magnification for one in rungs])
    bright = np.array([one.relative_brightness for one in rungs])
    return Glasses(
        magnification=power,
        true_field_deg=np.array([one.true_field_deg for one in rungs]),
        relative_brightness=np.maximum(bright, LEAST_LIGHT),
        star_gain=np.maximum(bright, LEAST_LIGHT) * power**2,
        working_aperture_mm=np.array([one.working_aperture_mm for one in rungs]),
    )


def _rung(
    one: Combination,
    row: dict[str, Any],
    shadow_mm: float,
    gain_mm: float,
    viewer: Viewer,
) -> Rung:
    eyepiece, pupil_mm = one.setting.eyepiece, row["exit_pupil_mm"]
    inward_mm, amplification = row.pop("inward_mm"), row.pop("amplification")
    light_left = row.pop("light_left")
    alone_mm = eyepiece.eye_relief_mm
    relief_mm = None if alone_mm is None else max(0.0, alone_mm + gain_mm)
    eye_mm = viewer.pupil.pupil_mm
    shadow = _shadow(shadow_mm, eye_mm)
    return Rung(
        key=one.key,
        label=one.label,
        eyepiece_id=eyepiece.id,
        amplifier_ids=[amplifier.id for amplifier in one.amplifiers],
        placement=one.placement,
        is_masked=one.is_masked,
        field_is_about=eyepiece.field_stop_mm is None or one.setting.number > 0,
        eye_relief_alone_mm=alone_mm,
        eye_relief_mm=relief_mm,
        refocus_mm=_refocus_mm(one, amplification, viewer),
        shadow=shadow,
        band=band_of(pupil_mm, eye_mm),
        passes={
            school: pupil_mm >= least - ROUNDING_MM
            for school, least in SCHOOL_EXIT_PUPIL_MM.items()
        },
        verdict=_verdict(pupil_mm, row["working_aperture_mm"], eye_mm, shadow, light_left)
        + _inward_words(inward_mm),
        glasses=_glasses(relief_mm, pupil_mm, viewer),
        adapters=list(one.adapters),
        **row,
    )


def _shadow(shadow_mm: float, eye_pupil_mm: float) -> ShadowSeen:
    if shadow_mm >= SHADOW_SHARE * eye_pupil_mm:
        return "by_night"
    return "by_day" if shadow_mm >= SHADOW_SHARE * DAY_PUPIL_MM else "none"


def _inward_words(inward_mm: float) -> str:
    if inward_mm <= 0:
        return ""
    return f" Ahead of the diagonal the focuser goes about {inward_mm:.0f} mm farther in."


def _refocus_mm(one: Combination, amplification: float, viewer: Viewer) -> float | None:
    diopters = None if viewer.observer is None else viewer.observer.sight_diopters
    if diopters is None:
        return None
    return float(powers.refocus_shift_mm(one.setting.focal_length_mm, diopters, amplification))


def _verdict(
    pupil_mm: float,
    working_aperture_mm: float,
    eye_pupil_mm: float,
    shadow: ShadowSeen,
    light_left: float,
) -> str:
    if light_left <= 0:
        return "The secondary's shadow fills the eye: next to nothing is left to see."
    if pupil_mm > eye_pupil_mm:
        words = (
            f"The beam of {pupil_mm:.1f} mm is wider than the eye's {eye_pupil_mm:.1f} mm: "
            f"it works like {working_aperture_mm:.0f} mm of aperture."
        )
        if light_left < SHADOW_TAKES:
            return words + f" The secondary's shadow leaves {light_left:.0%} of that light."
        return words + " The secondary's shadow may show." if shadow == "by_night" else words
    if pupil_mm >= SCHOOL_EXIT_PUPIL_MM["detail"] - ROUNDING_MM:
        if shadow == "none":
            return "Sharp and easy to hold."
        when = "By day the" if shadow == "by_day" else "The"
        return f"{when} secondary's shadow may show."
    if pupil_mm >= SCHOOL_EXIT_PUPIL_MM["comfort"] - ROUNDING_MM:
        return "All detail is already there at lower power; this shows it larger."
    if pupil_mm >= SCHOOL_EXIT_PUPIL_MM["steady"] - ROUNDING_MM:
        return "For planets and double stars on a steady night."
    return "Larger and dimmer, nothing new: beyond what the aperture gives."


def _glasses(relief_mm: float | None, pupil_mm: float, viewer: Viewer) -> str:
    """Return what an observer with glasses does at this rung; empty for others."""
    glasses = "none" if viewer.observer is None else viewer.observer.glasses
    if glasses == "none":
        return ""
    if glasses == "sight" or pupil_mm <= ASTIGMATISM_PUPIL_MM:
        return "Take the glasses off and refocus."
    if relief_mm is not None and relief_mm < GLASSES_RELIEF_MM:
        return f"Glasses would help here, but {relief_mm:.0f} mm of eye relief is too little."
    return "Keep the glasses on: so wide a beam shows the eye's astigmatism."
