"""What every step says: one instruction for a glance, and sums that can be followed."""

import re
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.bench.advice import (
    MOST_WORDS,
    clock_direction,
    clock_hour,
    compass_word,
    minutes_words,
    turns_words,
)
from jade_perch.core.bench.balance import BalanceInput, advise_balance
from jade_perch.core.bench.budget import Reading, make_budget
from jade_perch.core.bench.cooling import CoolInput, Weather, advise_cooling
from jade_perch.core.bench.focus import FocusInput, advise_focus
from jade_perch.core.bench.landmark import Landmark
from jade_perch.core.bench.north import NorthInput, advise_north
from jade_perch.core.bench.seat import StandInput, advise_stand
from jade_perch.core.bench.solar import ShadowInput, advise_shadow
from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Eyepiece, Mount, Observer, Telescope
from jade_perch.core.moments import Now
from jade_perch.core.mounts import TRAITS
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.site import Site
from jade_perch.core.sky.targets import Placed, Target
from tests.guarded import CLEAR, check_landmark, check_stars

kinds = st.sampled_from(sorted(TRAITS))
NOON = datetime(2027, 6, 21, 12, tzinfo=UTC)


def check(advice):
    words = advice.instruction.split()
    assert 0 < len(words) <= MOST_WORDS, advice.instruction
    assert advice.instruction[0].isupper() and advice.instruction[-1] in ".?!"
    # one sentence, whatever figures stand in it
    assert not re.search(r"[.?!] [A-Z]", advice.instruction), advice.instruction
    for text in (advice.instruction, advice.detail, advice.noted()):
        assert "nan" not in text.lower().split() and "None" not in text and "inf " not in text
    for opened in advice.sums:
        assert opened.title and opened.formula and opened.worked and opened.result and opened.source
        assert "nan" not in opened.result and "None" not in opened.worked


@st.composite
def tubes(draw):
    design = draw(st.sampled_from(["refractor", "newtonian", "catadioptric"]))
    aperture = draw(st.floats(40, 500))
    length = draw(st.none() | st.floats(200, 3000))
    return Telescope(
        name="T",
        aperture_mm=aperture,
        focal_length_mm=aperture * draw(st.floats(3, 15)),
        design=design,
        tube_length_mm=length,
        pivot_from_front_mm=None if length is None else draw(st.none() | st.floats(0, length)),
        mass_kg=draw(st.none() | st.floats(0.5, 60)),
        eyepiece_angle_deg=draw(st.none() | st.floats(-180, 180)),
    )


@st.composite
def mounts(draw):
    low = draw(st.none() | st.floats(60, 1500))
    return Mount(
        name="M",
        kind=draw(kinds),
        feet=draw(st.integers(3, 4)),
        foot_radius_mm=draw(st.none() | st.floats(60, 1500)),
        lowest_mm=low,
        highest_mm=None if low is None else draw(st.floats(low, 3000)),
    )


people = st.lists(
    st.builds(Observer, name=st.just("P"), eye_height_mm=st.none() | st.floats(600, 2200)),
    max_size=4,
)


@settings(max_examples=80)
@given(tubes(), mounts(), people, st.floats(0, 45), st.floats(46, 90))
def test_stand(tube, mount, persons, low, high):
    given_ = StandInput(lowest_altitude_deg=low, highest_altitude_deg=high)
    told = advise_stand(given_, tube, mount, None, persons)
    check(told)
    assert told.eyepiece_low_mm <= told.eyepiece_high_mm
    if mount.lowest_mm is not None and mount.highest_mm is not None:
        assert mount.lowest_mm <= told.pivot_height_mm <= mount.highest_mm
    for one in told.people:
        assert one.seat_low_mm is None or one.seat_low_mm <= one.seat_high_mm
        # a warning is given exactly when somebody needs a step or has to kneel
        assert one.warns == ("step" in one.words or "kneel" in one.words)


@given(tubes(), mounts(), st.floats(-5000, 5000))
def test_balance(tube, mount, extra):
    try:
        told = advise_balance(BalanceInput(extra_g=extra), tube, mount, CLEAR)
    except OutOfRange as refusal:
        assert refusal.field == "extra_g" and extra < 0
        return
    check(told)


@given(
    tubes(),
    st.floats(-60, 50),
    st.floats(1, 100),
    st.floats(-60, 60),
    st.none() | st.integers(0, 600),
)
def test_cooling(tube, air, humidity, warm, minutes_ago):
    out = None if minutes_ago is None else NOON - timedelta(minutes=minutes_ago)
    weather = Weather(air_c=air, humidity_percent=humidity)
    asked = CoolInput(weather=weather, tube_c=warm, out_at_utc=out)
    told = advise_cooling(asked, tube, NOON, weather)
    check(told)
    assert told.dew_point_c <= air + 1e-9 and told.minutes_left >= 0
    if warm <= air:
        assert told.cool_minutes == 0


@given(tubes(), st.floats(1.5, 60), st.integers(-80, 80), st.floats(50, 200000))
def test_focus(tube, eyepiece_mm, quarters, distance):
    glass = Eyepiece(id=1, name="E", focal_length_mm=eyepiece_mm, apparent_field_deg=50)
    person = Observer(name="P", sight_diopters=quarters / 4)
    for on in ("star", "landmark"):
        landmark = Landmark(bearing_deg=0, distance_m=distance)
        asked = FocusInput(on=on, eyepiece_id=1, landmark=landmark)
        told = advise_focus(asked, tube, glass, [person], CLEAR)
        check(told)
        assert ("For stars" in told.detail) == (on == "landmark")
    assert (told.people[0].shift_mm < 0) == (quarters < 0)


@settings(max_examples=60)
@given(
    st.floats(-88, 88),
    kinds,
    st.floats(0, 360),
    st.floats(0, 360),
    st.none() | st.floats(0, 90),
    st.floats(-100, 100),
)
def test_north(latitude, kind, read, known, scale, drift):
    place = Site(name="S", latitude_deg=latitude, longitude_deg=0, zone="UTC")
    mount = Mount(name="M", kind=kind)
    for asked in (
        NorthInput(method="landmark", read_deg=read, known_deg=known, scale_deg=scale),
        NorthInput(method="drift", drift_arcmin=drift, drift_minutes=10, scale_deg=scale),
        NorthInput(method="compass", near_iron=True),
        NorthInput(method="shadow"),
        NorthInput(method="polaris"),
    ):
        try:
            told = advise_north(asked, place, mount, NOON, CLEAR)
        except OutOfRange as refusal:
            assert refusal.field == "method" and asked.method in refusal.value
            continue
        check(told)
        assert told.azimuth_doubt_deg > 0
        assert set(told.figures()) == {
            "azimuth_error_deg",
            "azimuth_doubt_deg",
            "pole_altitude_error_deg",
            "pole_altitude_doubt_deg",
        }


@settings(max_examples=40)
@given(st.floats(-80, 80), st.floats(0, 360), st.floats(-10, 60), st.integers(0, 364))
def test_sun_guard(latitude, bearing, altitude, days):
    place = Site(name="S", latitude_deg=latitude, longitude_deg=8, zone="UTC")
    landmark = Landmark(bearing_deg=bearing, altitude_deg=altitude, distance_m=500)
    for told in (
        check_landmark(place, landmark, NOON + timedelta(days=days)),
        check_stars(place, NOON + timedelta(days=days), 20),
    ):
        check(told)
        assert told.is_done != told.refused
        assert told.refused == told.instruction.startswith("Refused")
        assert told.allowed_from_utc is None or told.refused


@given(tubes(), st.floats(10, 5000), st.floats(10, 2000))
def test_shadow(tube, length, width):
    for clock in ("real", "held", "rehearsal"):
        asked = ShadowInput(shadow_length_mm=length, shadow_width_mm=width)
        told = advise_shadow(asked, tube, Now(NOON, clock), CLEAR)
        check(told)
        # nobody is sent to the eyepiece by a clock that cannot know the Sun
        assert ("look through" in told.instruction) == (told.is_done and clock == "real")
    assert 0 <= float(told.detail.split("points ")[1].split("°")[0]) <= 90


@settings(max_examples=30)
@given(kinds, st.floats(-85, 85), st.floats(5, 90), st.floats(0, 360), st.floats(0, 300))
def test_budget(kind, latitude, altitude, azimuth, tilt):
    tube = Telescope(name="T", aperture_mm=100, focal_length_mm=900, design="refractor")
    glass = [Eyepiece(id=1, name="E", focal_length_mm=20, apparent_field_deg=60)]
    rungs = build_ladder(tube, glass, [], make_viewer(None, None, 3)).rungs
    readings = {
        "level": Reading(value_deg=tilt / 60, doubt_deg=5 / 60, toward_deg=30, is_recorded=True),
        "north": Reading(doubt_deg=10),
        "pole": Reading(doubt_deg=2),
    }
    place = [
        Placed(
            target=Target(key="p", label="P", kind="star"),
            altitude_deg=altitude,
            azimuth_deg=azimuth,
        )
    ]
    told = make_budget(TRAITS[kind].drive, readings, place, rungs, latitude)
    check(told)
    (stay,) = told.targets[0].worst_minutes
    assert stay is None or stay >= 0


@pytest.mark.parametrize(
    ("turns", "words"),
    [
        (0.05, "⅛ turn"),
        (0.26, "¼ turn"),
        (-0.5, "½ turn"),
        (1.0, "1 turn"),
        (2.6, "2½ turns"),
        (11.11, "11 turns"),
    ],
)
def test_turns_in_words(turns, words):
    assert turns_words(turns) == words


@pytest.mark.parametrize(
    ("minutes", "words"),
    [(0.5, "30 s"), (4.4, "4 min"), (119, "119 min"), (150, "2.5 h"), (float("inf"), "all night")],
)
def test_minutes_in_words(minutes, words):
    assert minutes_words(minutes) == words


@given(st.integers(1, 12))
def test_a_clock_face_there_and_back(hour):
    assert clock_hour(*clock_direction(hour)) == hour


@pytest.mark.parametrize(
    ("azimuth", "word"), [(0, "north"), (22, "north"), (46, "north-east"), (359, "north")]
)
def test_compass_words(azimuth, word):
    assert compass_word(azimuth) == word
