"""The evening's list: when, which glass, and what is refused."""

from datetime import UTC, date, datetime, timedelta

import pytest

from jade_perch.core.evening.choose import choose_glass
from jade_perch.core.evening.tonight import direction, make_tonight
from jade_perch.core.kit import Amplifier, Eyepiece, Telescope
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
        ("planet", 40, "comfort", 3, 12.0, "Above 120× tonight's air"),  # 83× the last under 240/2
        ("planet", 40, "detail", 5, 12.0, "125× would leave an exit pupil under 1 mm"),
        ("planet", 40, "steady", 5, 5.0, "strongest on this ladder"),  # 200× = 0.5 mm exit pupil
        ("moon", 1900, "steady", 5, 20.0, "At 83× the whole Moon"),  # 0.6° against 1.3 · 0.53°
    ],
)
def test_how_far_to_climb(kind, arcsec, school, steadiness, expected_mm, why):
    glass = choose_glass(ladder(steadiness), KINDS[kind], arcsec, school)
    assert glass.top.label == f"{expected_mm:g} mm"
    assert why in glass.top.reason
    assert glass.start_label == "32 mm"


def test_the_moon_is_climbed_to_whole_and_in_detail():
    glass = choose_glass(ladder(5), KINDS["moon"], 1900, "steady")
    assert (glass.top.label, glass.top.is_detail) == ("20 mm", False)
    assert (glass.detail.label, glass.detail.is_detail) == ("5 mm", True)  # 0.5 mm exit pupil
    assert choose_glass(ladder(5), KINDS["planet"], 40, "steady").detail is None


def test_calm_moments_reward_a_little_more_than_the_air():
    """The air ends at 120×: 125× is within a quarter of it, 200× is not."""
    four = [*GLASS[:2], GLASS[3]]
    told = choose_glass(ladder(3, four), KINDS["planet"], 40, "steady").top.reason
    assert told.endswith("In calm moments also 125×.")
    three = [*GLASS[:2], GLASS[4]]
    assert "calm" not in choose_glass(ladder(3, three), KINDS["planet"], 40, "steady").top.reason


def test_the_rung_that_is_named_keeps_every_limit_itself():
    """An 18 mm with a narrow field lies under the power limit, yet cuts the Moon off; a twin of
    the rung to climb to is kept only where it shows the Moon whole too."""
    narrow = Eyepiece(id=9, name="N", focal_length_mm=25, apparent_field_deg=18)
    glass = choose_glass(ladder(3, [*GLASS[:1], narrow]), KINDS["moon"], 1900, "comfort")
    assert glass.top.label == "32 mm" and glass.top.fraction_of_field * 1.3 <= 1
    tight = Eyepiece(id=8, name="T", focal_length_mm=19.5, apparent_field_deg=30, eye_relief_mm=30)
    wide = GLASS[1].model_copy(update={"eye_relief_mm": 5.0})
    made = ladder(3, [GLASS[0], wide, tight])
    assert made.twins[0].keep == "e8"
    assert choose_glass(made, KINDS["moon"], 1900, "comfort").top.label == "20 mm"


def test_too_strong_for_the_night_is_said_without_nonsense():
    glass = choose_glass(ladder(1, GLASS[-1:]), KINDS["planet"], 40, "comfort")
    assert glass.top.label == "5 mm"
    assert glass.top.reason.startswith("Nothing you own keeps every limit. 200× would leave")
    moon = choose_glass(ladder(3, GLASS[-1:]), KINDS["moon"], 1900, "steady")
    assert moon.top.is_detail and "the whole Moon no longer fits" in moon.top.reason
    assert "above 0×" not in moon.top.reason
    assert choose_glass(ladder(3, []), KINDS["planet"], 40, "comfort") is None


def test_what_waits_in_the_box_is_said_where_the_climb_ends():
    doubler = Amplifier(id=1, name="Doubler", factor=2)
    wide = Amplifier(id=2, name="Two inch", factor=2, barrel_in="2")  # does not fit this focuser
    viewer = make_viewer(None, None, 5)
    made = build_ladder(TUBE, GLASS[:3], [], viewer, waiting=[doubler, wide])
    assert made.waiting_words == "Doubler waits in the box: first learn these rungs without."
    told = choose_glass(made, KINDS["planet"], 40, "steady").top.reason
    assert told.startswith("83× is the strongest on this ladder. Doubler waits")


def test_share_of_the_field():
    glass = choose_glass(ladder(), KINDS["planet"], 36.0, "comfort")
    # 36 arcsec at 83.3x in an apparent field of 50°: 36·83.33/3600/50
    assert glass.top.fraction_of_field == pytest.approx(0.01667, abs=0.0001)


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
