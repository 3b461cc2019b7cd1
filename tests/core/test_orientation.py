"""Which way is up, against what every observer knows and a separate counting of mirrors."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jade_perch.core.kit import Diagonal, Telescope
from jade_perch.core.optics.orientation import (
    diagonal_matrix,
    finder_orientation,
    newtonian_matrix,
    telescope_orientation,
)

LENS = Telescope(name="L", aperture_mm=80, focal_length_mm=600, design="refractor")
MIRROR = Telescope(name="M", aperture_mm=150, focal_length_mm=900, design="newtonian")
FOLDED = Telescope(name="F", aperture_mm=100, focal_length_mm=1400, design="catadioptric")
STAR_DIAGONAL = Diagonal(name="S", kind="mirror")
PRISM = Diagonal(name="P", kind="correct_image")


@pytest.mark.parametrize(
    ("telescope", "diagonal", "mirrored", "turned", "word"),
    [
        (LENS, None, False, 180, "upside down"),
        (FOLDED, None, False, 180, "upside down"),
        (LENS, STAR_DIAGONAL, True, 0, "mirrored chart upright"),
        (FOLDED, STAR_DIAGONAL, True, 0, "mirrored chart upright"),
        (LENS, PRISM, False, 0, "naked eye"),
        (MIRROR, None, False, 180, "upside down"),
    ],
)
def test_what_every_observer_knows(telescope, diagonal, mirrored, turned, word):
    found = telescope_orientation(telescope, diagonal)
    assert (found.is_mirrored, found.turned_deg) == (mirrored, pytest.approx(turned, abs=0.01))
    assert word in found.words
    assert found.chart == ("mirrored" if mirrored else "correct")


@pytest.mark.parametrize("angle", [45, 60, 90, 120])
def test_a_newtonian_turns_with_its_focuser(angle):
    """For an upright head: 180° plus what the focuser is away from the side; derived by hand."""
    turned = MIRROR.model_copy(update={"eyepiece_angle_deg": float(angle)})
    assert telescope_orientation(turned, None).turned_deg == pytest.approx(angle + 90, abs=0.01)


def test_a_diagonal_turned_to_the_side_shows_the_sky_upside_down():
    matrix = diagonal_matrix(90)
    assert matrix == pytest.approx(np.array([[1, 0], [0, -1]]), abs=1e-9)


@given(st.floats(min_value=-180, max_value=180))
def test_mirrors_are_counted(angle):
    """Two reflections keep the hand of the image, one changes it; nothing is stretched."""
    newtonian, diagonal = newtonian_matrix(angle), diagonal_matrix(angle)
    assert np.linalg.det(newtonian) == pytest.approx(1, abs=1e-9)
    assert np.linalg.det(diagonal) == pytest.approx(-1, abs=1e-9)
    for matrix in (newtonian, diagonal):
        assert matrix @ matrix.T == pytest.approx(np.eye(2), abs=1e-9)
    side = LENS.model_copy(update={"eyepiece_angle_deg": angle})
    assert not telescope_orientation(side, PRISM).is_mirrored


@pytest.mark.parametrize(
    ("kind", "mirrored", "turned"),
    [
        ("straight", False, 180),
        ("right_angle", True, 0),
        ("right_angle_correct", False, 0),
        ("dot", False, 0),
        ("ring", False, 0),
    ],
)
def test_finders(kind, mirrored, turned):
    found = finder_orientation(kind)
    assert (found.is_mirrored, round(found.turned_deg)) == (mirrored, turned)
