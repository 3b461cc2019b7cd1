"""The sum behind a figure: formula, this kit's values, source and how sure it is."""

from typing import Literal

from jade_perch.core.constants import BARREL_FIELD_STOP_MM, SIDEREAL_ARCSEC_PER_S
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Amplifier, Eyepiece, Telescope
from jade_perch.core.optics import powers
from jade_perch.core.optics.ladder import Rung, make_rungs
from jade_perch.core.optics.limits import EyePupil

Figure = Literal["magnification", "true_field", "exit_pupil", "focal_ratio", "drift"]
Sureness = Literal["exact", "about", "estimate"]

AMPLIFIER_NOTE = "The factor on a Barlow holds for its nominal distance; it is often a little off."


class Sum(Frozen):
    """One computed figure, opened: what was put into which formula and where it comes from."""

    title: str
    formula: str
    worked: str
    result: str
    source: str
    sureness: Sureness
    note: str = ""


def rung_sum(
    figure: Figure,
    telescope: Telescope,
    eyepiece: Eyepiece,
    amplifier: Amplifier | None,
    pupil: EyePupil,
) -> Sum:
    """Return the sum behind one figure of one combination, with its own numbers filled in."""
    (rung,) = make_rungs(telescope, [(eyepiece, amplifier)], pupil.pupil_mm)
    factor = 1.0 if amplifier is None else amplifier.factor
    if figure == "magnification":
        return _magnification(rung, telescope, eyepiece, factor)
    if figure == "true_field":
        return _true_field(rung, telescope, eyepiece, factor)
    if figure == "exit_pupil":
        return _exit_pupil(rung, telescope, pupil)
    if figure == "focal_ratio":
        return _focal_ratio(rung, telescope, factor)
    return _drift(rung)


def _note(factor: float) -> str:
    return AMPLIFIER_NOTE if factor != 1.0 else ""


def _sureness(factor: float) -> Sureness:
    return "exact" if factor == 1.0 else "about"


def _magnification(rung: Rung, telescope: Telescope, eyepiece: Eyepiece, factor: float) -> Sum:
    return Sum(
        title="Power",
        formula="amplification × telescope focal length ÷ eyepiece focal length",
        worked=f"{factor:g} × {telescope.focal_length_mm:g} mm ÷ {eyepiece.focal_length_mm:g} mm",
        result=f"{rung.magnification:.1f}×",
        source="Sidgwick, Amateur Astronomer's Handbook: magnification",
        sureness=_sureness(factor),
        note=_note(factor),
    )


def _true_field(rung: Rung, telescope: Telescope, eyepiece: Eyepiece, factor: float) -> Sum:
    effective = f"{factor:g} × {telescope.focal_length_mm:g} mm"
    if eyepiece.field_stop_mm is not None:
        return Sum(
            title="True field",
            formula="2 · atan( field stop ÷ (2 · amplification · focal length) )",
            worked=f"2 · atan( {eyepiece.field_stop_mm:g} mm ÷ (2 · {effective}) )",
            result=f"{rung.true_field_deg:.2f}°",
            source="Geometry of the field stop",
            sureness=_sureness(factor),
            note=_note(factor),
        )
    plain_deg = eyepiece.apparent_field_deg / rung.magnification
    stop_mm = BARREL_FIELD_STOP_MM[eyepiece.barrel_in]
    capped = rung.true_field_deg < plain_deg - 1e-9
    return Sum(
        title="True field",
        formula="2 · atan( barrel opening ÷ (2 · amplification · focal length) )"
        if capped
        else "apparent field ÷ power",
        worked=f"2 · atan( {stop_mm:g} mm ÷ (2 · {effective}) )"
        if capped
        else f"{eyepiece.apparent_field_deg:g}° ÷ {rung.magnification:.1f}",
        result=f"about {rung.true_field_deg:.2f}°",
        source="Sidgwick: field of view",
        sureness="about",
        note=f"The {eyepiece.barrel_in} in barrel cuts the field the label would give."
        if capped
        else "The field stop is not known. Time a star across the field to measure it.",
    )


def _exit_pupil(rung: Rung, telescope: Telescope, pupil: EyePupil) -> Sum:
    return Sum(
        title="Exit pupil",
        formula="aperture ÷ power",
        worked=f"{telescope.aperture_mm:g} mm ÷ {rung.magnification:.1f}",
        result=f"{rung.exit_pupil_mm:.2f} mm",
        source="Sidgwick: exit pupil",
        sureness="exact" if rung.amplifier_id is None else "about",
        note=f"Your eye's own pupil in the dark: {pupil.words}.",
    )


def _focal_ratio(rung: Rung, telescope: Telescope, factor: float) -> Sum:
    return Sum(
        title="Effective focal ratio",
        formula="amplification × focal length ÷ aperture",
        worked=f"{factor:g} × {telescope.focal_length_mm:g} mm ÷ {telescope.aperture_mm:g} mm",
        result=f"f/{rung.focal_ratio:.1f}",
        source="Definition",
        sureness=_sureness(factor),
        note=_note(factor),
    )


def _drift(rung: Rung) -> Sum:
    minutes, seconds = divmod(round(rung.drift_s), 60)
    return Sum(
        title="Edge to edge",
        formula="true field ÷ (15.041 ″/s · cos declination)",
        worked=f"{rung.true_field_deg * 3600:.0f}″ ÷ ({SIDEREAL_ARCSEC_PER_S:.3f} ″/s · cos 0°)",
        result=f"{minutes}:{seconds:02d} min",
        source="Meeus, Astronomical Algorithms, 2nd ed., ch. 12: sidereal rate",
        sureness="about" if rung.field_is_about or rung.amplifier_id is not None else "exact",
        note="For a star on the celestial equator; nearer the pole it stays longer.",
    )


class DriftField(Frozen):
    """A field measured by timing a star across it, with the sum behind it."""

    elapsed_s: float
    true_field_deg: float
    sum: Sum


def measured_field(elapsed_s: float, declination_deg: float) -> DriftField:
    """Return the true field a star crosses in ``elapsed_s`` seconds at a declination in degrees.

    Source: handbook of the work, section 2.
    """
    field_deg = float(powers.true_field_from_drift_deg(elapsed_s, declination_deg))
    opened = Sum(
        title="Field by drift",
        formula="time × 15.041 ″/s × cos declination",
        worked=f"{elapsed_s:.0f} s × {SIDEREAL_ARCSEC_PER_S:.3f} ″/s × cos {declination_deg:g}°",
        result=f"{field_deg:.2f}°",
        source="Meeus, Astronomical Algorithms, 2nd ed., ch. 12: sidereal rate",
        sureness="about",
        note="The star must cross the middle of the field, drive off. One second of doubt in "
        f"the timing is {SIDEREAL_ARCSEC_PER_S / 60:.2f}′.",
    )
    return DriftField(elapsed_s=elapsed_s, true_field_deg=field_deg, sum=opened)
