"""Balance, eyepiece heights, focus, cooling and live readings, by worked values."""

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jade_perch.core.bench.balance import BalanceInput, advise_balance, slide_forward_mm
from jade_perch.core.bench.cooling import (
    CoolInput,
    Forecast,
    Weather,
    advise_cooling,
    dew_point_c,
)
from jade_perch.core.bench.focus import (
    FocusInput,
    advise_focus,
    depth_of_focus_mm,
    landmark_shift_mm,
)
from jade_perch.core.bench.instrument import WINDOW, Watch, read_line, watch_line
from jade_perch.core.bench.landmark import Landmark
from jade_perch.core.bench.seat import StandInput, advise_stand, eyepiece_heights_mm, tube_of
from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Diagonal, Eyepiece, Mount, Observer, Telescope
from tests.guarded import CLEAR, line_text

LENS = Telescope(
    name="L", aperture_mm=85, focal_length_mm=560, design="refractor", tube_length_mm=600,
    pivot_from_front_mm=300, mass_kg=3,
)  # fmt: skip
MIRROR = Telescope(
    name="M", aperture_mm=140, focal_length_mm=760, design="newtonian", tube_length_mm=740,
    pivot_from_front_mm=430, mass_kg=4.6,
)  # fmt: skip
LEGS = Mount(name="L", kind="altaz", foot_radius_mm=480, lowest_mm=800, highest_mm=1400)
TALL = Observer(id=1, name="Tall", eye_height_mm=1750)
SMALL = Observer(id=2, name="Small", eye_height_mm=1100)
NOON = datetime(2027, 2, 13, 12, tzinfo=UTC)
FOG = Forecast(
    air_c=3, humidity_percent=99, hour_utc=NOON, source="simulated", words="Simulated weather"
)


@given(extra=st.floats(0.05, 2), behind=st.floats(-800, 800), tube=st.floats(1, 20))
def test_after_the_slide_both_arms_balance(extra, behind, tube):
    """Moments about the pivot: the tube's own weight now ahead, the load behind."""
    slide = float(slide_forward_mm(extra, behind, tube))
    assert tube * slide == pytest.approx(extra * (behind - slide), abs=1e-6)


def test_a_newtonian_slides_back_for_a_heavy_eyepiece():
    told = advise_balance(BalanceInput(extra_g=500), MIRROR, LEGS, CLEAR)
    assert told.slide_forward_mm < 0 and "back" in told.instruction
    assert "set screw" in told.detail
    with pytest.raises(OutOfRange, match="less taken off than the tube's own 4"):
        advise_balance(BalanceInput(extra_g=-4600), MIRROR, LEGS, CLEAR)
    far = advise_balance(BalanceInput(extra_g=-4500), MIRROR, LEGS, CLEAR)
    assert "counterweight" in far.instruction and not far.is_done
    assert advise_balance(BalanceInput(extra_g=500), LENS, LEGS, CLEAR).slide_forward_mm > 0


def test_heights_of_both_designs():
    """Refractor: the eye goes down as the tube goes up.  Newtonian: it climbs with the tube."""
    lens = tube_of(LENS, Diagonal(name="D", light_path_mm=70))
    assert eyepiece_heights_mm(lens, 1000, [0, 90]) == pytest.approx([1070, 700], abs=0.1)
    mirror = eyepiece_heights_mm(tube_of(MIRROR), 1000, [0, 90])
    assert mirror == pytest.approx([1000, 1000 + 430 - 0.55 * 140], abs=0.1)


def test_people_tall_small_and_kneeling():
    told = advise_stand(StandInput(), LENS, LEGS, None, [TALL, SMALL])
    assert told.eyepiece_high_mm <= SMALL.eye_height_mm  # nobody needs a step
    words = {one.name: one.words for one in told.people}
    assert "sits" in words["Small"] and "kneel" in words["Tall"]  # no height suits both
    alone = advise_stand(StandInput(people_ids=[1]), LENS, LEGS, None, [TALL])
    assert not alone.people[0].warns
    assert told.tipping_deg is not None and told.edge_mm == pytest.approx(240, abs=0.1)
    high = advise_stand(StandInput(pivot_height_mm=1400), LENS, LEGS, None, [TALL, SMALL])
    small = next(one for one in high.people if one.name == "Small")
    assert small.warns and "step" in small.words
    assert "Legs nearly fully out shake: leave the last tenth in." in high.warnings
    low = Mount(name="B", kind="rocker", lowest_mm=330, highest_mm=330)
    kneel = advise_stand(StandInput(), MIRROR, low, None, [TALL])
    assert "kneel" in kneel.people[0].words and any("firm stand" in w for w in kneel.warnings)


@pytest.mark.parametrize("ground", ["deck", "indoors"])
def test_bad_ground_is_not_done(ground):
    told = advise_stand(StandInput(ground=ground), LENS, LEGS, None, [TALL])
    assert not told.is_done and told.warnings


def test_focus_from_landmark_to_star():
    """F = 1000 mm, landmark 101 m: 1000² / 100 000 = 10 mm; f/6.6: 4·0.55 µm·43.6 = 0.096 mm."""
    assert landmark_shift_mm(1000, 101) == pytest.approx(10, abs=1e-9)
    assert depth_of_focus_mm(6.6) == pytest.approx(0.0958, abs=0.0002)
    short = Observer(name="Short", sight_diopters=-4, glasses="sight")
    glass = Eyepiece(id=1, name="E", focal_length_mm=25, apparent_field_deg=50)
    told = advise_focus(
        FocusInput(on="landmark", eyepiece_id=1, landmark=Landmark(bearing_deg=0, distance_m=300)),
        LENS,
        glass,
        [short, TALL],
        CLEAR,
    )
    assert "For stars turn inwards by 1.0 mm" in told.detail  # 560² / 299 440 = 1.05
    assert [one.name for one in told.people] == ["Short"]
    by_word = FocusInput(on="landmark", eyepiece_id=1, landmark=Landmark(far="street"))
    assert "inwards by up to 22 mm" in advise_focus(by_word, LENS, glass, [], CLEAR).detail
    assert told.people[0].shift_mm == pytest.approx(-2.5, abs=0.001)  # 25² · −4 / 1000


@pytest.mark.parametrize(
    ("air_c", "humidity", "dew_c"), [(20, 50, 9.3), (10, 80, 6.7), (0, 60, -6.8), (5, 100, 5.0)]
)
def test_dew_points_of_psychrometric_tables(air_c, humidity, dew_c):
    assert dew_point_c(air_c, humidity) == pytest.approx(dew_c, abs=0.1)


def test_cooling_counts_down_from_when_it_came_out():
    cold = CoolInput(weather=Weather(air_c=10, humidity_percent=90), tube_c=20, out_at_utc=NOON)
    early = advise_cooling(cold, MIRROR, NOON + timedelta(minutes=10), FOG)
    late = advise_cooling(cold, MIRROR, NOON + timedelta(hours=3), FOG)
    assert 30 <= early.cool_minutes <= 60 and late.is_done and not early.is_done
    assert early.minutes_left == pytest.approx(early.cool_minutes - 10, abs=0.01)
    assert 20 <= advise_cooling(cold, LENS, NOON, FOG).cool_minutes <= 30
    assert early.dew_warns and early.optics_c == (6, 8)
    assert "fan" in early.detail and "fan" not in advise_cooling(cold, LENS, NOON, FOG).detail


def test_a_tube_as_cold_as_the_air_or_colder():
    """Air of 20 °C at 50 % has its dew point at 9.3 °C by the tables."""
    air = Weather(air_c=20, humidity_percent=50)
    same = advise_cooling(CoolInput(weather=air, tube_c=20), MIRROR, NOON, FOG)
    assert same.is_done and same.cool_minutes == 0 and "need not wait" in same.instruction
    mild = advise_cooling(CoolInput(weather=air, tube_c=10), MIRROR, NOON, FOG)
    assert mild.is_done and not mild.dew_warns
    wet = advise_cooling(CoolInput(weather=air, tube_c=9), MIRROR, NOON, FOG)
    assert not wet.is_done and wet.dew_warns and "fogs at once" in wet.dew_words


def test_without_a_thermometer_the_hours_count_and_it_is_said_whose_word_it_is():
    simulated = advise_cooling(CoolInput(), LENS, NOON, FOG)
    assert simulated.simulated == "weather" and simulated.dew_words.startswith(
        "Simulated weather: "
    )
    read = FOG.model_copy(update={"source": "file", "words": "By the weather file for 12:00"})
    told = advise_cooling(CoolInput(), LENS, NOON, read)
    assert told.simulated == "" and told.dew_words.startswith("By the weather file for 12:00: Dew")
    assert told.dew_point_c == simulated.dew_point_c


@pytest.mark.parametrize(
    ("humidity", "words", "warns"),
    [
        (95, "Dew falls", True),
        (83, "never wipe", True),
        (78, "may still dew", False),
        (60, "Dry", False),
    ],
)
def test_how_near_dew_is(humidity, words, warns):
    """At 10 °C: dew points 9.2, 7.2, 6.3 and 2.6 °C; optics run at 6 to 8 °C."""
    told = advise_cooling(
        CoolInput(weather=Weather(air_c=10, humidity_percent=humidity)), LENS, NOON, FOG
    )
    assert words in told.dew_words and told.dew_warns is warns


def level(seq, along, across=0.0):
    return line_text("level", seq, along_deg=along, across_deg=across)


def feed(watch, lines):
    shown = None
    for line in lines:
        watch, shown = watch_line(watch, line)
    return watch, shown


def test_a_leap_is_left_out_until_it_stays():
    watch, shown = feed(Watch("level"), [level(n, 0.5) for n in range(WINDOW)])
    assert shown.state == "steady" and shown.values == (0.5, 0.0)
    watch, shown = watch_line(watch, level(WINDOW, 12.0))
    assert shown.state == "jumped" and shown.values == (0.5, 0.0)
    watch, shown = feed(watch, [level(WINDOW + 1 + n, 12.0) for n in range(4)])
    assert shown.state == "moving" and shown.values == (12.0, 0.0)


def test_missed_readings_are_counted_and_rubbish_changes_nothing():
    watch, _ = feed(Watch("level"), [level(0, 1.0), level(1, 1.0), level(5, 1.0)])
    same, shown = watch_line(watch, "\x00 {")
    assert same == watch and shown.state == "rubbish" and shown.missed == 3
    for text in ("[]", "{}", "x" * 900, level(1, 1e999), '{"instrument":"level","seq":-1}', "["):
        with pytest.raises(OutOfRange):
            read_line(text)
    _, other = watch_line(watch, line_text("compass", 6, bearing_deg=10.0))
    assert other.state == "rubbish" and "instrument" in other.words


def test_a_compass_around_north_is_not_averaged_to_south():
    bearings = [359.0, 1.0, 0.5, 359.5, 0.0]
    lines = [line_text("compass", n, bearing_deg=b) for n, b in enumerate(bearings)]
    _, shown = feed(Watch("compass"), lines)
    assert min(shown.values[0], 360 - shown.values[0]) < 0.6
