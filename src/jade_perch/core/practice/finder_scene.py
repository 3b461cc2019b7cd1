"""A round of the finder drill: how it begins from a kit, what is seen of it, how it went."""

from typing import Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.finderview import finder_field_deg, needed_distance_m
from jade_perch.core.bench.screws import screw_hours
from jade_perch.core.evening.desk import Desk, longest_field_of, require_telescope
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import RingEnd
from jade_perch.core.optics.orientation import telescope_orientation
from jade_perch.core.practice.drill import Score, chance, counted, pair, scored
from jade_perch.core.practice.finder_advice import advised_finder
from jade_perch.core.practice.finder_drill import looked_at, step_finder
from jade_perch.core.practice.handling import finder_of, handling_of
from jade_perch.core.practice.lent import with_an_eyepiece
from jade_perch.core.practice.ring import TRAVEL_TURNS, ring_of
from jade_perch.core.practice.seen import (
    ALONG_OFF_ARCMIN,
    EyeView,
    Scenery,
    nudges_arcmin,
    rows,
    things_about,
)
from jade_perch.core.practice.sighted import (
    AimPoint,
    FinderState,
    matrix_of,
    radius_arcmin,
    target_from,
    usual_arcmin_per_turn,
)

LEVER_MM, PITCH_MM = (60.0, 130.0), (0.5, 0.8)  # of a finder nobody measured; our estimates
REAR_OFTEN = 0.7  # how often the screws hold the rear end; our estimate
MOST_OFF = 0.75  # of a ring's travel a finder is off with its screws in the middle
START_TURNS = 2.5  # so far from the middle its screws stand at first
NEAR_SHARE = (0.08, 0.22)  # of the distance that is far enough: a trap that tells
NEAREST_M = 6.0  # nothing nearer is aligned on
MOST_ADVISED = 120  # moves after which a mentor has long finished

TURNS = [0.125, 0.5, 1.0]
TURN_WORDS = ["⅛", "½", "1"]


class FinderScene(Frozen):
    """What the eye sees now, what the hands may choose among, and how the finder's screws sit."""

    drill: Literal["finder"] = "finder"
    view: EyeView
    finder_name: str
    is_borrowed: bool
    marks: list[AimPoint]
    mark_words: list[str]
    chosen: int
    has_clamps: bool
    is_clamped: bool
    screw_hours: list[int]
    turns: list[float]
    turn_words: list[str]


def begin_finder(desk: Desk, seed: int, scenery: Scenery = "day") -> FinderState:
    """Return a finder that is off, on tonight's telescope, by chance from a seed.

    A kit without a finder borrows one.  Raises ``OutOfRange`` without a telescope.

    Source: rules.md#practice.
    """
    telescope = require_telescope(desk)
    desk, lent = with_an_eyepiece(desk)
    dice = chance(seed)
    finder = finder_of(desk)
    longest = longest_field_of(desk.ladder_of(telescope, desk.diagonal))
    lever = finder.lever_mm or float(dice.uniform(*LEVER_MM))
    per_turn = usual_arcmin_per_turn(
        lever, finder.thread_pitch_mm or float(dice.uniform(*PITCH_MM))
    )
    end: RingEnd = finder.ring_end or ("rear" if dice.random() < REAR_OFTEN else "front")
    most_off = min(MOST_OFF * TRAVEL_TURNS * per_turn, 0.8 * finder_field_deg(finder)[0] * 30)
    ring = ring_of(finder)
    tips = ring.toward @ _within(dice, START_TURNS)
    matrix = telescope_orientation(telescope, desk.diagonal).matrix
    traits = desk.known_mount.traits
    return FinderState(
        seed=seed,
        lent=lent,
        scenery=scenery,
        finder=finder.model_copy(update={"id": None, "version": None, "telescope_id": None}),
        is_borrowed=not desk.finders,
        main_matrix=rows(np.array(matrix)),
        longest_field_deg=longest,
        has_clamps=traits.has_clamps,
        is_clamped=traits.has_clamps,
        units=desk.units,
        marks=_marks(dice, needed_distance_m(finder.axis_offset_mm, longest), scenery),
        chosen=0,
        tube=pair(_within(dice, 400.0)),
        rest=pair(_within(dice, most_off)),
        along=pair(dice.normal(0, ALONG_OFF_ARCMIN, 2)),
        drift=handling_of(desk, dice).drift if scenery == "night" else (0.0, 0.0),
        arcmin_per_turn=per_turn,
        end=end,
        tips=tuple(tips.tolist()),
        say="Choose what to align on, then bring it into the main tube.",
    )


def scene_of_finder(state: FinderState) -> FinderScene:
    """Return what the eye sees where it is now.  Source: rules.md#orientation."""
    eye, mark = state.eye, state.mark
    view = EyeView(
        eye=eye,
        scenery=state.scenery,
        finder_kind=state.finder.kind,
        matrix=rows(matrix_of(state, eye)),
        centre=pair(-target_from(state, eye)),
        drift=state.drift,
        radius_arcmin=radius_arcmin(state, eye),
        things=things_about(state.seed, state.chosen, state.scenery),
        target="star" if mark is None else "pole",
        target_words="the bright star" if mark is None else mark.words,
        nudges_arcmin=nudges_arcmin(eye, radius_arcmin(state, eye)),
    )
    return FinderScene(
        view=view,
        finder_name=state.finder.name,
        is_borrowed=state.is_borrowed,
        marks=list(state.marks),
        mark_words=[
            f"{one.words}, {state.units.distance(one.distance_m)}, {one.sun_deg:.0f}° from the Sun"
            for one in state.marks
        ],
        chosen=state.chosen,
        has_clamps=state.has_clamps,
        is_clamped=state.is_clamped,
        screw_hours=screw_hours(state.finder),
        turns=TURNS,
        turn_words=TURN_WORDS,
    )


def score_finder(state: FinderState, start: FinderState) -> Score:
    """Return how it went, against the moves a mentor would have needed from the same beginning.

    Source: rules.md#practice.
    """
    made = len(state.moved)
    return scored(
        is_passed=state.is_over,
        remarks=state.remarks,
        praises=(
            "The target stood in the main tube before any screw was touched.",
            "Nothing was forced, and every screw holds.",
            "Your eye was at the finder while its screws turned, and looked back at the end.",
        ),
        moves=state.moved,
        quicker=f"You made {counted(made, 'move')}; a mentor would have needed about "
        f"{len(mentored(start)[1])}.",
    )


def mentored(state: FinderState) -> tuple[FinderState, list[str]]:
    """Return a round as a mentor would end it, with every word that was followed.

    Source: rules.md#practice; the bench's own advice, followed to its end.
    """
    words: list[str] = []
    while not state.is_over and len(words) < MOST_ADVISED:
        told = advised_finder(state)
        words.append(told.words)
        for move in told.moves:
            state = step_finder(state, move)
        state = state.model_copy(update={"tries": looked_at(state.tries)})
    return state, words


def _marks(dice: np.random.Generator, needed_m: float, scenery: Scenery) -> tuple[AimPoint, ...]:
    """Return what may be aligned on: the first too near, one beside the Sun, and good ones."""
    if scenery == "night":
        return ()
    far_m = max(1500.0, 2 * needed_m)
    near = _point(
        dice, "the gatepost", max(NEAREST_M, needed_m * dice.uniform(*NEAR_SHARE)), 60, 170
    )
    others = [
        _point(dice, "the chimney", needed_m * dice.uniform(1.5, 4), 40, 90),
        _point(dice, "the mast", far_m * dice.uniform(1, 3), 6, 24),
        _point(dice, "the tower on the ridge", far_m * dice.uniform(1, 3), 80, 150),
    ]
    return (near, *(others[int(n)] for n in dice.permutation(len(others))))


def _point(
    dice: np.random.Generator, words: str, distance_m: float, from_deg: float, to_deg: float
) -> AimPoint:
    """Return something to aim at, its distance as people know one: two figures of it."""
    size = 10 ** (np.floor(np.log10(distance_m)) - 1)
    return AimPoint(
        words=words,
        distance_m=float(np.round(distance_m / size) * size),
        sun_deg=float(np.round(dice.uniform(from_deg, to_deg))),
    )


def _within(dice: np.random.Generator, most: float) -> Floats:
    angle, share = dice.uniform(0, 2 * np.pi), dice.uniform(0.4, 1.0)
    return np.asarray(most * share * np.array([np.sin(angle), np.cos(angle)]))
