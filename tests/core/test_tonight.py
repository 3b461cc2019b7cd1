"""The evening's list: when, which glass, and what is refused."""

from datetime import UTC, date, datetime, timedelta

import pytest

from jade_perch.core.evening.choose import choose_glass
from jade_perch.core.evening.tonight import direction, make_tonight
from jade_perch.core.kit import Eyepiece, Telescope
from jade_perch.core.moments import Now
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.safety import refused_for_sun, sun_at
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.sky.night import make_night
from jade_perch.core.sky.targets import KINDS

SITE = Site(
    name="Larkstone", latitude_deg=48.7, longitude_deg=8.1, elevation_m=420, zone="Europe/Berlin"
)
NOW = datetime(2027, 2, 13, 16, 10, tzinfo=UTC)
TUBE = Telescope(id=1, name="Tube", aperture_mm=100, focal_length_mm=1000, design="refractor")
GLASS = [
    Eyepiece(id=n, name=str(f), focal_length_mm=f, apparent_field_deg=50)
    for n, f in enumerate((32.0, 20.0, 12.0, 8.0, 5.0), 1)
]


def ladder(steadiness=3, eyepieces=GLASS):
    return build_ladder(TUBE, eyepieces, [], make_viewer(None, None, steadiness))


def tonight(now=NOW, site=SITE, day=date(2027, 2, 13)):
    return make_tonight(
        catalogue().bodies_only(), site, make_night(site, day), Now(now), ladder(), "comfort"
    )


def test_groups_of_the_demo_evening():
    """Jupiter and Mars near opposition, Saturn low in the west, Mercury lost in the glare."""
    found = {t.target.body: t for t in tonight().sights}
    assert found["moon"].when == "now"
    assert {found[b].when for b in ("jupiter", "mars", "saturn")} == {"later"}
    assert found["mercury"].when == "not tonight" and "from the Sun" in found["mercury"].why
    assert found["saturn"].best_until_utc < found["mars"].best_until_utc


def test_a_planet_near_the_sun_is_refused_while_the_sun_is_up():
    found = {t.target.body: t for t in tonight().sights}
    assert found["mercury"].from_sun_deg < 30 and found["mercury"].refused
    assert not found["moon"].refused
    after_dark = {t.target.body: t for t in tonight(NOW + timedelta(hours=3)).sights}
    assert not any(target.refused for target in after_dark.values())


def test_polar_day_leaves_only_the_moon():
    north = Site(name="North", latitude_deg=78.2, longitude_deg=15.6, zone="UTC")
    list_ = tonight(datetime(2027, 6, 20, 22, 0, tzinfo=UTC), north, date(2027, 6, 20))
    assert {t.target.body for t in list_.sights if t.when != "not tonight"} <= {"moon"}
    assert list_.sun.is_up and list_.sun.up_until_utc is None


def test_another_evening_is_shown_for_its_sunset():
    list_ = tonight(NOW, SITE, date(2027, 5, 1))
    assert not list_.at_is_now and list_.at_utc == list_.night.sunset_utc


@pytest.mark.parametrize(
    ("kind", "arcsec", "school", "steadiness", "expected_mm", "why"),
    [
        ("planet", 40, "comfort", 3, 12.0, "air"),  # 83× is the last under 240/2 = 120×
        ("planet", 40, "detail", 5, 12.0, "1 mm"),  # 100× allowed by the school; next is 125×
        ("planet", 40, "steady", 5, 5.0, "strongest"),  # 200× = 0.5 mm exit pupil
        ("moon", 1900, "steady", 5, 12.0, "whole Moon"),  # 0.6° field against 1.3 × 0.53°
    ],
)
def test_how_far_to_climb(kind, arcsec, school, steadiness, expected_mm, why):
    glass = choose_glass(ladder(steadiness), KINDS[kind], arcsec, school)
    expected = 20.0 if kind == "moon" else expected_mm
    assert glass.top_label == f"{expected:g} mm"
    assert why in glass.reason
    assert glass.start_label == "32 mm"


def test_too_strong_for_the_night_is_said():
    glass = choose_glass(ladder(1, GLASS[-1:]), KINDS["planet"], 40, "comfort")
    assert (glass.top_label, "Even your lowest power" in glass.reason) == ("5 mm", True)
    assert choose_glass(ladder(3, []), KINDS["planet"], 40, "comfort") is None


def test_share_of_the_field():
    glass = choose_glass(ladder(), KINDS["planet"], 36.0, "comfort")
    # 36 arcsec at 83.3x in an apparent field of 50°: 36·83.33/3600/50
    assert glass.top_fraction_of_field == pytest.approx(0.01667, abs=0.0001)


@pytest.mark.parametrize(
    ("azimuth", "word"), [(0, "N"), (11.2, "N"), (11.3, "NNE"), (90, "E"), (359, "N"), (225, "SW")]
)
def test_direction_words(azimuth, word):
    assert direction(azimuth) == word


@pytest.mark.parametrize(
    ("up", "apart", "refused"),
    [(True, 29.9, True), (True, 30.0, False), (False, 1.0, False), (True, float("nan"), True)],
)
def test_thirty_degrees(up, apart, refused):
    assert refused_for_sun(up, apart) is refused


def test_the_sun_over_the_site():
    watch = sun_at(SITE, Now(NOW))
    assert watch.is_up and 4 < watch.altitude_deg < 6 and 240 < watch.azimuth_deg < 248
    # ten minutes after it has set, a height of 420 m seeing it 0.6° longer, to the full minute
    late = watch.up_until_utc - make_night(SITE, date(2027, 2, 13)).sunset_utc
    assert timedelta(minutes=12) < late < timedelta(minutes=16)
    assert not sun_at(SITE, Now(NOW + timedelta(hours=2))).is_up
