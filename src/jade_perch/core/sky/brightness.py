"""How bright the sky is, from what an observer knows about the place."""

from math import log10

from jade_perch.core.site import Site

# Middle of each class of the nine-step dark-sky scale, mag/arcsec²; classes are judged by eye,
# so half a magnitude either way.  Our reading of published comparisons with meters.
CLASS_MPSAS = {1: 21.9, 2: 21.7, 3: 21.4, 4: 20.9, 5: 20.0, 6: 19.2, 7: 18.7, 8: 18.2, 9: 17.5}
BRIGHTEST_MPSAS, DARKEST_MPSAS = 17.0, 22.0  # between a city's middle and a mountain
ZERO_MPSAS_CD_M2 = 1.08e5  # the luminance of 0 mag/arcsec²; rules.md#sky-brightness
USUAL_CLASS = 5  # a suburb's edge, assumed where nothing was said


def site_mpsas(site: Site | None) -> tuple[float, bool]:
    """Return the sky's brightness in mag/arcsec² overhead, Moon down, and whether it is measured.

    A meter's reading wins over the faintest star seen, that over the class; without any a
    middling class is assumed.

    Source: rules.md#sky-brightness.
    """
    if site is not None and site.sky_mpsas is not None:
        return site.sky_mpsas, True
    if site is not None and site.naked_eye_limit_mag is not None:
        return mpsas_of_limit(site.naked_eye_limit_mag), False
    known = site.dark_sky_class if site is not None else None
    return CLASS_MPSAS[USUAL_CLASS if known is None else known], False


def luminance_cd_m2(sky_mpsas: float) -> float:
    """Return the luminance in cd/m² of a sky given in mag/arcsec².

    Source: rules.md#sky-brightness: B = 1.08e5·10^(-0.4·mpsas).
    """
    return float(ZERO_MPSAS_CD_M2 * 10 ** (-0.4 * sky_mpsas))


def mpsas_of_luminance(sky_cd_m2: float) -> float:
    """Return the brightness in mag/arcsec² of a sky given in cd/m².

    Source: rules.md#sky-brightness, the rule turned about.
    """
    return -2.5 * log10(sky_cd_m2 / ZERO_MPSAS_CD_M2)


def naked_eye_limit_mag(sky_mpsas: float) -> float:
    """Return the naked-eye limiting magnitude that goes with a sky in mag/arcsec².

    Source: rules.md#sky-brightness; after Knoll, Tousey and Hulburt.
    """
    return float(7.93 - 5 * log10(10 ** (4.316 - sky_mpsas / 5) + 1))


def mpsas_of_limit(limit_mag: float) -> float:
    """Return the sky's brightness in mag/arcsec² that goes with a naked-eye limit.

    Source: rules.md#sky-brightness, the rule turned about by halving.
    """
    low, high = BRIGHTEST_MPSAS, DARKEST_MPSAS
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if naked_eye_limit_mag(middle) < limit_mag else (low, middle)
    return (low + high) / 2
