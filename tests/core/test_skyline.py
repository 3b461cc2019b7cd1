"""What stands in the way: the line itself, and that everything honours it."""

from datetime import UTC, date, datetime

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from jade_perch.core.evening.interest import places_of_interest
from jade_perch.core.evening.tonight import make_tonight
from jade_perch.core.moments import Now
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.sky.night import make_night
from jade_perch.core.sky.nightsky import make_night_sky
from jade_perch.core.skyline import SkylinePoint, is_behind, ordered, skyline_deg

DAY = date(2027, 2, 13)
DUSK = datetime(2027, 2, 13, 19, 0, tzinfo=UTC)
THINGS = catalogue()


def place(*points):
    skyline = [{"azimuth_deg": a, "altitude_deg": h} for a, h in points]
    return Site(
        name="P", latitude_deg=48.7, longitude_deg=8.1, zone="Europe/Berlin", skyline=skyline
    )


def line(*points):
    return ordered([SkylinePoint(azimuth_deg=a, altitude_deg=h) for a, h in points])


def test_straight_between_points_and_on_through_north():
    drawn = line((90, 10), (270, 20), (350, 30))
    assert skyline_deg(drawn, [90, 180, 310, 350]) == pytest.approx([10, 15, 25, 30])
    assert skyline_deg(drawn, [40, 0]) == pytest.approx([20, 28])  # 100° from 350 over north to 90
    assert skyline_deg((), [0, 200]) == pytest.approx([0, 0])


def test_two_points_at_one_azimuth_make_an_upright_wall():
    wall = line((95, 3), (95, 22), (140, 22), (140, 3))
    assert skyline_deg(wall, [94.99, 95.01, 139.99, 140.01]) == pytest.approx(
        [3, 22, 22, 3], abs=0.01
    )


@given(st.lists(st.tuples(st.floats(0, 360), st.floats(-5, 90)), min_size=1, max_size=30),
       st.floats(0, 360))  # fmt: skip
def test_the_line_never_leaves_the_heights_of_its_points(points, azimuth):
    heights = [height for _, height in points]
    found = float(skyline_deg(line(*points), azimuth))
    assert min(heights) - 1e-9 <= found <= max(heights) + 1e-9
    assert bool(is_behind(line(*points), max(heights), azimuth)) or found < max(heights)


def test_too_many_points_and_wrong_ones_are_refused_by_name():
    with pytest.raises(ValidationError, match="up to 400 points"):
        place(*[(n / 2, 1) for n in range(401)])
    with pytest.raises(ValidationError, match="-5 to 90"):
        place((10, 91))


WALL = place((0, 90), (120, 90), (120, 0), (240, 0), (240, 90))  # only the south is open


def test_behind_the_line_nothing_is_ever_looked_at():
    sky = make_night_sky(THINGS, WALL, make_night(WALL, DAY))
    assert sky.row.size and np.all((sky.azimuth_deg > 119.9) & (sky.azimuth_deg < 240.1))


def test_tonight_and_the_bench_leave_out_what_a_wall_hides():
    night = make_night(WALL, DAY)
    for one in places_of_interest(THINGS, WALL, night, DUSK, 30):
        assert 120 <= one.azimuth_deg <= 240, one.target.label
    west = place((180, 0), (180, 50), (300, 50), (300, 0))
    saturn = saturn_from(west)
    assert saturn.when == "not tonight" and "behind your skyline" in saturn.why
    assert saturn_from(place()).when == "now"


def saturn_from(site):
    """Low in the south-west after dusk."""
    night = make_night(site, DAY)
    tonight = make_tonight(THINGS.bodies_only(), site, night, Now(DUSK), None, "comfort")
    return next(one for one in tonight.sights if one.target.key == "saturn")


def test_a_line_that_hides_everything_leaves_nothing():
    shut = place((0, 90), (360, 90))
    sky = make_night_sky(THINGS, shut, make_night(shut, DAY))
    assert not sky.row.size and np.all(sky.best == -1)
