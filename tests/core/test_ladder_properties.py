"""What must hold on every ladder, whatever stands in the case."""

import math
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.constants import GAP_RATIO, TWIN_RATIO
from jade_perch.core.kit import Amplifier, Diagonal, Eyepiece, Observer, Telescope
from jade_perch.core.optics.audit import audit_eyepiece_power, audit_largest_power
from jade_perch.core.optics.ladder import Ways, build_ladder
from jade_perch.core.optics.viewer import make_viewer

apertures = st.floats(40, 600)
ratios = st.floats(3.5, 16)
designs = st.sampled_from(["refractor", "newtonian", "catadioptric"])
barrels = st.sampled_from(["0.965", "1.25", "2"])
EVERY_WAY = Ways(ahead=True, masked=True, stacked=True)


@st.composite
def telescopes(draw):
    aperture, design = draw(apertures), draw(designs)
    return Telescope(
        id=1,
        name="T",
        aperture_mm=aperture,
        focal_length_mm=aperture * draw(ratios),
        design=design,
        obstruction_percent=0 if design == "refractor" else draw(st.floats(0, 45)),
        focuser_barrel_in=draw(st.sampled_from(["1.25", "2"])),
        mask_opening_mm=draw(st.none() | st.floats(0.2, 0.8).map(lambda part: part * aperture)),
        diagonal_id=draw(st.sampled_from([None, 1])),
    )


@st.composite
def cases(draw):
    count = draw(st.integers(1, 6))
    glass = [
        Eyepiece(
            id=n,
            name=f"E{n}",
            focal_length_mm=draw(st.floats(3, 40)),
            apparent_field_deg=draw(st.floats(30, 100)),
            field_stop_mm=draw(st.none() | st.floats(2, 22)),
            barrel_in=draw(barrels),
            eye_relief_mm=draw(st.none() | st.floats(2, 30)),
        )
        for n in range(1, count + 1)
    ]
    amplifiers = [
        Amplifier(
            id=n,
            name=f"A{n}",
            factor=draw(st.floats(1.2, 5)),
            kind=draw(st.sampled_from(["barlow", "telecentric"])),
            focal_length_mm=draw(st.none() | st.floats(40, 150)),
            barrel_in=draw(st.sampled_from(["1.25", "2"])),
        )
        for n in range(1, draw(st.integers(0, 3)) + 1)
    ]
    return glass, amplifiers


observers = st.builds(
    Observer,
    name=st.just("O"),
    age_years=st.none() | st.integers(8, 90),
    eye_pupil_mm=st.none() | st.floats(3, 8),
    glasses=st.sampled_from(["none", "sight", "astigmatism"]),
    sight_diopters=st.none() | st.floats(-8, 8),
)


def ladder_of(telescope, case, observer=None, ways=EVERY_WAY):
    diagonal = Diagonal(id=1, name="D", kind="mirror", barrel_in="1.25")
    viewer = make_viewer(observer, None, 3)
    worn = diagonal if telescope.diagonal_id else None
    return build_ladder(telescope, *case, viewer, worn, ways)


@settings(max_examples=60)
@given(telescopes(), cases(), observers)
def test_the_figures_of_a_rung_agree_with_each_other(telescope, case, observer):
    ladder = ladder_of(telescope, case, observer)
    eye_mm = ladder.viewer.pupil.pupil_mm
    focal = {one.id: one.focal_length_mm for one in case[0]}
    for rung in ladder.rungs:
        assert rung.magnification * rung.exit_pupil_mm == pytest.approx(rung.aperture_mm, rel=1e-9)
        # f/N is the exit pupil too: two roads to one figure
        assert focal[rung.eyepiece_id] / rung.focal_ratio == pytest.approx(
            rung.exit_pupil_mm, rel=1e-9
        )
        assert rung.working_aperture_mm <= rung.aperture_mm * (1 + 1e-9)
        wasted = rung.exit_pupil_mm > eye_mm
        assert (rung.band == "wasted") == wasted
        assert wasted == (rung.working_aperture_mm < rung.aperture_mm * (1 - 1e-12))
        assert 0 < rung.relative_brightness <= 0.95
        assert rung.rayleigh_arcsec / rung.dawes_arcsec == pytest.approx(138.4 / 116, rel=1e-9)
        assert rung.nudge_s == pytest.approx(0.35 * rung.drift_s, rel=1e-9)
        assert rung.passes["detail"] <= rung.passes["comfort"] <= rung.passes["steady"]
        assert rung.eye_relief_mm is None or rung.eye_relief_mm >= 0


@settings(max_examples=60)
@given(telescopes(), cases(), st.randoms(use_true_random=False))
def test_the_order_of_the_case_does_not_matter(telescope, case, dice):
    glass, amplifiers = (list(one) for one in case)
    before = ladder_of(telescope, (glass, amplifiers))
    dice.shuffle(glass)
    dice.shuffle(amplifiers)
    # two in a row are the same two whichever is named first, so only single ones are compared
    single = Ways(ahead=True, masked=True)
    one = ladder_of(telescope, (glass, amplifiers), ways=single)
    other = ladder_of(telescope, case, ways=single)
    assert {r.key: r.magnification for r in one.rungs} == {
        r.key: r.magnification for r in other.rungs
    }
    assert [r.magnification for r in before.rungs] == sorted(r.magnification for r in before.rungs)


@settings(max_examples=60)
@given(telescopes(), cases())
def test_twins_are_near_and_gaps_are_wide(telescope, case):
    ladder = ladder_of(telescope, case)
    by_key = {rung.key: rung for rung in ladder.rungs}
    for twins in ladder.twins:
        powers = [by_key[key].magnification for key in twins.keys]
        assert len(powers) > 1 and max(powers) / min(powers) <= TWIN_RATIO * (1 + 1e-9)
        kept = by_key[twins.keep]
        assert twins.keep in twins.keys
        assert all(len(kept.amplifier_ids) <= len(by_key[k].amplifier_ids) for k in twins.keys)
    air = next(one.magnification for one in ladder.ceilings if one.name == "air")
    useful = {
        rung.key
        for rung in ladder.rungs
        if rung.exit_pupil_mm >= 0.5 - 1e-9 and rung.magnification <= air + 1e-6
    }
    assert {key for twins in ladder.twins for key in twins.keys} <= useful
    full = [rung for rung in ladder.rungs if not rung.is_masked and rung.key in useful]
    wide = [
        (low.key, high.key)
        for low, high in pairwise(full)
        if high.magnification / low.magnification > GAP_RATIO
        and not (low.eyepiece_id == high.eyepiece_id and low.amplifier_ids == high.amplifier_ids)
    ]
    assert sorted(wide) == sorted((gap.below, gap.above) for gap in ladder.gaps)
    for gap in ladder.gaps:
        low, high = by_key[gap.below].magnification, by_key[gap.above].magnification
        fill_mm = telescope.focal_length_mm / (low * high) ** 0.5
        assert f"about {fill_mm:.0f} mm would stand in the middle" in gap.words
        for one in case[1]:
            if not any(one.id in rung.amplifier_ids for rung in ladder.rungs):
                continue
            assert f"or {fill_mm * one.factor:.0f} mm with {one.name}" in gap.words


@settings(max_examples=60)
@given(telescopes(), cases())
def test_nothing_is_dropped_and_nothing_stands_twice(telescope, case):
    glass, amplifiers = case
    ladder = ladder_of(telescope, case, ways=Ways())
    named = len(ladder.rungs) + sum(len(one.labels) for one in ladder.misfits)
    assert named == len(glass) * (1 + len(amplifiers))
    assert len({rung.key for rung in ladder.rungs}) == len(ladder.rungs)
    if ladder.rungs:
        widest = max(rung.true_field_deg for rung in ladder.rungs)
        start = next(rung for rung in ladder.rungs if rung.key == ladder.start.key)
        assert start.true_field_deg == pytest.approx(widest, abs=1e-5)
    else:
        assert ladder.start is None


@settings(max_examples=60)
@given(telescopes(), cases())
def test_a_barlow_ahead_is_never_weaker_and_known_glass_has_no_doubt(telescope, case):
    ladder = ladder_of(telescope, case)
    after = {r.key: r for r in ladder.rungs if r.placement == "after"}
    for rung in ladder.rungs:
        if rung.placement == "ahead":
            behind = after.get(rung.key.replace("!", ""))
            if behind is None:  # a wide Barlow fits the focuser, not the diagonal
                continue
            assert rung.magnification > behind.magnification
            assert rung.true_field_deg < behind.true_field_deg
        if not rung.amplifier_ids:
            assert rung.magnification_off_percent == 0
        if not rung.field_is_about and not rung.amplifier_ids:
            assert rung.field_off_percent == 0


@given(telescopes(), st.floats(3, 40), st.floats(10, 1000), st.floats(1, 4))
def test_what_a_label_would_need_is_enough(telescope, eyepiece_mm, printed, factor):
    audit = audit_eyepiece_power(telescope, eyepiece_mm, printed, factor)
    exact = factor * telescope.focal_length_mm / eyepiece_mm
    assert audit.exact_sum.endswith(f"= {exact:.1f}×")
    assert audit.holds == (abs(printed / exact - 1) <= 0.05)
    if not audit.holds and 2 < factor * telescope.focal_length_mm / printed < 90:
        needed_mm = float(audit.would_need.split("an eyepiece of ")[1].split(" mm")[0])
        assert factor * telescope.focal_length_mm / needed_mm == pytest.approx(printed, rel=0.03)
    largest = audit_largest_power(telescope, printed)
    assert largest.holds == (printed <= 2 * telescope.aperture_mm)
    if not largest.holds:
        needed_mm = float(largest.would_need.split("need ")[1].split(" mm")[0])
        assert math.isclose(2 * needed_mm, printed, abs_tol=1.01)
