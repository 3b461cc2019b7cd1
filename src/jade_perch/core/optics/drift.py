"""A field measured by timing what drifts across it, and the field stop that this means."""

from datetime import datetime

import numpy as np

from jade_perch.core.fields import Frozen, Item, Label, UtcTime
from jade_perch.core.kit import Eyepiece, Telescope
from jade_perch.core.optics import powers
from jade_perch.core.optics.combinations import Combination
from jade_perch.core.optics.viewer import Course
from jade_perch.core.sums import Sum

STOP_ROUNDING = 1  # decimals of a stop in mm that a timing is good for; our choice


class DriftField(Frozen):
    """A field measured by timing, with the sum behind it.

    ``on`` says what was timed.  ``eyepiece`` is the one it was timed in and ``field_stop_mm`` the
    stop that this means; None where no rung was known, or a zoom was not at its long end.
    """

    elapsed_s: float
    true_field_deg: float
    on: str
    sum: Sum
    eyepiece: Eyepiece | None = None
    field_stop_mm: float | None = None
    stop_sum: Sum | None = None


class TimedDrift(Item):
    """One timing that was kept: through which eyepiece, and the stop that it means."""

    timed_at_utc: UtcTime
    telescope_name: Label
    eyepiece_id: int
    eyepiece_name: Label
    target_label: Label
    elapsed_s: float
    true_field_deg: float
    field_stop_mm: float


def kept_drift(found: DriftField, telescope: Telescope, at_utc: datetime) -> TimedDrift | None:
    """Return a timing as it is kept, or None where no eyepiece was known.  Source: definition."""
    if found.eyepiece is None or found.eyepiece.id is None or found.field_stop_mm is None:
        return None
    return TimedDrift(
        timed_at_utc=at_utc,
        telescope_name=telescope.name,
        eyepiece_id=found.eyepiece.id,
        eyepiece_name=found.eyepiece.name,
        target_label=found.on,
        elapsed_s=found.elapsed_s,
        true_field_deg=found.true_field_deg,
        field_stop_mm=found.field_stop_mm,
    )


def measured_field(elapsed_s: float, course: Course, on: str = "a star") -> DriftField:
    """Return the true field that is crossed in ``elapsed_s`` seconds on a course.

    Source: rules.md#field.
    """
    rate, declination = course.rate_arcsec_per_s, course.declination_deg
    field_deg = float(powers.true_field_from_drift_deg(elapsed_s, declination, rate))
    opened = Sum(
        title="Field by drift",
        formula="time × speed on the equator × cos declination",
        worked=f"{elapsed_s:.1f} s × {rate:.3f} ″/s × cos {declination:.1f}° ÷ 3600",
        result=f"{field_deg:.2f}°",
        source="Meeus, Astronomical Algorithms, 2nd ed., ch. 12: sidereal rate",
        rule="field",
        sureness="about",
        note=f"Timed on {on}. It must cross the middle of the field, drive off. One second of "
        f"doubt in the timing is {rate * np.cos(np.radians(declination)) / 60:.2f}′.",
    )
    return DriftField(elapsed_s=elapsed_s, true_field_deg=field_deg, on=on, sum=opened)


def with_stop(found: DriftField, one: Combination, amplification: float) -> DriftField:
    """Return a measured field with the field stop of the eyepiece it was timed in.

    Source: rules.md#field; geometry, 2·A·F·tan(field ÷ 2).
    """
    if one.setting.number > 0:
        return found
    focal_mm = amplification * one.telescope.focal_length_mm
    stop_mm = 2 * focal_mm * float(np.tan(np.radians(found.true_field_deg / 2)))
    return found.model_copy(
        update={
            "eyepiece": one.setting.eyepiece,
            "field_stop_mm": round(stop_mm, STOP_ROUNDING),
            "stop_sum": Sum(
                title="Field stop by drift",
                formula="2 · amplification · focal length · tan( field ÷ 2 )",
                worked=f"2 · {amplification:.4g} · {one.telescope.focal_length_mm:g} mm · "
                f"tan( {found.true_field_deg:.3f}° ÷ 2 )",
                result=f"{stop_mm:.1f} mm",
                source="Geometry of the field stop",
                rule="field",
                sureness="about",
                note="With an amplifier the stop is only as sure as its factor."
                * bool(one.amplifiers),
            ),
        }
    )
