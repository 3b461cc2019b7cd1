"""What an evening is likely to be spent on: bright things that stand well when it gets dark."""

from collections.abc import Sequence
from datetime import datetime

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.budget import budget_minutes
from jade_perch.core.bench.tracking import horizon_vectors, sky_after
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.ephemeris import INDEX, make_moment
from jade_perch.core.sky.night import Night, night_track
from jade_perch.core.sky.sunpath import sun_track
from jade_perch.core.sky.targets import Placed
from jade_perch.core.skyline import is_behind

LOWEST_DEG = 20.0  # lower the air is thick; rules.md#interest
FAINTEST_MAG = 6.5  # showpieces of a small telescope; our choice


def looking_moment(night: Night, now_utc: datetime) -> datetime:
    """Return when looking begins: at dark, or at sunset without one, but never before now.

    Source: rules.md#interest.
    """
    begins = night.dark[0].start_utc if night.dark else night.sunset_utc or now_utc
    return max(begins, now_utc) if now_utc <= night.end_utc else begins


def places_of_interest(
    catalogue: Catalogue, site: Site, night: Night, now_utc: datetime, most: int
) -> list[Placed]:
    """Return bodies first, then showpieces by brightness, that stand above 20° when it is dark,
    and clear of the skyline.

    Altitudes are airless.  Where nothing stands that high, the nearest to it stands alone.

    Source: JPL DE421 and the shipped catalogue.
    """
    at_utc = looking_moment(night, now_utc)
    altitude, azimuth = night_track(site, night.date).altaz_deg(np.array([at_utc.timestamp()]))
    high, around = make_moment(at_utc).altaz_deg(site, catalogue.directions)
    is_body = catalogue.is_body
    numbers = [INDEX[one.body] for one in catalogue.bodies_only() if one.body is not None]
    high[is_body], around[is_body] = altitude[numbers, 0], azimuth[numbers, 0]
    bright = catalogue.has_shape("pair", "cluster", "glow") & (
        catalogue.numbers["magnitude"] <= FAINTEST_MAG
    )
    behind = is_behind(site.skyline, high, np.nan_to_num(around))
    order = np.argsort(np.where(is_body, -99.0, catalogue.numbers["magnitude"]), kind="stable")
    rows = [row for row in order.tolist() if is_body[row] or bright[row]]
    standing = [row for row in rows if high[row] >= LOWEST_DEG and not behind[row]][:most]
    return [
        Placed(
            target=catalogue.target(row),
            altitude_deg=float(high[row]),
            azimuth_deg=float(around[row]),
        )
        for row in standing or [max(rows, key=lambda row: float(high[row]))]
    ]


def paths_of(site: Site, places: Sequence[Placed], at_utc: datetime) -> Floats:
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
        if place.target.body is not None:
            body = INDEX[place.target.body]
            paths[number] = horizon_vectors(altitude[body], azimuth[body])
    return paths
