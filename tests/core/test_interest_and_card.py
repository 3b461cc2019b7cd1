"""What an evening is likely spent on, against another library; and what the card prints."""

import math
from datetime import UTC, date, datetime, timedelta

import ephem
import numpy as np
import pytest

from jade_perch.core.bench.budget import Reading, budget_minutes, make_budget
from jade_perch.core.bench.tracking import horizon_vectors
from jade_perch.core.evening.card import MOST_RUNGS, make_card
from jade_perch.core.evening.context import EveningChoice, EveningRow
from jade_perch.core.evening.desk import ReadyDesk
from jade_perch.core.evening.interest import (
    LOWEST_DEG,
    looking_moment,
    paths_of,
    places_of_interest,
)
from jade_perch.core.evening.rejudge import steps_of
from jade_perch.core.kit import Eyepiece, Finder, Mount, Telescope
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.sky.night import make_night
from jade_perch.core.sky.targets import Placed, Target
from jade_perch.exchange.setup_card_pdf import write_setup_card

COMMON = Site(
    name="Common", latitude_deg=48.7, longitude_deg=8.1, elevation_m=420, zone="Europe/Berlin"
)
NORTH = Site(name="North", latitude_deg=75.0, longitude_deg=20.0, zone="UTC")
AFTERNOON = datetime(2027, 2, 13, 16, 10, tzinfo=UTC)
NIGHT = make_night(COMMON, date(2027, 2, 13))
DUSK = looking_moment(NIGHT, AFTERNOON)


def observer_at(when):
    observer = ephem.Observer()
    observer.lat, observer.lon = math.radians(48.7), math.radians(8.1)
    observer.elevation, observer.pressure = 420, 0
    observer.date = ephem.Date(when.replace(tzinfo=None))
    return observer


def test_looking_begins_at_dark_and_never_in_the_past():
    assert NIGHT.dark[0].start_utc == DUSK
    midnight = datetime(2027, 2, 13, 23, tzinfo=UTC)
    assert looking_moment(NIGHT, midnight) == midnight
    bright = make_night(NORTH, date(2027, 6, 21))
    assert looking_moment(bright, bright.start_utc) == bright.start_utc  # no dark, no sunset
    last_year = NIGHT.start_utc - timedelta(days=300)
    assert looking_moment(NIGHT, last_year) == NIGHT.dark[0].start_utc


def test_bodies_come_first_then_showpieces_by_brightness_all_well_up():
    places = places_of_interest(catalogue(), COMMON, NIGHT, AFTERNOON, 25)
    assert [one.target.label for one in places[:4]] == ["Moon", "Jupiter", "Saturn", "Uranus"]
    assert all(one.altitude_deg >= LOWEST_DEG for one in places)
    assert [one.target.body is not None for one in places] == sorted(
        (one.target.body is not None for one in places), reverse=True
    )
    labels = [one.target.label for one in places]
    assert "M45 Pleiades" in labels and "Rigel" in labels
    assert len(places_of_interest(catalogue(), COMMON, NIGHT, AFTERNOON, 3)) == 3


@pytest.mark.parametrize(
    ("label", "other"),
    [
        ("Moon", ephem.Moon),
        ("Jupiter", ephem.Jupiter),
        ("Rigel", lambda: ephem.star("Rigel")),
        ("Castor", lambda: ephem.star("Castor")),
    ],
)
def test_places_agree_with_another_library(label, other):
    found = next(
        p
        for p in places_of_interest(catalogue(), COMMON, NIGHT, AFTERNOON, 40)
        if p.target.label == label
    )
    body = other()
    body.compute(observer_at(DUSK))
    assert found.altitude_deg == pytest.approx(math.degrees(body.alt), abs=0.05)
    assert found.azimuth_deg == pytest.approx(math.degrees(body.az), abs=0.1)


def test_the_moon_goes_its_own_way_and_stars_turn_with_the_sky():
    """Three hours on, both where another library has them; the Moon fell back by 1.5°."""
    places = [
        next(
            p
            for p in places_of_interest(catalogue(), COMMON, NIGHT, AFTERNOON, 40)
            if p.target.label == name
        )
        for name in ("Moon", "Rigel")
    ]
    paths = paths_of(COMMON, places, DUSK)
    later = DUSK + timedelta(minutes=float(budget_minutes()[-1]))
    for path, body in zip(paths, (ephem.Moon(), ephem.star("Rigel")), strict=True):
        body.compute(observer_at(later))
        expected = horizon_vectors(math.degrees(body.alt), math.degrees(body.az))
        assert path[-1] == pytest.approx(expected, abs=math.radians(0.05))
    as_star = [
        Placed(
            target=places[1].target,
            altitude_deg=places[0].altitude_deg,
            azimuth_deg=places[0].azimuth_deg,
        ),
        places[1],
    ]
    fixed = paths_of(COMMON, as_star, DUSK)
    behind = math.degrees(math.acos(np.clip(fixed[0, -1] @ paths[0, -1], -1, 1)))
    assert behind == pytest.approx(1.5, abs=0.3)


def test_where_nothing_stands_high_the_highest_stands_alone():
    """At the pole in February the catalogue's own sky never empties; a shut one would."""
    high = places_of_interest(
        catalogue(), NORTH, make_night(NORTH, date(2027, 6, 21)), AFTERNOON, 5
    )
    assert high and all(-90 <= one.altitude_deg <= 90 for one in high)


def glass():
    return [
        Eyepiece(id=n + 1, name=f"E{n}", focal_length_mm=4 + n, apparent_field_deg=50)
        for n in range(20)
    ]


def kit(kind="equatorial"):
    tube = Telescope(id=1, name="Tube", aperture_mm=77, focal_length_mm=830, design="refractor")
    ladder = build_ladder(tube, glass(), [], make_viewer(None, COMMON, 3))
    return tube, Mount(name="Head", kind=kind), ladder


def card_of(kind, finders=()):
    tube, mount, _ = kit(kind)
    desk = ReadyDesk(
        moment_utc=AFTERNOON,
        choice=EveningChoice(),
        evening=EveningRow(date=NIGHT.date, site_id=1),
        place=COMMON,
        night=NIGHT,
        telescope=tube,
        mount=mount,
        diagonal=None,
        finders=tuple(finders),
        eyepieces=tuple(glass()),
        amplifiers=(),
        observer=None,
        everybody=(),
    )
    return make_card(desk, steps_of(desk, []))


def test_the_card_has_what_this_mount_needs_and_no_more():
    words = {one.title: one.words for one in card_of("equatorial").steps}
    assert "Latitude scale 48.7°, locked." in words["North and pole"]
    assert "Compass 356°" in words["North and pole"] and "Power on" not in words
    hand = {one.title for one in card_of("rocker").steps}
    assert "North and pole" not in hand and {"Stand", "Sun guard", "Finder"} <= hand
    motor = {one.title: one.words for one in card_of("altaz_motor").steps}
    assert "Latitude scale" not in motor["North and pole"]
    assert motor["Power on"].startswith("Level the base.")


def test_the_card_says_how_far_the_landmark_and_prints_on_one_page():
    finder = Finder(name="Six", kind="straight", magnification=6, offset_mm=100)
    card = card_of("equatorial", [finder])
    words = next(one.words for one in card.steps if one.title == "Finder")
    assert "Six: landmark" in words and "off" not in words  # it has nothing to switch off
    dot = Finder(name="Red", kind="dot", offset_mm=70)
    words = next(o.words for o in card_of("rocker", [dot]).steps if o.title == "Finder")
    assert words.endswith("Switch the dot off afterwards.")
    assert len(card.rungs) == MOST_RUNGS and "a finder is a telescope too" in card.caution
    many = card.model_copy(update={"title": "Ż" * 80, "subtitle": "x" * 160})
    assert write_setup_card(many).count(b"/Type /Page\n") == 1
    assert write_setup_card(card) == write_setup_card(card)  # the same card is the same file


def test_a_budget_of_nothing_but_one_place():
    _, _, ladder = kit()
    readings = {"level": Reading(), "north": Reading(), "pole": Reading()}
    one = [
        Placed(target=Target(key="p", label="Only", kind="star"), altitude_deg=45, azimuth_deg=180)
    ]
    told = make_budget("equatorial", readings, one, ladder.rungs, 48.7)
    assert [t.label for t in told.targets] == ["Only"]
    assert told.targets[0].minutes == [None] * len(ladder.rungs)  # a perfect mount keeps it
