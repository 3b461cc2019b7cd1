"""Tonight's list over everything: a first night, a city, a dark place, the south, and nothing."""

from datetime import UTC, date, datetime

import numpy as np
import pytest

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.closer import look_closer
from jade_perch.core.evening.context import EveningChoice, EveningRow
from jade_perch.core.evening.desk import Desk
from jade_perch.core.evening.prospects import make_case, make_prospects
from jade_perch.core.evening.tonight import make_tonight
from jade_perch.core.kit import Eyepiece, Observer, Telescope
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.sky.night import make_night
from jade_perch.core.sky.seen import WORDS
from jade_perch.core.skyline import SkylinePoint

THINGS = catalogue()
COMMON = Site(
    name="P", latitude_deg=48.7, longitude_deg=8.1, elevation_m=420, zone="Europe/Berlin",
    dark_sky_class=4,
)  # fmt: skip
SOUTH = Site(
    name="S", latitude_deg=-38.9, longitude_deg=177.5, zone="Pacific/Auckland", dark_sky_class=3
)
TUBE = Telescope(id=1, name="T", aperture_mm=140, focal_length_mm=760, design="newtonian")
GLASS = tuple(
    Eyepiece(id=n, name=f"{mm}", focal_length_mm=mm, apparent_field_deg=60)
    for n, mm in enumerate((30, 18, 13, 7.5), 1)
)
EVENING = datetime(2027, 2, 13, 19, 30, tzinfo=UTC)
MOONLESS = date(2027, 3, 5)


def desk(site=COMMON, day=date(2027, 2, 13), now=EVENING, **more):
    values = {
        "moment_utc": now,
        "choice": EveningChoice(),
        "evening": EveningRow(date=day, site_id=1),
        "place": site,
        "night": make_night(site, day),
        "telescope": TUBE,
        "mount": None,
        "diagonal": None,
        "finders": (),
        "eyepieces": GLASS,
        "amplifiers": (),
        "observer": None,
        "everybody": (),
    }
    return Desk(**{**values, **more})


def case_of(one, noted=()):
    ladder = one.ladder_of(one.telescope, None) if one.telescope and one.eyepieces else None
    at = (one.place, one.night, one.now, ladder, one.choice.school)
    tonight = make_tonight(THINGS.bodies_only(), *at)
    return make_case(one, THINGS, tonight, ladder, frozenset(noted))


def listed(one, name=None, noted=()):
    return make_prospects(case_of(one, noted), one, name)


def names(found, when=("now", "later")):
    return [one.target.label for one in found.prospects if one.when in when]


def test_a_dark_place_shows_what_it_is_known_for_and_says_when_and_why():
    found = listed(desk())
    shown = {one.target.key: one for one in found.prospects}
    assert {"moon", "jupiter", "m35", "m31" if "m31" in shown else "m45"} <= set(shown)
    for one in found.prospects:
        assert one.reason and one.expected.endswith(".")
        if one.when == "not tonight":
            assert one.word == "not from here"
        else:
            assert one.from_utc <= one.until_utc and one.margin >= WORDS[-1][1]
            assert one.from_utc <= one.best_utc <= one.until_utc or one.sight
    order = [one.when for one in found.prospects]
    assert order == sorted(order, key=["now", "later", "not tonight"].index)


def test_what_sets_soon_says_that_it_goes_first():
    saturn = next(one for one in listed(desk()).prospects if one.target.key == "saturn")
    # it stands 17° up at half past eight and falls under ten degrees by a quarter to nine
    assert saturn.when == "now" and saturn.reason.startswith("Sets first: under 10° 20:4")


def test_the_moon_is_why_and_when_it_is_gone_is_said():
    words = {one.target.key: one.reason for one in listed(desk()).prospects}
    assert any("Moon gone after 01:5" in reason for reason in words.values())
    dark = listed(desk(day=MOONLESS, now=datetime(2027, 3, 5, 19, tzinfo=UTC)))
    assert not any("Moon gone" in one.reason for one in dark.prospects)


def test_a_city_keeps_to_what_stands_light():
    city = COMMON.model_copy(update={"dark_sky_class": 8})
    found = listed(desk(city))
    assert found.listed == "city"
    kinds = {one.target.kind for one in found.prospects if one.when != "not tonight"}
    assert kinds and not kinds & {"galaxy", "nebula", "supernova remnant"}
    everything = listed(desk(city), "usual")
    m74 = look_closer(case_of(desk(city)), "M74")
    assert m74.prospect.word == "not from here"
    assert len(names(everything)) >= len(names(found))


def test_a_first_night_is_short_bright_and_easy():
    new = TUBE.model_copy(update={"is_new": True})
    found = listed(desk(telescope=new))
    assert found.listed == "first"
    shown = [one for one in found.prospects if one.when != "not tonight"]
    assert {one.target.kind for one in shown} >= {"moon", "planet", "star"}
    deep = [one for one in shown if one.target.traits.shape in ("cluster", "glow")]
    assert len(deep) == 2 and all(one.word == "easy" for one in deep)


def test_the_south_has_its_own_showpieces():
    now = datetime(2027, 2, 13, 10, 0, tzinfo=UTC)  # eleven at night there
    found = listed(desk(SOUTH, now=now))
    text = " ".join(names(found))
    assert "Omega Centauri" in text and "47 Tuc" in text
    assert "M81" not in text and "Polaris" not in text


def test_a_night_in_which_nothing_shows_says_why_and_what_would_help():
    shut = COMMON.model_copy(update={"skyline": (SkylinePoint(azimuth_deg=0, altitude_deg=90),)})
    found = listed(desk(shut))
    assert names(found) == [] and "skyline" in found.words
    north = COMMON.model_copy(update={"latitude_deg": 75.0})
    day = desk(north, date(2027, 6, 21), datetime(2027, 6, 21, 22, tzinfo=UTC))
    bright = listed(day)
    assert not any(one.target.traits.shape in ("glow", "cluster") and one.when != "not tonight"
                   for one in bright.prospects)  # fmt: skip


def test_polar_night_is_one_long_list():
    arctic = COMMON.model_copy(update={"latitude_deg": 78.0})
    found = listed(desk(arctic, date(2027, 12, 20), datetime(2027, 12, 20, 12, tzinfo=UTC)))
    assert len(names(found, ("now",))) > 10


def test_without_a_glass_the_eye_alone_is_meant():
    found = listed(desk(telescope=None, eyepieces=()))
    shown = [one for one in found.prospects if one.when != "not tonight"]
    assert shown and all(one.rung_key is None for one in shown)
    assert "M101" not in " ".join(names(found))


def test_what_was_noted_says_so_and_yields_to_what_was_not():
    first = listed(desk())
    key = "m45"
    again = {one.target.key: one for one in listed(desk(), noted=[key]).prospects}
    assert again[key].is_noted and not any(one.is_noted for one in first.prospects)


def test_a_target_told_whole_names_its_best_rung_and_what_helps():
    case = case_of(desk(day=MOONLESS, now=datetime(2027, 3, 5, 20, tzinfo=UTC)))
    m101 = look_closer(case, "M101")
    assert m101.prospect.word in ("with care", "at the limit")
    assert sum(one.is_named for one in m101.rungs) == 1 and m101.sum.result.endswith(
        m101.prospect.word
    )
    hidden = look_closer(case, "NGC 104")
    assert hidden.prospect.reason == "Below the horizon all night." and not hidden.rungs
    with pytest.raises(OutOfRange, match="target"):
        look_closer(case, "sun")


def test_craters_show_by_the_light_on_them():
    quarter = case_of(desk())
    night = look_closer(quarter, "Crater Grimaldi")
    assert night.prospect.word == "not from here" and "night" in night.light_words
    edge = look_closer(quarter, "Mare Vaporum")
    assert edge.prospect.word == "easy" and "low light" in edge.light_words
    tiny = look_closer(quarter, "Crater Linné")
    assert tiny.prospect.word in ("with care", "at the limit", "not from here")


def test_a_practised_eye_sees_more():
    much = Observer(name="O", practice="much")
    first = Observer(name="F", practice="first")
    moonless = {"day": MOONLESS, "now": datetime(2027, 3, 5, 20, tzinfo=UTC)}
    margins = [
        look_closer(case_of(desk(observer=one, **moonless)), "M101").prospect.margin
        for one in (first, much)
    ]
    # 2.8 over 1.4 is 0.3 in log10; by whichever part of the target it is seen
    assert margins[1] - margins[0] == pytest.approx(np.log10(2.8 / 1.4), abs=0.02)


def test_a_sky_nobody_described_is_said_to_be_assumed():
    unknown = COMMON.model_copy(update={"dark_sky_class": None})
    assert "taken as class 5" in listed(desk(unknown)).assumed
    by_eye = unknown.model_copy(update={"naked_eye_limit_mag": 5.5})
    assert listed(desk()).assumed == listed(desk(by_eye)).assumed == ""


def test_a_list_asked_for_again_is_the_same_until_something_is_noted():
    one = desk()
    first = listed(one)
    assert listed(one) == first
    finest = next(found for found in first.prospects if found.target.kind == "open cluster")
    noted = [found.target.key for found in first.prospects if found.target.key != finest.target.key]
    again = listed(one, noted=noted)
    place = names(again).index(finest.target.label)
    assert place <= names(first).index(finest.target.label)
    said = {found.target.key for found in again.prospects if found.is_noted}
    assert said and said <= set(noted), "and not what the list said before"
