"""What a telescope shows before any evening: more with aperture, less under lamps, no promise."""

import pytest

from jade_perch.core.evening.reach import make_reach
from jade_perch.core.kit import Eyepiece, Telescope
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import catalogue

GLASS = [
    Eyepiece(id=n, name=f"{mm}", focal_length_mm=mm, apparent_field_deg=60)
    for n, mm in enumerate((32, 20, 12, 8), 1)
]


def reach(aperture_mm, dark_class=4, eyepieces=GLASS):
    site = Site(name="P", latitude_deg=48, longitude_deg=8, zone="UTC", dark_sky_class=dark_class)
    viewer = make_viewer(None, site, None)
    tube = Telescope(
        id=1, name="T", aperture_mm=aperture_mm, focal_length_mm=6 * aperture_mm, design="refractor"
    )
    ladder = build_ladder(tube, eyepieces, [], viewer)
    return make_reach(tube, "P", ladder, viewer, catalogue())


def words(found):
    return {one.label.split()[0]: one for one in found.examples}


def test_the_first_small_telescope_is_not_promised_a_camera_s_view():
    found = reach(60, 7)
    assert words(found)["M42"].here == "easy"
    assert words(found)["M101"].here == "not from here"
    told = " ".join(one.expected for one in found.examples)
    assert not any(word in told for word in ("colour", "red", "blue", "green", "spiral", "arm"))
    assert found.faintest_here_mag < found.faintest_dark_mag


@pytest.mark.parametrize(
    ("aperture_mm", "detail_arcsec", "moon_km"),
    [(60, 1.93, 3.6), (116, 1.0, 1.86), (200, 0.58, 1.08)],
)
def test_the_finest_detail_is_dawes_s_and_the_moon_s(aperture_mm, detail_arcsec, moon_km):
    found = reach(aperture_mm)
    assert found.finest_arcsec == pytest.approx(detail_arcsec, abs=0.01)
    assert found.finest_moon_km == pytest.approx(moon_km, abs=0.02)


def test_the_ring_gap_takes_aperture_and_the_belts_do_not():
    small, large = ({one.title: one.is_shown for one in reach(mm).features} for mm in (60, 200))
    assert small["Jupiter's two belts"] and small["Phases of Venus"]
    assert not small["Saturn's ring gap"] and large["Saturn's ring gap"]


def test_more_aperture_and_a_darker_place_show_more_of_every_class():
    for small, large in zip(reach(70).classes, reach(150).classes, strict=True):
        assert small.here <= large.here and small.dark <= large.dark, small.title
        assert small.here <= small.dark and large.here <= large.dark, small.title
    galaxies = next(one for one in reach(150, 8).classes if one.title == "Galaxies")
    assert galaxies.dark > 5 * max(1, galaxies.here)


def test_without_an_eyepiece_there_is_nothing_to_say():
    assert reach(100, eyepieces=[]) is None
