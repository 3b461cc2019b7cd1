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
def test_no_other_set_is_better(size):
    ladder = build_ladder(TUBE, glass(32, 25, 20, 16, 12, 10, 8, 6), [DOUBLER], VIEWER)
    useful = [r for r in ladder.rungs if r.band != "empty"]
    grid = np.linspace(
        np.log(useful[0].magnification), np.log(useful[-1].magnification), GRID_POINTS
    )

    def score(ids):
        own = [np.log(r.magnification) for r in useful if r.eyepiece_id in ids]
        return np.mean([min(abs(wish - have) for have in own) for wish in grid])

    owned = sorted({r.eyepiece_id for r in useful})
    best = min(score(ids) for ids in combinations(owned, size))
    advice = best_case(ladder, size)
    assert score(advice.best.eyepiece_ids) == pytest.approx(best, abs=1e-9)
    assert advice.best.off_percent == pytest.approx(100 * np.expm1(best), abs=1e-6)


def test_a_picked_set_is_scored_by_the_same_measure():
    ladder = build_ladder(TUBE, glass(32, 16, 8), [], VIEWER)
    advice = best_case(ladder, 3, [1, 2, 3])
    assert advice.picked == advice.best
    assert best_case(ladder, 3, [1]).picked.off_percent > advice.best.off_percent
    assert best_case(ladder, 3, [99]).picked is None


def test_leaving_the_amplifiers_at_home_is_weighed_too():
    ladder = build_ladder(TUBE, glass(32, 16, 8), [DOUBLER], VIEWER)
    advice = best_case(ladder, 1)
    assert advice.best.uses_amplifiers and not advice.without_amplifiers.uses_amplifiers
    assert advice.without_amplifiers.off_percent > advice.best.off_percent
    assert best_case(build_ladder(TUBE, glass(16), [], VIEWER), 1).without_amplifiers is None


def test_an_empty_case_and_one_too_large():
    assert best_case(build_ladder(TUBE, [], [], VIEWER), 3) is None
    many = build_ladder(TUBE, glass(*np.linspace(5, 40, 40)), [], VIEWER)
    with pytest.raises(OutOfRange, match="most_eyepieces") as caught:
        best_case(many, 8)
    assert "of 40" in caught.value.allowed


def test_the_big_number_on_an_eyepiece():
    """A 9 mm marked 200× in a 900 mm tube gives 100×."""
    audit = audit_eyepiece_power(TUBE, 9, 200)
    assert not audit.holds
    assert "900 mm ÷ 9 mm = 100.0×" in audit.exact_sum
    assert "1800 mm" in audit.would_need and "4.5 mm" in audit.would_need
    assert "Barlow of 2.0×" in audit.would_need
    assert audit_eyepiece_power(TUBE, 9, 200, factor=2).holds
    assert audit_eyepiece_power(TUBE, 9, 103).holds  # rounding on a label is no lie


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
