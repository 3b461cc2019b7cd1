"""Who looks, through what air, under what sky: what a rung's verdicts depend on."""

from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Observer
from jade_perch.core.optics.limits import EyePupil, eye_pupil
from jade_perch.core.site import Site
from jade_perch.core.sky.brightness import site_mpsas


class Viewer(Frozen):
    """The conditions of a view; the sky is the one overhead without Moon, in mag/arcsec²."""

    pupil: EyePupil
    observer: Observer | None
    steadiness: int | None
    sky_mpsas: float
    sky_is_measured: bool
    declination_deg: float = 0.0


def make_viewer(
    observer: Observer | None,
    site: Site | None,
    steadiness: int | None,
    declination_deg: float = 0.0,
) -> Viewer:
    """Return the conditions for an observer at a site; unknown ones are estimated.

    ``steadiness`` runs from 1 to 5, None is not judged yet; ``declination_deg`` from -90 to 90.

    Source: rules.md#brightness.
    """
    mpsas, measured = site_mpsas(site)
    return Viewer(
        pupil=eye_pupil(observer),
        observer=observer,
        steadiness=steadiness,
        sky_mpsas=mpsas,
        sky_is_measured=measured,
        declination_deg=declination_deg,
    )
