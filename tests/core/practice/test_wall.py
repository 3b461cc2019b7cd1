"""The wall: what a kit has to have before a drill, and what is lent to it and said to be."""

from dataclasses import replace

import pytest

from jade_perch.core.kit import Eyepiece
from jade_perch.core.practice.run import DRILLS, Begin, begun, shown
from jade_perch.core.practice.wall import wall_of

from .desks import demo_desk, desk_with

LENT = ("finder", "focus", "which_way", "pointing", "keep")


def blocked(desk):
    wall = wall_of(desk, {}, sun_is_passed=False)
    return {one.drill for one in wall.cards if one.blocked}


def test_a_drill_says_beforehand_what_the_kit_wants_for_it():
    one = Eyepiece(id=1, name="Own", focal_length_mm=20)
    bare = replace(demo_desk(), amplifiers=())
    assert blocked(replace(bare, telescope=None)) == set(DRILLS) - {"level", "sun"}
    assert blocked(replace(bare, eyepieces=())) == {"glass"}
    assert blocked(replace(bare, eyepieces=(one,))) == {"glass"}
    two = (one, one.model_copy(update={"id": 2, "focal_length_mm": 10}))
    assert blocked(replace(bare, eyepieces=two)) == set()


@pytest.mark.parametrize("drill", LENT)
def test_to_an_empty_case_an_eyepiece_is_lent_and_that_is_said(drill):
    desk = desk_with(eyepieces=())
    run = shown(begun(Begin(drill=drill), 3, desk, desk.moment_utc))
    assert "25 mm is lent" in run.lent
    assert not shown(begun(Begin(drill=drill), 3, demo_desk(), desk.moment_utc)).lent
    # 25 mm and 50° in the demo's 760 mm: 30.4× and 50/30.4 = 1.64° across
    if drill in ("keep", "which_way"):
        assert run.scene.view.radius_arcmin == pytest.approx(60 * 50 / 30.4 / 2, rel=0.02)
    if drill == "keep":
        assert run.scene.magnification == pytest.approx(30.4)
    if drill == "focus":
        assert run.scene.eyepiece_mm == 25


def test_a_round_says_whose_it_is_and_with_what():
    desk = demo_desk()
    runs = {
        name: shown(begun(Begin(drill=name), 3, desk, desk.moment_utc)) for name in ("keep", "sun")
    }
    assert runs["keep"].whose == "Ilse Marrow · Heron 140" and runs["sun"].whose == "Ilse Marrow"
