"""What an evening is likely to be spent on: bright things that stand well when it gets dark."""

from collections.abc import Sequence
from datetime import datetime

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.budget import Place, budget_minutes
from jade_perch.core.bench.sunguard import sun_track
from jade_perch.core.bench.tracking import horizon_vectors, sky_after
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import double_stars, sky_objects, unit_vectors
from jade_perch.core.sky.ephemeris import BODIES, INDEX, make_moment
from jade_perch.core.sky.night import Night, night_track

LOWEST_DEG = 20.0  # lower the air is thick; handbook section 6
FAINTEST_MAG = 6.5  # showpieces of a small telescope; our choice


def looking_moment(night: Night, now_utc: datetime) -> datetime:
    """Return when looking begins: at dark, or at sunset without one, but never before now."""
    begins = night.dark[0].start_utc if night.dark else night.sunset_utc or now_utc
    return max(begins, now_utc) if now_utc <= night.end_utc else begins


def places_of_interest(site: Site, night: Night, now_utc: datetime, most: int) -> list[Place]:
    """Return bodies first, then showpieces by brightness, that stand above 20° when it is dark.

    Altitudes are airless.  Where nothing stands that high, the nearest to it stands alone.

    Source: JPL DE421 and the shipped catalogue.
    """
    at_utc = looking_moment(night, now_utc)
    altitude, azimuth = night_track(site, night.date).altaz_deg(np.array([at_utc.timestamp()]))
    bodies = [
        Place(label=body.label, altitude_deg=float(alt), azimuth_deg=float(az), body=body.name)
        for body, alt, az in zip(BODIES, altitude[:, 0], azimuth[:, 0], strict=True)
        if body.name != "sun"
    ]
    labels, magnitudes, directions = _showpieces()
    high, around = make_moment(at_utc).altaz_deg(site, directions)
    order = np.argsort(magnitudes, kind="stable")
    pieces = [
        Place(label=labels[n], altitude_deg=float(high[n]), azimuth_deg=float(around[n]))
        for n in order
    ]
    standing = [one for one in [*bodies, *pieces] if one.altitude_deg >= LOWEST_DEG]
    highest = max([*bodies, *pieces], key=lambda one: one.altitude_deg)
    return standing[:most] or [highest]


def paths_of(site: Site, places: Sequence[Place], at_utc: datetime) -> Floats:
    """Return where places really go from a moment on, as horizon vectors (N, T, 3).

    Stars turn with the sky; Moon and planets have their own motion too.

    Source: JPL DE421; exact rotation.
    """
    minutes = budget_minutes()
    start = horizon_vectors(
        np.array([one.altitude_deg for one in places]),
        np.array([one.azimuth_deg for one in places]),
    )
    paths = sky_after(start, site.latitude_deg, minutes)
    track = sun_track(site, at_utc)
    altitude, azimuth = track.altaz_deg(at_utc.timestamp() + 60 * minutes)
    for number, place in enumerate(places):
        if place.body is not None:
            body = INDEX[place.body]
            paths[number] = horizon_vectors(altitude[body], azimuth[body])
    return paths


def _showpieces() -> tuple[list[str], Floats, Floats]:
    things = [one for one in sky_objects() if (one.magnitude or 99) <= FAINTEST_MAG]
    doubles = double_stars()
    labels = [f"{one.label} {one.name}".strip() for one in things]
    labels += [one.name for one in doubles]
    magnitudes = [one.magnitude or 99.0 for one in things] + [min(d.magnitudes) for d in doubles]
    places = [(one.ra_deg, one.dec_deg) for one in things]
    places += [(one.ra_deg, one.dec_deg) for one in doubles]
    ra, dec = np.array(places).T
    return labels, np.array(magnitudes), unit_vectors(ra, dec)
