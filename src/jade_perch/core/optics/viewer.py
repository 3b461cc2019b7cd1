"""Who looks, through what air, under what sky: what a rung's verdicts depend on."""

from typing import Annotated

from jade_perch.core.constants import LUNAR_ARCSEC_PER_S, SIDEREAL_ARCSEC_PER_S
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.kit import Observer, Practice
from jade_perch.core.optics.limits import EyePupil, eye_pupil
from jade_perch.core.site import Site
from jade_perch.core.sky.brightness import luminance_cd_m2, site_mpsas
from jade_perch.core.sky.visibility import USUAL_FIELD_FACTOR, star_limit_mag

# Magnitudes that each step of transparency dims everything by, over the usual air; our estimate
HAZE_MAG: dict[int, float] = {1: 1.0, 2: 0.5, 3: 0.0, 4: -0.1, 5: -0.2}
FIELD_FACTORS: dict[Practice, float] = {"first": 2.8, "some": 2.0, "much": 1.4}


class Course(Frozen):
    """How what is looked at goes through the field: its declination, and whether it is the Moon."""

    declination_deg: Annotated[
        float, Range(-90, 90, "°", "Type the declination of what is looked at.")
    ] = 0.0
    of_moon: bool = False

    @property
    def rate_arcsec_per_s(self) -> float:
        """How fast it goes on the equator.  Source: rules.md#drift."""
        return LUNAR_ARCSEC_PER_S if self.of_moon else SIDEREAL_ARCSEC_PER_S


STARS = Course()


class LearnedAir(Frozen):
    """What the notes say of air like tonight's in one telescope: the power that is really used.

    ``notes`` of ``evenings`` say so; ``ruled_magnification`` is what the rule alone would give.
    """

    magnification: float
    ruled_magnification: float
    notes: int
    evenings: int


class Viewer(Frozen):
    """The conditions of a view; the sky is the one overhead without Moon, in mag/arcsec².

    ``rate_arcsec_per_s`` is how fast what is looked at goes, on the equator.  ``air_is_told``
    where the steadiness is the weather hours' and nobody looked.  ``learned_air`` is what the notes
    say of it in the telescope that is looked through, where they say enough.
    """

    pupil: EyePupil
    observer: Observer | None
    steadiness: int | None
    sky_mpsas: float
    sky_is_measured: bool
    field_factor: float = USUAL_FIELD_FACTOR
    declination_deg: float = 0.0
    rate_arcsec_per_s: float = SIDEREAL_ARCSEC_PER_S
    air_is_told: bool = False
    learned_air: LearnedAir | None = None


def field_factor(observer: Observer | None) -> float:
    """Return how many times more light an observer needs than a perfect one.

    Source: rules.md#threshold; the usual where nobody said how practised the eye is.
    """
    if observer is not None and observer.field_factor is not None:
        return observer.field_factor
    practice = None if observer is None else observer.practice
    return USUAL_FIELD_FACTOR if practice is None else FIELD_FACTORS[practice]


def make_viewer(
    observer: Observer | None,
    site: Site | None,
    steadiness: int | None,
    course: Course = STARS,
    *,
    air_is_told: bool = False,
    transparency: int | None = None,
) -> Viewer:
    """Return the conditions for an observer at a site; unknown ones are estimated.

    ``steadiness`` runs from 1 to 5, None is not judged yet; ``air_is_told`` where it is the
    weather hours' and nobody looked.  ``transparency`` likewise: haze costs light.

    Source: rules.md#brightness; rules.md#haze.
    """
    haze_mag = 0.0 if transparency is None else HAZE_MAG[transparency]
    mpsas, measured = site_mpsas(site)
    return Viewer(
        pupil=eye_pupil(observer),
        observer=observer,
        steadiness=steadiness,
        air_is_told=air_is_told and steadiness is not None,
        sky_mpsas=mpsas,
        sky_is_measured=measured,
        field_factor=field_factor(observer) * 10 ** (0.4 * haze_mag),
        declination_deg=course.declination_deg,
        rate_arcsec_per_s=course.rate_arcsec_per_s,
    )


def naked_limit_mag(viewer: Viewer, sky_mpsas: float | None = None) -> float:
    """Return the faintest star a viewer's eye alone holds, under its own sky or another.

    Source: Crumey 2014, MNRAS 442:2600; about half a magnitude.
    """
    pupil_mm = viewer.pupil.pupil_mm
    sky = luminance_cd_m2(viewer.sky_mpsas if sky_mpsas is None else sky_mpsas)
    return float(star_limit_mag(sky, 1.0, pupil_mm, pupil_mm, viewer.field_factor))
