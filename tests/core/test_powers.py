"""Powers against worked values and properties."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jade_perch.core.optics import powers

lengths = st.floats(min_value=1, max_value=40000)


@pytest.mark.parametrize(
    ("focal_mm", "eyepiece_mm", "factor", "expected"),
    [
        (1200, 25, 1, 48.0),  # by hand
        (1200, 10, 2, 240.0),
        (760, 7.5, 2.5, 253.33),
    ],
)
def test_magnification(focal_mm, eyepiece_mm, factor, expected):
    assert powers.magnification(focal_mm, eyepiece_mm, factor) == pytest.approx(expected, abs=0.01)


def test_field_of_a_known_stop():
    # 27 mm across 1000 mm: half angle atan(13.5/1000) = 46.41', by table
    assert powers.true_field_from_stop_deg(27, 1000) * 60 == pytest.approx(92.81, abs=0.01)
    assert powers.true_field_from_stop_deg(27, 1000, 2) * 60 == pytest.approx(46.41, abs=0.01)


def test_drift_of_one_degree():
    # 3600″ at 15.041067 ″/s are 3 min 59.3 s on the equator, twice that at 60°
    assert powers.drift_time_s(1.0) == pytest.approx(239.34, abs=0.01)
    assert powers.drift_time_s(1.0, 60.0) == pytest.approx(478.69, abs=0.01)
    assert np.isinf(powers.drift_time_s(1.0, 90.0))


@given(lengths, lengths, lengths)
def test_exit_pupil_both_ways(aperture_mm, focal_mm, eyepiece_mm):
    """Aperture over power is the eyepiece's focal length over the focal ratio."""
    power = powers.magnification(focal_mm, eyepiece_mm)
    ratio = powers.effective_focal_ratio(focal_mm, aperture_mm)
    assert powers.exit_pupil_mm(aperture_mm, power) == pytest.approx(
        float(eyepiece_mm / ratio), rel=1e-12
    )


@given(st.floats(min_value=0.01, max_value=10), st.floats(min_value=-85, max_value=85))
def test_a_timed_drift_gives_the_field_back(field_deg, declination_deg):
    elapsed_s = powers.drift_time_s(field_deg, declination_deg)
    again = powers.true_field_from_drift_deg(elapsed_s, declination_deg)
    assert again == pytest.approx(field_deg, rel=1e-9)


@pytest.mark.parametrize("nonsense", [0.0, -5.0, float("nan")])
def test_nonsense_gives_nan(nonsense):
    assert np.isnan(powers.magnification(nonsense, 10))
    assert np.isnan(powers.exit_pupil_mm(100, nonsense))
    assert np.isnan(powers.true_field_from_stop_deg(nonsense, 1000))
    assert np.isnan(powers.drift_time_s(nonsense))


@pytest.mark.parametrize("eyepieces", [25.0, [25.0, 10.0], [[25.0], [10.0]]])
def test_shape_follows_the_input(eyepieces):
    assert np.shape(powers.magnification(1000, eyepieces)) == np.shape(eyepieces)


@pytest.mark.parametrize(("eyepiece_mm", "factor", "barlow_mm"), [(25, 2, 65), (10, 2.5, 40)])
def test_eye_relief_gain_by_tracing_a_ray(eyepiece_mm, factor, barlow_mm):
    """A ray from the aperture's middle, thin lens by thin lens, crosses the axis at the pupil."""
    focal_mm = 900.0

    def crossing(lenses):
        height, slope, at = 0.0, 1e-3, 0.0
        for place, power in lenses:
            height += slope * (place - at)
            slope, at = slope - height * power, place
        return at - height / slope - lenses[-1][0]

    behind = (factor - 1) * barlow_mm
    barlow_at = focal_mm - behind / factor
    plain = crossing([(focal_mm + eyepiece_mm, 1 / eyepiece_mm)])
    amplified = crossing(
        [(barlow_at, -1 / barlow_mm), (barlow_at + behind + eyepiece_mm, 1 / eyepiece_mm)]
    )
    gain = powers.eye_relief_gain_mm(focal_mm, eyepiece_mm, factor, barlow_mm)
    assert gain == pytest.approx(amplified - plain, abs=0.001)
    assert powers.eye_relief_gain_mm(focal_mm, eyepiece_mm, 1.0, np.nan) == 0
    assert powers.eye_relief_gain_mm(focal_mm, eyepiece_mm, factor, np.inf) < 0
