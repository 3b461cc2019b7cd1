"""The eye's threshold against the published straight line, and the sky scales."""

import numpy as np
import pytest

from jade_perch.core.site import Site
from jade_perch.core.sky.brightness import luminance_cd_m2, naked_eye_limit_mag, site_mpsas
from jade_perch.core.sky.visibility import (
    clamped_background_cd_m2,
    relative_brightness,
    star_limit_mag,
)


@pytest.mark.parametrize("mpsas", [20.0, 20.5, 21.0, 21.5, 22.0])
def test_the_naked_eye_follows_crumeys_line(mpsas):
    limit = star_limit_mag(luminance_cd_m2(mpsas), 1.0, 6.0, 6.0, field_factor=1.0)
    assert limit == pytest.approx(0.3834 * mpsas - 1.44, abs=0.03)


def test_ten_times_the_light_is_two_and_a_half_magnitudes():
    sky = luminance_cd_m2(21.0)
    fainter = star_limit_mag(sky, 1.0, 6 * 10**0.5, 6.0) - star_limit_mag(sky, 1.0, 6.0, 6.0)
    assert fainter == pytest.approx(2.5, abs=1e-9)


def test_a_surface_is_never_brighter_than_its_light_losses_allow():
    assert relative_brightness(0.8, [2.0, 6.0, 9.0], 6.0) == pytest.approx(
        [0.8 / 9, 0.8, 0.8], abs=1e-9
    )


def test_backgrounds_outside_the_fit_are_moved_and_said():
    moved, was_moved = clamped_background_cd_m2([1e-6, 1e-3, 1.0])
    assert moved == pytest.approx([1e-5, 1e-3, 1e-1]) and was_moved.tolist() == [True, False, True]


def test_the_naked_eye_limit_and_the_classes():
    # 21.7 mag/arcsec² goes with 6.5 mag in the widely printed table of this formula
    assert naked_eye_limit_mag(21.7) == pytest.approx(6.5, abs=0.05)
    place = {"name": "P", "latitude_deg": 0, "longitude_deg": 0, "zone": "UTC"}
    classes = [site_mpsas(Site(**place, dark_sky_class=n))[0] for n in range(1, 10)]
    assert np.all(np.diff(classes) < 0)
    assert site_mpsas(Site(**place, dark_sky_class=9, sky_mpsas=21.2)) == (21.2, True)
    assert site_mpsas(None)[1] is False
