"""The sum that opens behind a figure says the figure itself, with this kit's numbers."""

import re
from math import log10
from typing import get_args

import pytest

from jade_perch.core.kit import Amplifier, Diagonal, Eyepiece, Observer, Telescope
from jade_perch.core.optics.combinations import find_way
from jade_perch.core.optics.drift import measured_field, with_stop
from jade_perch.core.optics.ladder import Ways, build_ladder
from jade_perch.core.optics.rung_sums import Figure, rung_sum
from jade_perch.core.optics.viewer import Course, make_viewer

TUBE = Telescope(
    id=1, name="T", aperture_mm=140, focal_length_mm=760, design="refractor",
    focuser_barrel_in="2", diagonal_id=1,
)  # fmt: skip
MIRROR = Diagonal(id=1, name="D", kind="mirror", light_path_mm=70, barrel_in="2")
SMALL = MIRROR.model_copy(update={"barrel_in": "1.25"})
GLASS = [
    Eyepiece(
        id=1, name="A", focal_length_mm=30, apparent_field_deg=68, field_stop_mm=35.6,
        barrel_in="2", eye_relief_mm=22,
    ),
    Eyepiece(id=2, name="B", focal_length_mm=18, apparent_field_deg=60, eye_relief_mm=13),
    Eyepiece(id=3, name="C", focal_length_mm=40, apparent_field_deg=70),
]  # fmt: skip
BARLOW = [Amplifier(id=1, name="X", factor=1.8, focal_length_mm=62)]
SHORT_SIGHTED = Observer(id=1, name="O", eye_pupil_mm=6, glasses="sight", sight_diopters=-2)
VIEWER = make_viewer(SHORT_SIGHTED, None, 3)


def opened(figure, key, viewer=VIEWER):
    diagonal = SMALL if key.endswith("!") else MIRROR  # one goes into a 1.25 in Barlow
    return rung_sum(figure, find_way(TUBE, GLASS, BARLOW, diagonal, key), diagonal, viewer)


@pytest.mark.parametrize(
    ("figure", "key", "result", "sureness"),
    [
        ("magnification", "e1", "25.3×", "exact"),  # 760 ÷ 30
        ("magnification", "e2+a1", "76.0×", "about"),  # 1.8 · 760 ÷ 18
        ("magnification", "e2+a1!", "123.7×", "about"),  # 1.8 + 70 ÷ 62 = 2.929 times
        ("true_field", "e1", "2.68°", "exact"),  # 2 · atan(35.6 ÷ 1520)
        ("true_field", "e2", "about 1.42°", "about"),  # 60 ÷ 42.2
        ("true_field", "e3", "about 2.04°", "about"),  # the barrel: 2 · atan(27 ÷ 1520)
        ("exit_pupil", "e1", "5.53 mm", "exact"),
        ("focal_ratio", "e2+a1", "f/9.8", "about"),  # 1.8 · 760 ÷ 140
        ("dawes", "e2", "0.83″", "about"),  # 116 ÷ 140
        ("rayleigh", "e2", "0.99″", "about"),  # 138.4 ÷ 140
        ("eye_relief", "e3", "unknown", "exact"),
        ("refocus", "e2", "0.65 mm inwards", "about"),  # 18² · 2 ÷ 1000
    ],
)
def test_by_hand(figure, key, result, sureness):
    found = opened(figure, key)
    assert found.result == result
    assert found.sureness == sureness


def test_every_figure_opens_to_itself():
    """What a sum ends in is what the ladder shows, for every rung and figure."""
    ladder = build_ladder(TUBE, GLASS, BARLOW, VIEWER, MIRROR, Ways(ahead=True))
    fields = {
        "magnification": "magnification", "true_field": "true_field_deg", "dawes": "dawes_arcsec",
        "exit_pupil": "exit_pupil_mm", "focal_ratio": "focal_ratio", "faintest": "faintest_mag",
        "rayleigh": "rayleigh_arcsec", "working_aperture": "working_aperture_mm",
    }  # fmt: skip
    for rung in ladder.rungs:
        for figure in get_args(Figure):
            found = opened(figure, rung.key)
            assert found.formula and found.source and found.worked
            if figure in fields:
                (number,) = re.findall(r"\d+\.?\d*", found.result.removeprefix("f/"))
                digits = len(number.partition(".")[2])
                shown = float(number)
                assert shown == pytest.approx(
                    getattr(rung, fields[figure]), abs=0.51 * 10**-digits
                ), (figure, rung.key)


MIRRORED = TUBE.model_copy(
    update={"design": "newtonian", "obstruction_percent": 29, "diagonal_id": None}
)


@pytest.mark.parametrize("eye_mm", [7.0, 4.0, 2.2])
def test_what_is_shown_is_enough_to_work_a_sum_out_again(eye_mm):
    """Typed into a pocket calculator as it stands, each sum gives what it says."""
    viewer = make_viewer(Observer(name="E", eye_pupil_mm=eye_mm, sight_diopters=-3), None, 3)
    tried = 0
    for tube, diagonal in ((TUBE, SMALL), (MIRRORED, None)):
        ladder = build_ladder(tube, GLASS, BARLOW, viewer, diagonal, Ways(ahead=True))
        for rung in ladder.rungs:
            way = find_way(tube, GLASS, BARLOW, diagonal, rung.key)
            for figure in ("magnification", "exit_pupil", "focal_ratio", "dawes", "rayleigh",
                           "brightness", "working_aperture", "refocus", "faintest"):  # fmt: skip
                found = rung_sum(figure, way, diagonal, viewer)
                text = re.sub(r"\b(mm|dpt)\b", "", found.worked).replace("×", "*")
                text = (
                    text.replace("÷", "/").replace("−", "-").replace("²", "**2").replace("·", "*")
                )
                text = re.sub(r"(^|[^*])(\d[\d.]*) / (\d[\d.]*) \* ", r"\1\2 / \3 * ", text)
                worked = eval(text, {"min": min, "log10": log10})
                worked *= 100 if found.result.endswith("view") else 1
                (number,) = re.findall(r"\d+\.?\d*", found.result.removeprefix("f/"))
                digits = len(number.partition(".")[2])
                assert abs(worked) == pytest.approx(float(number), abs=0.6 * 10**-digits), (
                    figure, rung.key, found.worked, found.result,
                )  # fmt: skip
                tried += 1
    assert tried > 80


def test_a_stranger_to_the_kit_has_no_refocus():
    assert opened("refocus", "e2", make_viewer(None, None, 3)).result == "unknown"


def test_a_field_by_drift():
    """600 s at declination 60°: 600 · 15.041″ · ½ = 1.253°."""
    found = measured_field(600, Course(declination_deg=60))
    assert found.true_field_deg == pytest.approx(1.2534, abs=0.0005)
    assert found.sum.result == "1.25°" and "cos 60.0°" in found.sum.worked
    # the stop it means: 2 · 760 · tan(0.6267°) = 16.6 mm; behind the 1.8× as much more
    for key, factor, stop_mm in (("e1", 1.0, 16.6), ("e2+a1", 1.8, 29.9)):
        way = find_way(TUBE, GLASS, BARLOW, MIRROR, key)
        kept = with_stop(found, way, factor)
        assert (kept.field_stop_mm, kept.eyepiece.name) == (stop_mm, way.setting.eyepiece.name)
    assert measured_field(600, Course(of_moon=True)).true_field_deg == pytest.approx(
        600 * 14.49 / 3600
    )
