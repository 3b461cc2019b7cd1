"""From telescope, eyepiece and amplification to the figures that decide a view.

Every function takes numbers or NumPy arrays of one shape and returns that shape.
"""

import numpy as np
from numpy.typing import ArrayLike

from jade_perch.core.arrays import Floats
from jade_perch.core.constants import SIDEREAL_ARCSEC_PER_S


def _positive(value: ArrayLike) -> Floats:
    """Return ``value`` as an array in which zero, negatives and NaN have become NaN."""
    numbers = np.asarray(value, dtype=float)
    return np.where(numbers > 0, numbers, np.nan)


def magnification(
    focal_length_mm: ArrayLike, eyepiece_focal_length_mm: ArrayLike, amplification: ArrayLike = 1.0
) -> Floats:
    """Return how many times larger the view is than with the naked eye, dimensionless.

    ``focal_length_mm`` is the telescope's; ``amplification`` is 1 without a Barlow.
    Anything not above zero gives NaN.

    Source: Sidgwick, Amateur Astronomer's Handbook, magnification.
    """
    return (
        _positive(amplification) * _positive(focal_length_mm) / _positive(eyepiece_focal_length_mm)
    )


def exit_pupil_mm(aperture_mm: ArrayLike, magnification: ArrayLike) -> Floats:
    """Return the width in mm of the beam that leaves the eyepiece; NaN for nonsense.

    Source: Sidgwick, exit pupil: aperture over magnification.
    """
    return _positive(aperture_mm) / _positive(magnification)


def effective_focal_ratio(
    focal_length_mm: ArrayLike, aperture_mm: ArrayLike, amplification: ArrayLike = 1.0
) -> Floats:
    """Return the focal ratio the eyepiece is fed with, dimensionless; NaN for nonsense.

    Source: definition; an amplifier lengthens the focal length by its factor.
    """
    return _positive(amplification) * _positive(focal_length_mm) / _positive(aperture_mm)


def true_field_from_stop_deg(
    field_stop_mm: ArrayLike, focal_length_mm: ArrayLike, amplification: ArrayLike = 1.0
) -> Floats:
    """Return the true field in degrees seen through a field stop in mm; exact.

    ``focal_length_mm`` is the telescope's.  Unknown stops go in and come out as NaN.

    Source: geometry, 2·atan(stop / (2·A·F)).
    """
    effective_mm = _positive(amplification) * _positive(focal_length_mm)
    half = np.arctan(_positive(field_stop_mm) / (2 * effective_mm))
    return np.asarray(np.degrees(2 * half))


def true_field_from_apparent_deg(apparent_field_deg: ArrayLike, magnification: ArrayLike) -> Floats:
    """Return the true field in degrees as apparent field over magnification.

    About right only: distortion at the edge of wide eyepieces makes it off by some percent.

    Source: Sidgwick, field of view.
    """
    return _positive(apparent_field_deg) / _positive(magnification)


def drift_time_s(
    true_field_deg: ArrayLike,
    declination_deg: ArrayLike = 0.0,
    rate_arcsec_per_s: float = SIDEREAL_ARCSEC_PER_S,
) -> Floats:
    """Return the seconds a star needs to drift across the whole field, no drive running.

    ``declination_deg`` from -90 to 90.  Near a pole, where a star that begins in the middle
    goes around inside the field, the answer is infinite.  ``rate_arcsec_per_s`` is the speed on
    the equator; the Moon's is a little less.

    Source: sidereal rate 15.041067 arcsec/s times cos(declination); Meeus ch. 12.
    """
    return _crossing_s(true_field_deg, 1.0, 0.5, declination_deg, rate_arcsec_per_s)


def _crossing_s(
    true_field_deg: ArrayLike,
    share: float,
    out: float,
    declination_deg: ArrayLike,
    rate_arcsec_per_s: float,
) -> Floats:
    """Return the time for a share of the field; infinite where ``out`` fields are never reached.

    A star goes around the pole on a circle: from the middle it gets no farther than its diameter.
    """
    field_deg = _positive(true_field_deg)
    cosine = np.cos(np.radians(np.asarray(declination_deg, dtype=float)))
    stays = np.sin(np.radians(np.minimum(180.0, out * field_deg) / 2)) >= cosine - 1e-12
    rate = rate_arcsec_per_s * np.where(stays, 1.0, cosine)
    return np.asarray(np.where(stays, np.inf, share * field_deg * 3600 / rate))


def true_field_from_drift_deg(
    elapsed_s: ArrayLike,
    declination_deg: ArrayLike = 0.0,
    rate_arcsec_per_s: float = SIDEREAL_ARCSEC_PER_S,
) -> Floats:
    """Return the true field in degrees that a star crosses edge to edge in ``elapsed_s``.

    The drive is off and the star goes through the middle; ``declination_deg`` from -90 to 90.

    Source: sidereal rate 15.041067 arcsec/s times cos(declination); Meeus ch. 12.
    """
    cosine = np.cos(np.radians(np.asarray(declination_deg, dtype=float)))
    return np.asarray(_positive(elapsed_s) * rate_arcsec_per_s * cosine / 3600)


def eye_relief_gain_mm(
    focal_length_mm: ArrayLike,
    eyepiece_focal_length_mm: ArrayLike,
    amplification: ArrayLike,
    barlow_focal_length_mm: ArrayLike,
) -> Floats:
    """Return how many mm farther from the eye lens the eye sits with an amplifier; about.

    The eyepiece images the aperture; a Barlow brings that aperture optically nearer.  An
    infinite Barlow focal length stands for a telecentric amplifier, NaN for none (no gain).

    Source: Newton's lens equation, x' = f²/x, with the aperture seen through the Barlow.
    """
    focal, eyepiece = _positive(focal_length_mm), _positive(eyepiece_focal_length_mm)
    barlow, factor = _positive(barlow_focal_length_mm), _positive(amplification)
    with np.errstate(invalid="ignore"):
        behind_mm = (factor - 1) * barlow  # from the Barlow to the eyepiece's focal plane
        ahead_mm = focal - behind_mm / factor  # from the aperture to the Barlow
        pupil_mm = behind_mm + ahead_mm * barlow / (ahead_mm + barlow)
        with_it = np.where(np.isinf(barlow), 0.0, eyepiece**2 / pupil_mm)
        gain_mm = with_it - eyepiece**2 / focal
    return np.asarray(np.where(np.isnan(barlow), 0.0, gain_mm))


def nudge_interval_s(
    true_field_deg: ArrayLike,
    declination_deg: ArrayLike = 0.0,
    rate_arcsec_per_s: float = SIDEREAL_ARCSEC_PER_S,
) -> Floats:
    """Return the seconds in which a star drifts from the centre to 70 % of the way out.

    Infinite where it never gets so far.

    Source: rules.md#drift.
    """
    return _crossing_s(true_field_deg, 0.35, 0.35, declination_deg, rate_arcsec_per_s)


def refocus_shift_mm(
    eyepiece_focal_length_mm: ArrayLike,
    sight_diopters: ArrayLike,
    amplification: ArrayLike = 1.0,
) -> Floats:
    """Return how far in mm the focuser moves for an eye's diopters without glasses.

    Negative (short sight) is inwards.  Behind an amplifier the eyepiece's own shift is made by a
    smaller one of the focuser.

    Source: rules.md#glasses; f²·diopters/1000 mm, over the amplification squared.
    """
    squared = (_positive(eyepiece_focal_length_mm) / _positive(amplification)) ** 2
    return np.asarray(squared * np.asarray(sight_diopters, dtype=float) / 1000)


def inward_travel_mm(
    amplification: ArrayLike, barlow_focal_length_mm: ArrayLike, light_path_mm: ArrayLike
) -> Floats:
    """Return how much farther in mm a focuser goes in for a Barlow ahead of a diagonal; about.

    Compared with the same Barlow at its nominal ``amplification`` behind a diagonal of that path.
    A lens of focal length f that amplifies A times stands f·(A - 1)/A before the telescope's own
    focus.

    Source: rules.md#barlow; thin-lens equation.
    """
    barlow = np.asarray(barlow_focal_length_mm, dtype=float)
    path = np.asarray(light_path_mm, dtype=float)
    behind = _positive(amplification)
    with np.errstate(invalid="ignore"):
        ahead = behind + path / barlow
        before = barlow * (behind - 1) / behind - barlow * (ahead - 1) / ahead
    return np.asarray(path + np.nan_to_num(before))
