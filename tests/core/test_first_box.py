"""A newcomer's words: labels, positions, darkness, and what is put together in which order."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jade_perch.core.bench.advice import MOST_WORDS
from jade_perch.core.bench.assemble import PARTS, AssembleInput, advise_assembly, parts_of
from jade_perch.core.designs import DESIGN_TRAITS
from jade_perch.core.errors import OutOfRange
from jade_perch.core.finders import FINDER_TRAITS
from jade_perch.core.kit import Diagonal, Finder, Mount, Telescope
from jade_perch.core.labels import Box, read_barlow, read_box, read_eyepieces, read_telescope
from jade_perch.core.mounts import TRAITS
from jade_perch.core.position import read_position
from jade_perch.core.sky.brightness import naked_eye_limit_mag
from jade_perch.core.sky.catalogue import stars_within, unit_vectors
from jade_perch.core.sky.darkness import (
    FIGURES,
    DarknessInput,
    judge_darkness,
    limit_of_count,
    mpsas_of_limit,
)


@pytest.mark.parametrize(
    ("printed", "numbers"),
    [
        ("105/480", (105, 480)),
        ("D=105 F=480", (105, 480)),
        ("105480", (105, 480)),
        ("F=480 mm  D=105 mm", (105, 480)),
        ("480 / 105", (105, 480)),
        ("70700", (70, 700)),
        ("2001000", (200, 1000)),
        ("130mm f/5", (130, 650)),
        ("D 76,2 mm F 700 mm", (76.2, 700)),
        ("60/700 525x", (60, 700)),
        ("F=900 f/9", (100, 900)),
    ],
)
def test_what_is_printed_is_understood_and_said_back(printed, numbers):
    label = read_telescope(printed)
    assert (label.aperture_mm, label.focal_length_mm) == pytest.approx(numbers, abs=0.01)
    assert f"{numbers[0]:g} mm aperture" in label.words and "f/" in label.words


@pytest.mark.parametrize("printed", ["", "105", "telescope", "5/4", "1000000", "105/110", "480"])
def test_a_label_that_says_too_little_names_the_cure(printed):
    with pytest.raises(OutOfRange, match="105/480") as caught:
        read_telescope(printed)
    assert caught.value.field == "printed"


def test_eyepieces_and_barlow_by_their_labels():
    assert [one.focal_length_mm for one in read_eyepieces("K25 SR4, 12,5 mm")] == [25, 12.5, 4]
    assert [one.name for one in read_eyepieces("25,10")] == ["25 mm", "10 mm"]
    assert read_eyepieces("") == [] and read_barlow(" ") is None
    assert read_barlow("2x").factor == 2
    for field, call in (("eyepieces", lambda: read_eyepieces("none")),
                        ("eyepieces", lambda: read_eyepieces("250")),
                        ("barlow", lambda: read_barlow("10x"))):  # fmt: skip
        with pytest.raises(OutOfRange) as caught:
            call()
        assert caught.value.field == field


def test_a_box_makes_a_kit_and_says_nothing_nobody_said():
    box = Box(
        printed="105480", mount_kind="yoke", finder_kind="dot", eyepieces="25 10", barlow="2x"
    )
    read = read_box(box)
    assert read.words.endswith("25 mm, 10 mm, Barlow 2×")
    assert read.finder.power == 1 and read.finder.screw_count == 2
    # as usual is not as measured: nothing of it is stored
    unsaid = ("magnification", "screws", "offset_mm", "clock_hour", "lever_mm", "thread_pitch_mm")
    assert all(getattr(read.finder, field) is None for field in unsaid)
    assert read.mount.foot_radius_mm is None and read.eyepieces[0].apparent_field_deg is None


@pytest.mark.parametrize(
    "text",
    [
        "geo:48.7,8.1;u=35",
        "https://map.example/@48.7,8.1,15z",
        "https://map.example/#map=15/48.70/8.10",
        "https://map.example/?mlat=48.7&mlon=8.1",
        "https://map.example/?q=48.7%2C8.1",
        "48.7, 8.1",
        "48,7 8,1",
        "48° 42′ 0″ N 8° 6′ E",
        "N 48° 42' E 8° 6'",
        "8.1 E 48.7 N",
    ],
)
def test_a_position_in_any_of_its_forms(text):
    found = read_position(text)
    assert (found.latitude_deg, found.longitude_deg) == pytest.approx((48.7, 8.1), abs=1e-6)


@given(st.floats(-90, 90), st.floats(-180, 180))
def test_degrees_minutes_and_seconds_come_back(latitude, longitude):
    def dms(value, sides):
        size = round(abs(value) * 3600)
        words = f"{size // 3600}° {size % 3600 // 60}′ {size % 60}″"
        return f"{words} {sides[value < 0]}"

    found = read_position(f"{dms(latitude, 'NS')} {dms(longitude, 'EW')}")
    assert found.latitude_deg == pytest.approx(latitude, abs=0.5 / 3600 + 1e-9)
    assert found.longitude_deg == pytest.approx(longitude, abs=0.5 / 3600 + 1e-9)


@pytest.mark.parametrize("text", ["", "home", "91, 8", "48.7", "48° 61′ N 8° E", "geo:48.7"])
def test_a_position_that_is_none_says_how(text):
    with pytest.raises(OutOfRange, match="geo: address") as caught:
        read_position(text)
    assert caught.value.field == "position"


# right ascension and declination in degrees, J2000, in the order of the figure's magnitudes
PLACES = {
    "little_bear": [
        (37.95, 89.26), (222.68, 74.16), (230.18, 71.83), (251.49, 82.04), (236.01, 77.79),
        (263.05, 86.59), (244.38, 75.76),
    ],
    "southern_cross": [
        (186.65, -63.10), (191.93, -59.69), (187.79, -57.11), (183.79, -58.75), (185.34, -60.40),
    ],
}  # fmt: skip


def brightest_near(ra_deg, dec_deg, radius_deg):
    direction = unit_vectors(np.array([ra_deg]), np.array([dec_deg]))[0]
    return np.sort(stars_within(direction, radius_deg)[1])


def test_the_figures_are_those_of_the_sky():
    """Each star of the figures by the shipped catalogue, in whose band red ones are brighter."""
    for name, places in PLACES.items():
        found = sorted(brightest_near(ra, dec, 0.2)[0] for ra, dec in places)
        assert found == pytest.approx(list(FIGURES[name].magnitudes), abs=0.25)
    sisters = brightest_near(56.85, 24.12, 1.1)[: len(FIGURES["seven_sisters"].magnitudes)]
    assert list(sisters) == pytest.approx(list(FIGURES["seven_sisters"].magnitudes), abs=0.2)


def test_darkness_by_three_questions():
    assert limit_of_count("little_bear", 3) == pytest.approx((3.00 + 4.21) / 2, abs=1e-9)
    for limit in (3.5, 5.0, 6.4):
        assert naked_eye_limit_mag(mpsas_of_limit(limit)) == pytest.approx(limit, abs=1e-6)
    dark = judge_darkness(DarknessInput(milky_way="lanes", counted=7, glow="none"))
    city = judge_darkness(DarknessInput(milky_way="none", counted=2, glow="grey"))
    assert dark.dark_sky_class <= 4 < 8 <= city.dark_sky_class
    alone = judge_darkness(DarknessInput(glow="around"))  # 19.9 lies nearest to class 5
    assert alone.dark_sky_class == 5 and "Class 5 of 9" in alone.words
    south = judge_darkness(DarknessInput(figure="southern_cross", counted=5))
    assert 1 <= south.dark_sky_class <= 9
    for wrong in (DarknessInput(), DarknessInput(figure="southern_cross", counted=6)):
        with pytest.raises(OutOfRange):
            judge_darkness(wrong)


def telescope(design):
    return Telescope(name="T", aperture_mm=105, focal_length_mm=480, design=design)


@pytest.mark.parametrize("kind", TRAITS)
@pytest.mark.parametrize("design", DESIGN_TRAITS)
def test_every_telescope_is_put_together_in_the_order_of_the_hands(kind, design):
    finders = [Finder(name="F", kind=one) for one in FINDER_TRAITS]
    for finder in finders:
        parts = parts_of(
            telescope(design), Mount(name="M", kind=kind), Diagonal(name="D"), [finder]
        )
        assert len(parts) == len(set(parts)) and set(parts) <= set(PARTS)
        assert parts[-1].endswith("caps")  # last, and counted
        assert parts.index("diagonal") < parts.index("eyepiece")
        assert ("cell" in parts) == finder.traits.has_battery
        for name in ("legs", "tray", "head"):  # what stands comes before what is put on it
            assert name not in parts or parts.index(name) < parts.index("eyepiece")
        told = advise_assembly(AssembleInput(), parts, set())
        assert told.next_part == parts[0] and len(told.instruction.split()) <= MOST_WORDS
        assert advise_assembly(AssembleInput(done=parts), parts, set()).is_done
        half = advise_assembly(AssembleInput(undone=[parts[0]]), parts, set(parts))
        assert half.next_part == parts[0] and not half.is_done


def test_every_hand_movement_says_what_why_and_what_goes_wrong():
    for part in PARTS.values():
        assert len(part.words.split()) <= MOST_WORDS and part.words.endswith(".")
        assert part.why and part.slip and part.words.count(".") == 1
