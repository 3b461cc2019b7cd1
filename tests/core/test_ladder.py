"""The ladder of one telescope: fit, twins, gaps, start, limits."""

from itertools import pairwise

import pytest

from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Amplifier, Diagonal, Eyepiece, Observer, Telescope
from jade_perch.core.optics.combinations import (
    apparent_of,
    every_way,
    require_diagonal_fits,
    require_possible_stop,
)
from jade_perch.core.optics.ladder import Ways, build_ladder
from jade_perch.core.optics.limits import band_edges, band_of, ceilings, eye_pupil
from jade_perch.core.optics.table import compute, mask_obstruction
from jade_perch.core.optics.viewer import make_viewer

TUBE = Telescope(
    id=1,
    name="Tube",
    aperture_mm=140,
    focal_length_mm=760,
    design="newtonian",
    obstruction_percent=29,
    focuser_barrel_in="2",
    mask_opening_mm=45,
)
WIDE = Eyepiece(
    id=1,
    name="Wide",
    focal_length_mm=30,
    apparent_field_deg=68,
    field_stop_mm=35.6,
    barrel_in="2",
    eye_relief_mm=22,
)
MIDDLE = Eyepiece(id=2, name="Middle", focal_length_mm=13, apparent_field_deg=62, eye_relief_mm=14)
SHORT = Eyepiece(id=3, name="Short", focal_length_mm=7.5, apparent_field_deg=52, eye_relief_mm=6)
BARLOW = Amplifier(id=1, name="Barlow", factor=1.8, focal_length_mm=62)
TELECENTRIC = Amplifier(id=2, name="Telecentric", factor=2.5, kind="telecentric")
DIAGONAL = Diagonal(id=1, name="Diagonal", light_path_mm=70)
LENS = TUBE.model_copy(update={"design": "refractor", "obstruction_percent": 0.0})
VIEWER = make_viewer(Observer(name="Measured", eye_pupil_mm=6.0), None, 3)


def ladder(*eyepieces, amplifiers=(), telescope=TUBE, diagonal=None, viewer=VIEWER, **ways):
    return build_ladder(telescope, eyepieces, amplifiers, viewer, diagonal, Ways(**ways))


def test_rungs_stand_in_order_with_their_figures():
    made = ladder(SHORT, WIDE, MIDDLE, amplifiers=[BARLOW])
    assert [(r.label, round(r.magnification)) for r in made.rungs] == [
        ("30 mm", 25),
        ("13 mm", 58),
        ("7.5 mm", 101),
        ("13 mm + 1.8×", 105),
        ("7.5 mm + 1.8×", 182),
    ]
    wide = made.rungs[0]
    # 2·atan(35.6/1520) = 2.683°, by hand
    assert (wide.true_field_deg, wide.field_is_about) == (pytest.approx(2.683, abs=0.001), False)
    assert wide.field_off_percent == wide.magnification_off_percent == 0
    assert wide.exit_pupil_mm == pytest.approx(5.526, abs=0.001)  # 30 mm / f5.43


def test_what_does_not_fit_is_said_once_with_its_reason():
    made = ladder(WIDE, MIDDLE, amplifiers=[BARLOW])
    assert [r.label for r in made.rungs] == ["30 mm", "13 mm", "13 mm + 1.8×"]
    assert [m.labels for m in made.misfits] == [["30 mm + 1.8×"]]
    assert "Barlow takes up to 1.25 in" in made.misfits[0].reason
    small = TUBE.model_copy(update={"focuser_barrel_in": "1.25"})
    assert [m.labels for m in ladder(WIDE, MIDDLE, telescope=small).misfits] == [["30 mm"]]
    old = TUBE.model_copy(update={"focuser_barrel_in": "0.965"})
    assert ladder(MIDDLE, telescope=old).rungs == []


def test_adapters_are_named_from_front_to_back():
    wide = Amplifier(id=4, name="Wide", factor=2, barrel_in="2")
    found = {r.key: r.adapters for r in ladder(WIDE, MIDDLE, amplifiers=[BARLOW, wide]).rungs}
    assert found["e1"] == found["e1+a4"] == []
    assert found["e2"] == found["e2+a1"] == found["e2+a4"] == ["2 to 1.25 in"]


def test_a_barlow_ahead_of_the_diagonal_is_stronger_a_telecentric_one_is_not():
    made = ladder(
        SHORT, amplifiers=[BARLOW, TELECENTRIC], diagonal=DIAGONAL, ahead=True, telescope=LENS
    )
    power = {r.label: r.magnification for r in made.rungs}
    # 1.8 + 70/62 = 2.929; 2.929 × 760 / 7.5 = 296.8, by hand
    assert power["7.5 mm + 1.8× ahead"] == pytest.approx(296.8, abs=0.1)
    assert power["7.5 mm + 1.8×"] == pytest.approx(182.4, abs=0.1)
    assert "7.5 mm + 2.5× ahead" not in power


def test_the_doubt_of_an_unknown_barlow_is_larger_and_both_are_passed_on():
    unknown = BARLOW.model_copy(update={"id": 3, "focal_length_mm": None})
    made = ladder(
        SHORT, amplifiers=[BARLOW, unknown], diagonal=DIAGONAL, ahead=True, telescope=LENS
    )
    off = {r.key: (r.magnification_off_percent, r.field_off_percent) for r in made.rungs}
    assert off["e3"] == (0, pytest.approx(5, abs=0.01))
    assert off["e3+a1"] == (pytest.approx(5, abs=0.01), pytest.approx(7.07, abs=0.01))
    assert off["e3+a3!"][0] > off["e3+a1!"][0] > 0


def test_two_in_a_row_multiply_and_a_mask_makes_a_smaller_telescope():
    made = ladder(SHORT, amplifiers=[BARLOW, TELECENTRIC], stacked=True, masked=True)
    by_key = {r.key: r for r in made.rungs}
    assert by_key["e3+a1+a2"].magnification == pytest.approx(760 / 7.5 * 4.5, abs=0.1)
    masked, full = by_key["e3#"], by_key["e3"]
    assert masked.magnification == full.magnification
    assert masked.exit_pupil_mm == pytest.approx(45 / 101.33, abs=0.001)
    assert masked.dawes_arcsec == pytest.approx(116 / 45, abs=0.001)
    assert not any(twin.keys == ["e3", "e3#"] for twin in made.twins)


def test_a_zoom_stands_at_its_ends_and_between():
    zoom = Eyepiece(
        id=5,
        name="Zoom",
        focal_length_mm=24,
        apparent_field_deg=40,
        zoom_to_focal_length_mm=8,
        zoom_to_apparent_field_deg=60,
    )
    rungs = ladder(zoom).rungs
    assert [r.key for r in rungs] == ["e5", "e5.1", "e5.2"]
    assert [round(r.magnification, 1) for r in rungs] == [31.7, 54.8, 95.0]
    # between the ends the field is taken to change evenly: 40 + (24-13.86)/16·20 = 52.7°
    assert rungs[1].true_field_deg * rungs[1].magnification == pytest.approx(52.68, abs=0.02)


def test_a_beam_wider_than_the_eye_works_like_a_smaller_aperture():
    old_eye = make_viewer(Observer(name="Old", eye_pupil_mm=4.0), None, 3)
    wide = ladder(WIDE, viewer=old_eye).rungs[0]
    assert wide.working_aperture_mm == pytest.approx(25.33 * 4, abs=0.1)
    assert wide.band == "wasted" and "works like 101 mm" in wide.verdict
    # the shadow, 0.29 · 5.526 mm = 1.603 mm, falls whole into an eye of 4 mm
    clear = (4.0**2 - 1.603**2) / 4.0**2
    assert wide.relative_brightness == pytest.approx(0.80 * 0.95 * clear, abs=0.001)


def test_a_shadow_in_an_eye_too_small_for_the_beam():
    """300/1200 at 30 %, 56 mm, eye 4.5 mm: 14 mm of beam with 4.2 mm of shadow; 0.098 is left."""
    tube = TUBE.model_copy(
        update={"aperture_mm": 300, "focal_length_mm": 1200, "obstruction_percent": 30}
    )
    long = WIDE.model_copy(update={"focal_length_mm": 56, "field_stop_mm": 46})
    eye = make_viewer(Observer(name="E", eye_pupil_mm=4.5), None, 3)
    (rung,) = ladder(long, telescope=tube, viewer=eye).rungs
    assert rung.relative_brightness == pytest.approx(0.098, abs=0.001)
    assert "leaves 14% of that light" in rung.verdict
    small = make_viewer(Observer(name="D", eye_pupil_mm=4.2), None, 3)
    (dark,) = ladder(long, telescope=tube, viewer=small).rungs
    assert dark.relative_brightness == pytest.approx(0, abs=1e-9)
    assert "shadow fills the eye" in dark.verdict


@pytest.mark.parametrize(
    ("opening_mm", "left"),
    [
        (45.0, 0.0),  # 140 · 0.71 / 2 = 49.7 mm fit beside the secondary
        (49.7, 0.0),
        (100.0, 0.406),  # all of the secondary's 40.6 mm lies inside it
        (70.0, 0.3837),  # two circles overlapping: 0.14724 of the area by 2·10⁷ random points
    ],
)
def test_a_mask_keeps_the_obstruction_it_cannot_avoid(opening_mm, left):
    assert mask_obstruction(140.0, 0.29, opening_mm) == pytest.approx(left, abs=0.002)
    tube = TUBE.model_copy(update={"mask_opening_mm": opening_mm})
    masked = {r.key: r for r in ladder(SHORT, telescope=tube, masked=True).rungs}["e3#"]
    # of T, the beam's width against the eye's 6 mm, squared
    share = (opening_mm / (760 / 7.5) / 6) ** 2
    expected = 0.80 * (1 - left**2) * 0.95 * share
    assert masked.relative_brightness == pytest.approx(expected, rel=0.004)


def test_two_amplifiers_are_tried_in_both_orders():
    """The wide one fits the 2 in focuser first, and the other into it; never the other way."""
    wide = Amplifier(id=4, name="Wide", factor=2, barrel_in="2")
    for pair in ((BARLOW, wide), (wide, BARLOW)):
        made = ladder(SHORT, amplifiers=pair, stacked=True)
        assert "e3+a4+a1" in {rung.key for rung in made.rungs}
        assert not any("a1+a4" in rung.key for rung in made.rungs)


def test_ahead_of_the_diagonal_the_barrels_ahead_of_it_count():
    """A 2 in diagonal does not go into a 1.25 in Barlow, a 1.25 in one does."""
    big = DIAGONAL.model_copy(update={"barrel_in": "2"})
    made = ladder(SHORT, amplifiers=[BARLOW], diagonal=big, telescope=LENS, ahead=True)
    assert [rung.key for rung in made.rungs] == ["e3", "e3+a1"]
    assert "Diagonal has a 2 in barrel; Barlow takes up to 1.25 in." in made.misfits[0].reason
    small = ladder(SHORT, amplifiers=[BARLOW], diagonal=DIAGONAL, telescope=LENS, ahead=True)
    ahead = {rung.key: rung for rung in small.rungs}["e3+a1!"]
    # 70 + 62·0.8/1.8 − 62·1.929/2.929 = 70 + 27.6 − 40.8 = 56.7 mm
    assert "the focuser goes about 57 mm farther in" in ahead.verdict


def test_a_diagonal_too_wide_for_the_focuser_is_refused_everywhere():
    narrow = LENS.model_copy(update={"focuser_barrel_in": "1.25"})
    big = DIAGONAL.model_copy(update={"barrel_in": "2"})
    made = ladder(SHORT, diagonal=big, telescope=narrow)
    assert made.rungs == [] and "takes up to 1.25 in" in made.misfits[0].reason
    with pytest.raises(OutOfRange, match="what the focuser takes"):
        require_diagonal_fits(narrow, big)
    with pytest.raises(OutOfRange, match="none for this design"):
        require_diagonal_fits(TUBE, DIAGONAL)
    require_diagonal_fits(LENS, DIAGONAL)


def test_glasses_and_refocus_follow_the_observer():
    short_sighted = Observer(name="S", glasses="astigmatism", sight_diopters=-3.0, age_years=40)
    viewer = make_viewer(short_sighted, None, 3)
    wide, short = ladder(WIDE, SHORT, viewer=viewer).rungs
    assert wide.glasses.startswith("Keep the glasses on")
    assert short.glasses.startswith("Take the glasses off")
    assert short.refocus_mm == pytest.approx(-0.169, abs=0.001)  # 7.5²·3/1000
    five = make_viewer(Observer(name="F", sight_diopters=-5.0), None, 3)
    doubler = Amplifier(id=1, name="D", factor=2)
    plain, doubled = ladder(
        MIDDLE.model_copy(update={"focal_length_mm": 25}), amplifiers=[doubler], viewer=five
    ).rungs
    assert plain.refocus_mm == pytest.approx(-3.125) and doubled.refocus_mm == pytest.approx(
        -0.78, abs=0.002
    )
    assert ladder(SHORT).rungs[0].refocus_mm is None


def test_claims_of_the_box_are_judged():
    boasting = TUBE.model_copy(update={"printed_power": 450})
    (claim,) = ladder(WIDE, telescope=boasting).claims
    assert not claim.holds and claim.exact_sum.endswith("= 280×")


def test_the_twin_with_less_glass_is_kept():
    made = ladder(MIDDLE, SHORT, amplifiers=[BARLOW])
    assert [(t.keys, t.keep) for t in made.twins] == [(["e3", "e2+a1"], "e3")]


def test_twins_of_plain_glass_go_by_eye_relief():
    roomy = SHORT.model_copy(update={"id": 9, "name": "Roomy", "eye_relief_mm": 18.0})
    assert ladder(SHORT, roomy).twins[0].keep == "e9"


def test_eight_percent_and_not_more():
    near = [
        Eyepiece(id=n, name=str(n), focal_length_mm=f, apparent_field_deg=50)
        for n, f in enumerate((10.0, 10.0 / 1.079), 1)
    ]
    far = [near[0], near[1].model_copy(update={"focal_length_mm": 10 / 1.081})]
    assert (len(ladder(*near).twins), len(ladder(*far).twins)) == (1, 0)


def test_the_widest_gap_names_the_glass_in_its_middle():
    gap = ladder(WIDE, SHORT, amplifiers=[BARLOW]).gaps[0]
    # the geometric mean of 30 and 7.5 mm is 15 mm; with the 1.8× it would be 27 mm
    assert f"about 15 mm would stand in the middle, or 27 mm with {BARLOW.name}" in gap.words
    assert gap.ratio == pytest.approx(4.0, abs=0.001)
    assert "First learn the ones you own" in gap.words
    # a doubling is fine, a step of 2.1 and a little is not
    for middle_mm, gaps in ((14.3, 0), (14.2, 1)):
        middle = MIDDLE.model_copy(update={"focal_length_mm": middle_mm})
        assert len(ladder(WIDE, middle).gaps) == gaps


def test_advice_stops_where_use_stops():
    """Air of 2″ ends at 120×: no gap, no twins and no purchase above; a zoom fills its range."""
    far = [
        SHORT.model_copy(update={"id": n, "focal_length_mm": f}) for n, f in ((7, 2.5), (8, 2.4))
    ]
    made = ladder(SHORT, *far)
    assert made.gaps == [] and made.twins == []
    calm = make_viewer(None, None, 5)  # 240×, and half a millimetre at 280×
    assert ladder(SHORT, *far, viewer=calm).twins == []  # 304 and 317×
    doubling = Amplifier(id=5, name="Two inch", factor=2, barrel_in="2")
    small = TUBE.model_copy(update={"focuser_barrel_in": "1.25"})
    long = MIDDLE.model_copy(update={"id": 6, "focal_length_mm": 32.0})
    (gap,) = ladder(long, SHORT, amplifiers=[doubling], telescope=small).gaps
    assert "Two inch" not in gap.words  # it does not go into this focuser
    zoom = {"zoom_to_focal_length_mm": 8.0, "zoom_to_apparent_field_deg": 60.0}
    wide_zoom = MIDDLE.model_copy(update={"id": 9, "focal_length_mm": 40.0, **zoom})
    assert ladder(wide_zoom).gaps == []


def test_an_unknown_eye_relief_is_not_compared():
    unknown = SHORT.model_copy(update={"id": 9, "eye_relief_mm": None})
    (twin,) = ladder(SHORT, unknown).twins
    assert twin.words.endswith("one of them is enough.")


def test_start_is_the_widest_field_not_the_lowest_power():
    narrow = Eyepiece(id=8, name="Narrow", focal_length_mm=32, apparent_field_deg=45)
    start = ladder(narrow, WIDE).start
    assert start is not None and start.key == "e1"
    assert "widest field" in start.words
    assert ladder().start is None


def test_the_barrel_caps_a_field_the_label_promises():
    # 68° at 32 mm would want a stop of about 38 mm; a 1.25 in barrel lets 27 mm through
    greedy = Eyepiece(id=7, name="Greedy", focal_length_mm=32, apparent_field_deg=68)
    rung = ladder(greedy).rungs[0]
    assert rung.true_field_deg == pytest.approx(2.035, abs=0.001)  # 2·atan(27/1520)
    assert rung.field_is_about


def test_the_three_schools_and_the_air():
    found = {c.name: c.magnification for c in ceilings(140, steadiness=3)}
    assert found == {
        "detail": pytest.approx(140),
        "comfort": pytest.approx(200),
        "steady": pytest.approx(280),
        "air": pytest.approx(120),  # 240 / 2 arcsec
    }


@pytest.mark.parametrize(
    ("age", "expected_mm"), [(20, 7.0), (30, 6.5), (47, 5.65), (80, 4.5), (95, 4.5)]
)
def test_eye_pupil_by_age(age, expected_mm):
    pupil = eye_pupil(Observer(name="One", age_years=age))
    assert (pupil.pupil_mm, pupil.measured) == (pytest.approx(expected_mm, abs=0.01), False)
    assert "about" in pupil.words


@pytest.mark.parametrize("eye_mm", [2.5, 4.0, 6.0])
def test_bands_cover_every_beam_without_holes(eye_mm):
    bands = band_edges(eye_mm, 140)
    assert bands[0].high_mm is None and bands[-1].low_mm == 0
    for upper, lower in pairwise(bands):
        assert upper.low_mm == lower.high_mm
    for band in bands:
        beam = band.low_mm + 0.01
        assert band_of(beam, eye_mm) == band.band


def test_many_ways_at_once_are_the_same_as_one_by_one():
    """Arrays over every combination of three telescopes against each computed alone."""
    tubes = [
        TUBE.model_copy(update={"id": n, "diagonal_id": d, "focuser_barrel_in": b})
        for n, (d, b) in enumerate([(None, "2"), (1, "1.25"), (1, "2")])
    ]
    eyepieces, amplifiers = [WIDE, MIDDLE, SHORT], [BARLOW, TELECENTRIC]
    diagonals = {None: None, 1: DIAGONAL}
    ways = [
        way
        for tube in tubes
        for way, reason in every_way(
            tube, eyepieces, amplifiers, diagonals[tube.diagonal_id], ahead=True, masked=True
        )
        if reason is None
    ]
    together = compute(ways, diagonals)
    one_by_one = [compute([way], diagonals) for way in ways]
    for name in ("magnification", "true_field_deg", "exit_pupil_mm", "amplification_off"):
        single = [getattr(figures, name)[0] for figures in one_by_one]
        assert getattr(together, name) == pytest.approx(single, rel=1e-12), name


def test_an_apparent_field_nobody_gave_is_about_and_follows_the_stop_where_that_is_known():
    """A plain one shows 40 to 60°: 50° ± 20 %; with a stop of 21.8 mm in 25 mm it is 50.0°."""
    unknown = Eyepiece(id=1, name="U", focal_length_mm=25)
    (rung,) = ladder(unknown, telescope=LENS).rungs
    assert rung.true_field_deg == pytest.approx(50 / (760 / 25)) and rung.field_is_about
    assert rung.field_off_percent == pytest.approx(20)
    with_stop = unknown.model_copy(update={"field_stop_mm": 21.8})
    (measured,) = ladder(with_stop, telescope=LENS).rungs
    assert measured.field_off_percent == 0 and not measured.field_is_about
    assert apparent_of(with_stop)[0] == pytest.approx(49.96, abs=0.01)


@pytest.mark.parametrize(
    ("focal_mm", "apparent_deg", "stop_mm", "is_possible"),
    [
        (10, None, 27.0, False),  # 155°: no eyepiece shows so much
        (10, None, 21.8, True),  # 125°
        (10, None, 22.0, False),
        (20, 50, 21.8, True),  # a quarter more than the label's 17.5 mm
        (20, 50, 22.0, False),
        (20, 50, 13.0, False),  # more than a quarter less
        (20, 50, 13.2, True),
        (30, 68, 35.6, True),
    ],
)
def test_a_field_stop_that_cannot_be_is_questioned(focal_mm, apparent_deg, stop_mm, is_possible):
    glass = Eyepiece(
        name="E", focal_length_mm=focal_mm, apparent_field_deg=apparent_deg, barrel_in="2",
        field_stop_mm=stop_mm,
    )  # fmt: skip
    if is_possible:
        require_possible_stop(glass)
        return
    with pytest.raises(OutOfRange, match="field_stop_mm") as caught:
        require_possible_stop(glass)
    assert "time a star" in caught.value.cure
