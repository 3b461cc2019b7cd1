"""Whether the eye can see it: thresholds after Crumey 2014."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from jade_perch.core.arrays import Floats, Truths

FAINTEST_CD_M2, BRIGHTEST_CD_M2 = 1e-5, 1e-1  # range the threshold was fitted in; Crumey 2014
TOO_DARK = "Some rungs show a sky darker than the law was fitted for; there its lower end counts."
USUAL_FIELD_FACTOR = 2.0  # an observer with some practice; rules.md#threshold


def clamped_background_cd_m2(background_cd_m2: ArrayLike) -> tuple[Floats, Truths]:
    """Return backgrounds kept inside the fitted range, and which ones had to be moved.

    Source: rules.md#threshold.
    """
    background = np.asarray(background_cd_m2, dtype=float)
    inside = np.clip(background, FAINTEST_CD_M2, BRIGHTEST_CD_M2)
    return inside, inside != background


def relative_brightness(
    transmission: ArrayLike, exit_pupil_mm: ArrayLike, eye_pupil_mm: ArrayLike
) -> Floats:
    """Return the brightness of a surface against the naked eye's view, never above the share.

    Source: rules.md#brightness: T·(min(p, pe)/pe)².
    """
    share = np.minimum(exit_pupil_mm, eye_pupil_mm) / np.asarray(eye_pupil_mm, dtype=float)
    return np.asarray(np.asarray(transmission) * share**2)


def light_left_fraction(
    fraction: ArrayLike, exit_pupil_mm: ArrayLike, eye_pupil_mm: ArrayLike
) -> Floats:
    """Return what share of a beam's light a secondary's full shadow leaves to the eye, 0 to 1.

    ``fraction`` is the obstruction by diameter.  In a beam that fits into the eye the shadow is
    counted in the transmission already, so all of it is left.  In a wider one the eye gets the
    middle, where the shadow lies.

    Source: rules.md#exit-pupil: (pe² - (ε·p)²)/p² of the aperture, nothing for ε·p ≥ pe.
    """
    beam, eye = np.asarray(exit_pupil_mm, dtype=float), np.asarray(eye_pupil_mm, dtype=float)
    obstruction = np.asarray(fraction, dtype=float)
    clear = (eye**2 - (obstruction * beam) ** 2) / (eye**2 * (1 - obstruction**2))
    return np.asarray(np.where(beam > eye, np.clip(clear, 0.0, 1.0), 1.0))


def point_threshold(background_cd_m2: ArrayLike) -> Floats:
    """Return R of the point-source threshold: illuminance over background, in lux per cd/m².

    Source: Crumey 2014, MNRAS 442:2600.
    """
    background = np.asarray(background_cd_m2, dtype=float)
    return np.asarray((6.505e-4 * background**-0.25 - 8.461e-4) ** 2)


def contrast_threshold(background_cd_m2: ArrayLike, area_sr: ArrayLike) -> Floats:
    """Return the least contrast at which an even patch is seen, for a perfect observer.

    ``background_cd_m2`` is the sky and ``area_sr`` the patch as they appear to the eye; both
    broadcast.  Times the observer's field factor it is the threshold in the field.  Under
    the fitted range the eye needs as much light as at its lower end, as it does for stars.

    Source: Crumey 2014, MNRAS 442:2600, scotopic contrast threshold.
    """
    return eye_at(background_cd_m2).contrast(area_sr)


@dataclass(frozen=True, slots=True)
class EyeAt:
    """What the eye's threshold at a background is made of, whatever the size of the patch."""

    small: Floats
    least_to_power: Floats
    power: Floats
    below: Floats

    def contrast(self, area_sr: ArrayLike) -> Floats:
        """Return the least contrast of patches of an area in sr; broadcasts.

        Source: Crumey 2014, MNRAS 442:2600.
        """
        small = (self.small / np.asarray(area_sr)) ** self.power
        return np.asarray((small + self.least_to_power) ** (1 / self.power) * self.below)


def eye_at(background_cd_m2: ArrayLike) -> EyeAt:
    """Return the eye at a background, to be asked for patches of several sizes.

    Source: Crumey 2014, MNRAS 442:2600; see ``contrast_threshold``.
    """
    background, _ = clamped_background_cd_m2(background_cd_m2)
    quarter = background**-0.25
    power = 1.146 - 0.0885 * np.log10(background)
    return EyeAt(
        small=(6.505e-4 * quarter - 8.461e-4) ** 2,
        least_to_power=(7.633e-3 * quarter - 7.174e-3) ** power,
        power=power,
        below=np.maximum(background / np.asarray(background_cd_m2, dtype=float), 1.0),
    )


def star_limit_mag(
    background_cd_m2: ArrayLike,
    transmission: ArrayLike,
    working_aperture_mm: ArrayLike,
    eye_pupil_mm: ArrayLike,
    field_factor: ArrayLike = USUAL_FIELD_FACTOR,
) -> Floats:
    """Return the faintest star's magnitude, steadily held with averted vision.

    ``background_cd_m2`` is the sky as it appears in the eyepiece; ``working_aperture_mm`` the
    part of the aperture whose light enters the eye.  For the naked eye both are the eye's.  In a
    sky brighter than the fitted range the threshold goes on in proportion (Weber's law).

    Source: Crumey 2014, MNRAS 442:2600, scotopic point-source threshold; about half a magnitude.
    """
    inside, _ = clamped_background_cd_m2(background_cd_m2)
    r, background = point_threshold(inside), np.maximum(background_cd_m2, inside)
    gain = (
        np.asarray(transmission) * (np.asarray(working_aperture_mm) / np.asarray(eye_pupil_mm)) ** 2
    )
    return np.asarray(-13.98 - 2.5 * np.log10(np.asarray(field_factor) * r * background / gain))
