"""What is seen: the published threshold, the light of the sky, and well-known experiences."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jade_perch.core.site import LightDome, Site
from jade_perch.core.sky.air import airmass
from jade_perch.core.sky.brightness import CLASS_MPSAS, luminance_cd_m2
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.sky.seen import Glasses, see, word_of
from jade_perch.core.sky.skylight import (
    dome_factor,
    moonlight_cd_m2,
    site_glow_cd_m2,
    twilight_cd_m2,
)
from jade_perch.core.sky.sources import sources_of
from jade_perch.core.sky.visibility import contrast_threshold, star_limit_mag

THINGS = catalogue()
EYE_MM = 6.0
PUPILS_MM = np.array([6, 5, 4, 3, 2.2, 1.6, 1.1, 0.8])  # a set of eyepieces, by what they give
LIGHT_LET_THROUGH = 0.75


def glass(aperture_mm):
    """A telescope with eyepieces from the widest to detail; 0 is the eye alone."""
    if aperture_mm == 0:
        return Glasses(*(np.array([one]) for one in (1.0, 90.0, 1.0, 1.0, EYE_MM)))
    power = aperture_mm / PUPILS_MM
    wide = math.degrees(35.6 / (6 * aperture_mm))  # the field stop of a 2 in eyepiece at f/6
    return Glasses(
        magnification=power,
        true_field_deg=np.minimum(60 / power, wide),
        relative_brightness=LIGHT_LET_THROUGH * (PUPILS_MM / EYE_MM) ** 2,
        star_gain=LIGHT_LET_THROUGH * (aperture_mm / EYE_MM) ** 2 * np.ones(PUPILS_MM.size),
        working_aperture_mm=np.full(PUPILS_MM.size, float(aperture_mm)),
    )


def margin_of(name, aperture_mm, sky_mpsas, field_factor=2.0):
    row = THINGS.row_of(name)
    sources = sources_of(THINGS, np.array([row]))
    sky = np.array([luminance_cd_m2(sky_mpsas)])
    seen = see(sources, glass(aperture_mm), sky, np.zeros(1), field_factor)
    return float(seen.best[0])


# object, aperture (0: the eye alone), class of the place, the word, and why it is expected
EXPERIENCES = [
    ("M45", 0, 5, "easy", "everybody's first cluster, also from a suburb"),
    ("M45", 0, 8, "clear", "a small knot of stars over any town"),
    ("M44", 0, 4, "clear", "the misty patch of old weather lore"),
    ("M44", 0, 8, "at the limit", "gone to most people in a city"),
    ("M31", 0, 3, "clear", "the farthest thing one sees by eye, easily in the country"),
    ("M31", 0, 8, "not from here", "nobody sees it by eye from a city"),
    ("M33", 0, 1, "at the limit", "the classic test of the very best skies"),
    ("M33", 0, 5, "not from here", "and of no others"),
    ("M13", 0, 2, "at the limit", "a star that is not quite one, in a truly dark place"),
    ("NGC 5139", 0, 4, "clear", "catalogued as a star before there were telescopes"),
    ("NGC 7000", 0, 5, "not from here", "needs a dark sky, whatever pictures show"),
    ("M42", 60, 8, "easy", "the showpiece of every first telescope, in town too"),
    ("NGC 869", 60, 8, "easy", "bright stars in a bright sky"),
    ("M35", 60, 7, "easy", "a scatter of stars in the smallest telescope"),
    ("M57", 60, 7, "clear", "small and bright: it takes power and stands light"),
    ("M27", 60, 5, "clear", "the easiest planetary nebula"),
    ("M27", 60, 8, "with care", "and a pale patch in town"),
    ("M67", 60, 7, "with care", "old and faint-starred, a haze in town"),
    ("M22", 60, 6, "easy", "the brightest globular most people can see"),
    ("M92", 60, 7, "clear", "a round glow beside its famous neighbour"),
    ("M31", 80, 4, "easy", "a long glow in any telescope"),
    ("M81", 80, 5, "easy", "bright middle, found by every beginner in the country"),
    ("M51", 80, 8, "not from here", "two faint glows drown in a city"),
    ("M51", 100, 5, "with care", "two smudges from a suburb's edge"),
    ("M51", 140, 3, "clear", "and plain in the country"),
    ("M101", 80, 7, "not from here", "large, face-on, the first thing a bright sky takes"),
    ("M101", 80, 5, "at the limit", "a suspicion, known to be there"),
    ("M101", 140, 4, "with care", "faint but there with averted vision"),
    ("M74", 80, 4, "with care", "known as the hardest of the classic galaxies"),
    ("M1", 80, 8, "not from here", "many beginners never find it in town"),
    ("M1", 80, 4, "clear", "a plain oval in the country"),
    ("M104", 80, 5, "clear", "compact and bright"),
    ("M33", 140, 4, "clear", "a large pale glow at the lowest power"),
    ("M33", 80, 5, "with care", "more glow than thing from a suburb's edge"),
    ("NGC 4565", 140, 4, "clear", "a needle with a brighter middle"),
    ("NGC 7293", 80, 6, "at the limit", "huge and faint, lost in a suburb"),
    ("NGC 6992", 140, 3, "with care", "a faint arc without a filter"),
    ("NGC 6992", 80, 6, "not from here", "hopeless from a suburb"),
    ("NGC 1499", 140, 3, "at the limit", "known for being hard"),
    ("IC 434", 140, 3, "not from here", "what a famous dark nebula is seen against"),
    ("NGC 7320", 80, 4, "not from here", "of a famous tight group"),
    ("NGC 7320", 200, 3, "at the limit", "which takes a large telescope and patience"),
    ("NGC 2392", 80, 5, "easy", "a fuzzy star at once"),
    ("Albireo", 60, 8, "easy", "wide and bright, from any balcony"),
]


@pytest.mark.parametrize(
    ("name", "aperture_mm", "dark_class", "word", "why"),
    EXPERIENCES,
    ids=[f"{name} {mm} mm class {dark}" for name, mm, dark, *_ in EXPERIENCES],
)
def test_well_known_experiences(name, aperture_mm, dark_class, word, why):
    assert word_of(margin_of(name, aperture_mm, CLASS_MPSAS[dark_class])) == word, why


@given(
    st.sampled_from([one[0] for one in EXPERIENCES]),
    st.floats(60, 300),
    st.floats(17.5, 21.9),
    st.floats(0.1, 1.5),
)
def test_a_darker_sky_and_more_light_never_hurt(name, aperture_mm, mpsas, darker):
    here = margin_of(name, aperture_mm, mpsas)
    assert margin_of(name, aperture_mm, mpsas + darker) >= here - 1e-9
    practised = margin_of(name, aperture_mm, mpsas, field_factor=1.4)
    is_split = name == "Albireo"  # a wide bright pair is held back by its distance alone
    assert practised > here or (is_split and practised == here)
    assert margin_of(name, 2 * aperture_mm, mpsas) >= here - 0.35  # a smaller field may cost some


def test_a_point_is_the_small_end_of_a_patch():
    """Ricco's law: what is small enough counts by its light alone, as a star does."""
    sky, area = luminance_cd_m2(21.5), 1e-9
    light = float(contrast_threshold(sky, area)) * sky * area
    star = 10 ** (-0.4 * (float(star_limit_mag(sky, 1.0, 6.0, 6.0, 1.0)) + 13.98))
    assert light == pytest.approx(star, rel=0.001)


@pytest.mark.parametrize(
    ("altitude_deg", "expected"), [(90, 1.0), (30, 1.995), (10, 5.60), (5, 10.32), (0, 37.92)]
)
def test_air_masses_of_the_published_table(altitude_deg, expected):
    assert airmass(altitude_deg) == pytest.approx(expected, rel=0.01)


def test_moonlight_of_the_published_model():
    """A full Moon high up, the sky a right angle from it 30° up: worked by hand from the paper."""
    found = float(moonlight_cd_m2(30.0, 90.0, 60.0, 0.0))
    x_moon, x = (1 / math.sqrt(1 - 0.96 * math.cos(math.radians(h)) ** 2) for h in (60, 30))
    nanolamberts = 10 ** (-0.4 * 3.84) * (10**5.36 * 1.06 + 10 ** (6.15 - 90 / 40))
    nanolamberts *= 10 ** (-0.1 * x_moon) * (1 - 10 ** (-0.1 * x))
    assert found == pytest.approx(nanolamberts * 3.1831e-6, rel=0.001)
    dark = luminance_cd_m2(21.6)
    assert 2.5 * math.log10((dark + found) / dark) == pytest.approx(3.3, abs=0.7)  # well known
    assert moonlight_cd_m2(30.0, 90.0, -1.0, 0.0) == 0.0


def test_twilight_ends_at_eighteen_degrees_and_is_as_measured():
    assert twilight_cd_m2(90.0, 0.0, -18.1) == 0.0
    at_ten = -2.5 * math.log10(float(twilight_cd_m2(90.0, 0.0, -10.0)) / 1.08e5)
    assert at_ten == pytest.approx(11.84 + 1.411 * 5 - 0.041 * 25, abs=0.4)  # Patat et al. 2006
    toward, opposite = (float(twilight_cd_m2(10.0, aside, -10.0)) for aside in (0.0, 180.0))
    assert toward > 3 * opposite


def test_a_dome_of_light_is_as_said_at_twenty_degrees():
    dome = LightDome(azimuth_deg=350, width_deg=40, brighter_mag=1.5)
    assert 2.5 * np.log10(dome_factor((dome,), 20.0, 350.0)) == pytest.approx(1.5, abs=1e-9)
    half = (dome_factor((dome,), 20.0, 10.0) - 1) / (dome_factor((dome,), 20.0, 350.0) - 1)
    assert half == pytest.approx(0.5, abs=1e-9)  # half as bright half its width aside, over north
    assert dome_factor((dome,), 20.0, 170.0) == pytest.approx(1.0, abs=1e-6)
    dark = Site(name="P", latitude_deg=0, longitude_deg=0, zone="UTC", dark_sky_class=3)
    lit = dark.model_copy(update={"light_domes": (dome,)})
    assert site_glow_cd_m2(lit, 20, 350) / site_glow_cd_m2(dark, 20, 350) == pytest.approx(
        3.98, abs=0.01
    )


def test_the_faintest_star_by_eye_wins_over_the_class_and_a_meter_over_both():
    place = {"name": "P", "latitude_deg": 0, "longitude_deg": 0, "zone": "UTC", "dark_sky_class": 8}
    zenith = [
        -2.5 * math.log10(float(site_glow_cd_m2(Site(**place, **more), 90, 0)) / 1.08e5)
        for more in (
            {},
            {"naked_eye_limit_mag": 6.5},
            {"naked_eye_limit_mag": 6.5, "sky_mpsas": 20},
        )
    ]
    assert zenith == pytest.approx([18.2, 21.7, 20.0], abs=0.1)
