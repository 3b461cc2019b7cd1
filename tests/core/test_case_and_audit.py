"""The case for tonight against brute force; labels against sums done by hand."""

from itertools import combinations

import numpy as np
import pytest

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.case import GRID_POINTS, best_case
from jade_perch.core.kit import Amplifier, Eyepiece, Telescope
from jade_perch.core.optics.audit import (
    audit_amplifier,
    audit_eyepiece_power,
    audit_largest_power,
)
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.viewer import make_viewer

TUBE = Telescope(id=1, name="Tube", aperture_mm=114, focal_length_mm=900, design="newtonian")
VIEWER = make_viewer(None, None, 3)
DOUBLER = Amplifier(id=1, name="Doubler", factor=2)


def glass(*lengths_mm):
    return [
        Eyepiece(id=n, name=f"{f}", focal_length_mm=f, apparent_field_deg=50)
        for n, f in enumerate(lengths_mm, 1)
    ]


@pytest.mark.parametrize("size", [1, 2, 3])
def test_no_other_set_with_the_start_eyepiece_is_better(size):
    """Brute force over every set; 240/2 = 120× is tonight's end, so 112.5× is the last power."""
    ladder = build_ladder(TUBE, glass(32, 25, 20, 16, 12, 10, 8, 6), [DOUBLER], VIEWER)
    useful = [r for r in ladder.rungs if r.magnification <= 120]
    grid = np.linspace(np.log(900 / 32), np.log(112.5), GRID_POINTS)

    def score(ids):
        own = [np.log(r.magnification) for r in useful if r.eyepiece_id in ids]
        return np.mean([min(abs(wish - have) for have in own) for wish in grid])

    sets = [ids for ids in combinations(range(1, 9), size) if 1 in ids]
    best = min(score(ids) for ids in sets)
    advice = best_case(ladder, size, [DOUBLER])
    assert 1 in advice.best.eyepiece_ids  # every search starts with it
    assert score(advice.best.eyepiece_ids) == pytest.approx(best, abs=1e-9)
    assert advice.best.off_percent == pytest.approx(100 * np.expm1(best), abs=1e-6)
    assert advice.best.high_magnification <= 120


def test_a_picked_set_is_scored_by_the_same_measure():
    ladder = build_ladder(TUBE, glass(32, 16, 8), [], VIEWER)
    advice = best_case(ladder, 3, picked_ids=[1, 2, 3])
    assert advice.picked == advice.best and advice.best.words.startswith("Three eyepieces give")
    assert best_case(ladder, 3, picked_ids=[1]).picked.off_percent > advice.best.off_percent
    gone = best_case(ladder, 3, picked_ids=[99])
    assert gone.picked is None and gone.picked_words.startswith("None of these")
    assert best_case(ladder, 3).picked_words == ""


def test_the_amplifier_that_goes_along_is_named_and_weighed_against_staying_home():
    other = Amplifier(id=2, name="Tripler", factor=3)
    ladder = build_ladder(TUBE, glass(32, 16, 8), [DOUBLER, other], VIEWER)
    advice = best_case(ladder, 1, [DOUBLER, other])
    assert advice.best.amplifier_names == ["Doubler", "Tripler"]
    assert advice.best.words.startswith("One eyepiece and Doubler and Tripler give three powers")
    assert advice.without_amplifiers.amplifier_names == []
    assert advice.without_amplifiers.off_percent > advice.best.off_percent
    alone = build_ladder(TUBE, glass(16), [], VIEWER)
    assert best_case(alone, 1).without_amplifiers is None


def test_tonights_air_ends_the_case():
    """A 6 mm shows 150×: worth carrying at 240×, not where the air ends at 80×."""
    calm, rough = (
        best_case(build_ladder(TUBE, glass(32, 16, 6), [], make_viewer(None, None, step)), 3)
        for step in (5, 2)
    )
    assert calm.best.eyepiece_ids == [1, 2, 3] and rough.best.eyepiece_ids == [1, 2]


def test_a_zoom_is_never_away_from_a_power_between_its_ends():
    zoom = Eyepiece(
        id=9, name="Z", focal_length_mm=32, apparent_field_deg=50,
        zoom_to_focal_length_mm=8, zoom_to_apparent_field_deg=60,
    )  # fmt: skip
    advice = best_case(build_ladder(TUBE, [zoom, *glass(32)], [], VIEWER), 2)
    assert advice.best.off_percent == pytest.approx(0, abs=1e-9)
    assert "every power from 28× to 112×" in advice.best.words


def test_an_empty_case_and_one_too_large():
    assert best_case(build_ladder(TUBE, [], [], VIEWER), 3) is None
    many = build_ladder(TUBE, glass(*np.linspace(5, 40, 40)), [], VIEWER)
    with pytest.raises(OutOfRange, match="most_eyepieces") as caught:
        best_case(many, 8)
    assert caught.value.allowed == "1 to 5 of 37"  # tonight's air leaves so many useful


def test_the_big_number_on_an_eyepiece():
    """A 9 mm marked 200× in a 900 mm tube gives 100×."""
    audit = audit_eyepiece_power(TUBE, 9, 200)
    assert not audit.holds
    assert "900 mm ÷ 9 mm = 100.0×" in audit.exact_sum
    assert "1800 mm" in audit.would_need and "4.5 mm" in audit.would_need
    assert "Barlow of 2.0×" in audit.would_need
    assert audit_eyepiece_power(TUBE, 9, 200, factor=2).holds
    assert audit_eyepiece_power(TUBE, 9, 103).holds  # rounding on a label is no lie


def test_a_barlow_in_the_box_leaves_the_tube_its_own_focal_length():
    told = audit_eyepiece_power(TUBE, 9, 200, factor=2).mental_sum
    assert told == "200 times 9 mm is 1800 mm, the tube has 900, with the 2× 1800: about 200×."


def test_the_mental_sum_is_easy_and_near():
    audit = audit_eyepiece_power(TUBE.model_copy(update={"focal_length_mm": 760.0}), 7.5, 150)
    assert "100 times 7.5 mm is 750 mm" in audit.mental_sum


@pytest.mark.parametrize(("printed", "holds"), [(675, False), (228, True), (229, False)])
def test_the_power_on_the_box(printed, holds):
    audit = audit_largest_power(TUBE, printed)
    assert audit.holds is holds and audit.exact_sum.endswith("= 228×")
    assert holds or f"{printed / 2:.0f} mm of aperture" in audit.would_need


def test_a_strong_barlow_is_useful_with_long_eyepieces_only():
    audit = audit_amplifier(TUBE, glass(25, 9, 4), 3)
    # 3 · 900 / 228 = 11.8 mm is the shortest that stays under the aperture's end
    assert "11.8 mm" in audit.exact_sum
    assert audit.verdict.startswith("Useful with 1 of 3 eyepieces: 25 mm (108×)")
    assert not audit_amplifier(TUBE, glass(4), 3).holds
