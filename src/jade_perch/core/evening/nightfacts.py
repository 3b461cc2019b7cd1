"""What a night holds: the Moon's face, the planets' figures, and what Jupiter's moons do."""

from datetime import datetime

import numpy as np

from jade_perch.core.constants import DAWES_ARCSEC_MM
from jade_perch.core.evening.tonight import Tonight
from jade_perch.core.fields import Frozen
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.ephemeris import INDEX, BodyName, make_moment
from jade_perch.core.sky.jovian import jovian_moons
from jade_perch.core.sky.jovian_events import JovianEvent, jovian_events
from jade_perch.core.sky.moon import MoonFace, make_face
from jade_perch.core.sky.night import night_track
from jade_perch.core.sky.planets import RING_OUTER, central_meridians_deg, ring_tilt_deg

RING_GAP_SHARE = 0.030  # of the ring's breadth from rim to rim: the dark gap at its widest
BELT_SHARE = 0.06  # of the disc: a belt of Jupiter
CAP_SHARE = 0.2  # of the disc: the pale cap of Mars in its spring
FEATURE_WORDS: dict[BodyName, tuple[str, float]] = {
    "jupiter": ("a belt", BELT_SHARE),
    "saturn": ("the ring's dark gap", RING_GAP_SHARE),
    "mars": ("a polar cap", CAP_SHARE),
}


class Meridian(Frozen):
    """The longitude in the middle of the disc, by system; an empty name where there is one only."""

    system: str
    longitude_deg: float


class PlanetFacts(Frozen):
    """One planet at a moment; ``resolves_words`` sets a feature against the aperture's limit."""

    body: BodyName
    label: str
    diameter_arcsec: float
    lit_percent: float
    ring_tilt_deg: float | None
    meridians: list[Meridian]
    resolves_words: str


class MoonPlace(Frozen):
    """A moon of Jupiter, in radii of the planet: east to the left of a correct, upright view."""

    name: str
    west_radii: float
    north_radii: float
    state: str


class NightFacts(Frozen):
    """A night's facts for one moment of it, and the passages of all of it."""

    at_utc: datetime
    moon: MoonFace
    planets: list[PlanetFacts]
    jupiter: list[MoonPlace]
    events: list[JovianEvent]


def make_facts(
    catalogue: Catalogue, site: Site, tonight: Tonight, aperture_mm: float | None
) -> NightFacts:
    """Return what a night holds, for the moment of its list.

    Source: rules.md#planets; rules.md#moon.
    """
    at_utc, track = tonight.at_utc, night_track(site, tonight.night.date)
    at = np.array([at_utc.timestamp()])
    to_icrs = make_moment(at_utc).to_date.T
    directions = {
        name: to_icrs @ track.directions(at)[number, :, 0] for name, number in INDEX.items()
    }
    distances = {name: float(track.distances_au(at)[number, 0]) for name, number in INDEX.items()}
    planets = []
    for sight in tonight.sights:
        body = sight.target.body
        if body is None or body == "moon":
            continue
        found = central_meridians_deg(body, directions[body], distances[body], float(at[0]))
        planets.append(
            PlanetFacts(
                body=body,
                label=sight.target.label,
                diameter_arcsec=sight.diameter_arcsec,
                lit_percent=sight.lit_percent,
                ring_tilt_deg=ring_tilt_deg(directions[body]) if body == "saturn" else None,
                meridians=[Meridian(system=k, longitude_deg=v) for k, v in found.items()],
                resolves_words=_resolves(body, sight.diameter_arcsec, aperture_mm),
            )
        )
    moons = jovian_moons(at_utc, directions["jupiter"], distances["jupiter"])
    return NightFacts(
        at_utc=at_utc,
        moon=make_face(catalogue, track, at_utc),
        planets=planets,
        jupiter=[
            MoonPlace(
                name=one.name,
                west_radii=round(one.west_radii, 3),
                north_radii=round(one.north_radii, 3),
                state="hidden" if one.is_hidden else "in front" if one.is_in_front else "behind",
            )
            for one in moons
        ],
        events=jovian_events(site, tonight.night.date),
    )


def _resolves(body: BodyName, diameter_arcsec: float, aperture_mm: float | None) -> str:
    """Return whether an aperture shows a planet's best-known feature."""
    if body not in FEATURE_WORDS or aperture_mm is None:
        return ""
    name, share = FEATURE_WORDS[body]
    across = diameter_arcsec * (RING_OUTER if body == "saturn" else 1.0)
    size, limit = share * across, DAWES_ARCSEC_MM / aperture_mm
    verdict = "shows" if size >= limit else "is too fine"
    what = f"{name[:1].upper()}{name[1:]} of {size:.1f}″"
    return f"{what} {verdict}; this aperture splits {limit:.1f}″."
