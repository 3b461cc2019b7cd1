"""Which way: in a view that is turned or mirrored find west, the chart that fits, and the push."""

from typing import Annotated, Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.finderview import geometry_of
from jade_perch.core.evening.desk import Desk, longest_field_of, require_telescope
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.optics.orientation import telescope_orientation
from jade_perch.core.practice.drill import (
    Aspect,
    AtS,
    DrillState,
    Plane,
    Score,
    chance,
    counted,
    pair,
    scored,
)
from jade_perch.core.practice.handling import finder_of, handling_of
from jade_perch.core.practice.lent import with_an_eyepiece
from jade_perch.core.practice.seen import EyeView, Thing, rows

SIDES = ("top", "upper right", "right", "lower right", "bottom", "lower left", "left", "upper left")
PUSHES = ("right", "up", "left", "down")
PUSHED = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))
CHARTS = 4  # as seen, turned about, mirrored, mirrored and turned about
VIEWS_ASKED = 3
STARS = 7
LOWEST_DEG, HIGHEST_DEG = 20.0, 70.0
TARGET_SHARE = 0.6  # of a view's radius the target stands beside the middle
LEAVES_S = 20.0  # in which a star goes from the middle to the edge here, so hurried; our choice
NEAR_DEG = 35.0  # so far from a side the sky goes that side is right as well; our choice
Ask = Literal["west", "chart", "push"]
ASKS: tuple[Ask, ...] = ("west", "chart", "push")
ASK_WORDS: dict[Ask, str] = {
    "west": "The mount stands still. Where is west in this view?",
    "chart": "Which of these charts shows what you see?",
    "push": "The target stands beside the middle. Which way do you push the tube?",
}


class WayMove(Frozen):
    """One answer: a side, a chart, or a push, by its place in the list."""

    drill: Literal["which_way"] = "which_way"
    kind: Literal["answer", "ask"] = "answer"
    choice: Annotated[int, Range(0, len(SIDES) - 1, "", "Choose one that is shown.")] = 0
    at_s: AtS = 0.0


class WayView(Frozen):
    """One view: how it turns and mirrors, where its stars are, how they go, and what to find.

    Offsets are (right, up) to the naked eye, stars in radii of the view; ``charts`` are its four
    charts in the order shown, each as what is done to the sky beside the view's own matrix.
    """

    name: str
    is_finder: bool
    finder_kind: str
    matrix: tuple[Plane, Plane]
    radius_arcmin: float
    drift: Plane
    stars: tuple[Plane, ...]
    charts: tuple[int, ...]
    push: Annotated[int, Range(0, len(PUSHES) - 1, "", "")]


class WayState(DrillState):
    """Three views, at which of them one is, and what is asked of it."""

    drill: Literal["which_way"] = "which_way"
    views: tuple[WayView, ...]
    stage: int = 0
    ask: Ask = "west"

    @property
    def view(self) -> WayView:
        """The view it is at, the last one once it is over.  Source: rules.md#way-drill."""
        return self.views[min(self.stage, len(self.views) - 1)]


class WayScene(Frozen):
    """What is seen and asked; ``charts`` are four pictures of the same stars, in radii.

    The sky goes ``hurried`` times as fast as it does, and begins anew after ``again_s``.
    """

    drill: Literal["which_way"] = "which_way"
    stage: int
    stages: int
    ask: Ask
    name: str
    view: EyeView
    choices: list[str]
    charts: list[list[Plane]]
    hurried: float
    again_s: float | None


def begin_way(desk: Desk, seed: int) -> WayState:
    """Return three views of tonight's telescope and finder, at heights by chance.

    Raises ``OutOfRange`` without a telescope.

    Source: rules.md#way-drill; rules.md#orientation.
    """
    telescope = require_telescope(desk)
    desk, lent = with_an_eyepiece(desk)
    dice = chance(seed)
    finder = finder_of(desk)
    longest_deg = longest_field_of(desk.ladder_of(telescope, desk.diagonal))
    angles = geometry_of(finder, None, longest_deg)
    views = []
    for n in range(VIEWS_ASKED):
        is_finder = n == 1
        matrix = angles.matrix
        if not is_finder:
            altitude_deg = float(dice.uniform(LOWEST_DEG, HIGHEST_DEG))
            matrix = np.array(telescope_orientation(telescope, desk.diagonal, altitude_deg).matrix)
        views.append(
            WayView(
                name=finder.name if is_finder else telescope.name,
                is_finder=is_finder,
                finder_kind=finder.kind,
                matrix=rows(matrix),
                radius_arcmin=angles.field_radius_arcmin if is_finder else longest_deg * 30,
                drift=handling_of(desk, dice).drift,
                stars=tuple(pair(one) for one in dice.uniform(-0.62, 0.62, (STARS, 2))),
                charts=tuple(int(one) for one in dice.permutation(CHARTS)),
                push=int(dice.integers(len(PUSHES))),
            )
        )
    return WayState(seed=seed, lent=lent, views=tuple(views), say=ASK_WORDS["west"])


def right_answer(state: WayState) -> int:
    """Return the right one among what is asked now.  Source: rules.md#way-drill."""
    view = state.view
    if state.ask == "west":
        return round(west_deg(view) / 45) % len(SIDES)
    if state.ask == "chart":
        return view.charts.index(0)
    return view.push


def west_deg(view: WayView) -> float:
    """Return where the sky goes in a view, in degrees clockwise from its top.

    Source: rules.md#orientation.
    """
    seen = np.array(view.matrix) @ np.array(view.drift)
    return float(np.degrees(np.arctan2(seen[0], seen[1]))) % 360


def is_right(state: WayState, choice: int) -> bool:
    """Return whether an answer is right: between two sides either is.

    Source: rules.md#way-drill.
    """
    if state.ask != "west":
        return choice == right_answer(state)
    return abs((45 * choice - west_deg(state.view) + 180) % 360 - 180) <= NEAR_DEG


def step_way(state: WayState, move: WayMove) -> WayState:
    """Return the round after one answer; a wrong one is remarked and asked again.

    Source: rules.md#way-drill.
    """
    if state.is_over:
        return state
    state = state.at_move(move.at_s)
    if move.kind == "ask":
        return state.model_copy(update={"say": TAUGHT[state.ask]})
    words = f"{state.ask}: {_choices(state)[min(move.choice, len(_choices(state)) - 1)]}"
    state = state.noted(words)
    if not is_right(state, move.choice):
        return _remarked(state)
    return _next(state)


ASPECT: dict[Ask, Aspect] = {"west": "eye", "chart": "order", "push": "gentleness"}
WRONG: dict[Ask, str] = {
    "west": "West was looked for on the wrong side",
    "chart": "The chart of another view was taken",
    "push": "The tube was pushed the wrong way",
}
TAUGHT: dict[Ask, str] = {
    "west": "Without a motor every star leaves toward west: watch one.",
    "chart": "Count the mirrors: an odd number mirrors, an even one only turns.",
    "push": "Push a little and look: the tube goes where the target is in the sky.",
}


def scene_of_way(state: WayState) -> WayScene:
    """Return what is seen and asked now.  Source: rules.md#way-drill."""
    view = state.view
    beside = TARGET_SHARE * view.radius_arcmin * np.array(PUSHED[view.push])
    centre = -beside if state.ask == "push" else np.zeros(2)
    things = [
        Thing(kind="star", right=x * view.radius_arcmin, up=y * view.radius_arcmin, size_arcmin=0.5)
        for x, y in view.stars
    ]
    hurried = _hurried(view) if state.ask == "west" else 0.0
    seen = EyeView(
        eye="finder" if view.is_finder else "main",
        scenery="night",
        finder_kind=view.finder_kind,
        matrix=view.matrix,
        centre=pair(centre),
        drift=pair(hurried * np.array(view.drift)),
        radius_arcmin=view.radius_arcmin,
        things=things,
        target="star",
        target_words="the target",
        nudges_arcmin=[],
    )
    return WayScene(
        stage=min(state.stage, len(state.views) - 1) + 1,
        stages=len(state.views),
        ask=state.ask,
        name=view.name,
        view=seen,
        choices=_choices(state),
        charts=[_chart(view, one) for one in view.charts] if state.ask == "chart" else [],
        hurried=hurried,
        again_s=1.5 * LEAVES_S if hurried else None,
    )


def score_way(state: WayState) -> Score:
    """Return how it went.  Source: rules.md#way-drill."""
    asked = len(state.views) * len(ASKS)
    wrong = len(state.remarks)
    return scored(
        is_passed=state.is_over and not wrong,
        remarks=state.remarks,
        praises=(
            "The chart matched what you saw.",
            "Every push went toward the target.",
            "You let the stars show where west is.",
        ),
        moves=state.moved,
        quicker=f"{counted(asked, 'question')}, {counted(wrong, 'wrong answer')}.",
    )


def _hurried(view: WayView) -> float:
    """Return how many times as fast as it does the sky goes here, a whole number."""
    leaves_s = 60 * view.radius_arcmin / float(np.hypot(*view.drift))
    return float(max(1, round(leaves_s / LEAVES_S)))


def _chart(view: WayView, done: int) -> list[Plane]:
    """Return a chart's stars as printed, in radii: 0 as seen, 1 turned, 2 and 3 mirrored."""
    turned = [np.eye(2), -np.eye(2), np.diag([-1.0, 1.0]), np.diag([1.0, -1.0])][done]
    matrix: Floats = turned @ np.array(view.matrix)
    return [pair(matrix @ np.array(one)) for one in (*view.stars, (0.0, 0.0))]


def _choices(state: WayState) -> list[str]:
    return {
        "west": list(SIDES),
        "chart": [f"chart {n}" for n in range(1, CHARTS + 1)],
        "push": list(PUSHES),
    }[state.ask]


def _next(state: WayState) -> WayState:
    if state.ask != ASKS[-1]:
        ask = ASKS[ASKS.index(state.ask) + 1]
        return state.model_copy(update={"ask": ask, "say": f"Right. {ASK_WORDS[ask]}"})
    stage = state.stage + 1
    if stage == len(state.views):
        return state.model_copy(update={"is_over": True, "stage": stage, "say": "Well turned."})
    update = {"stage": stage, "ask": ASKS[0], "say": f"Right. {ASK_WORDS[ASKS[0]]}"}
    return state.model_copy(update=update)


def _remarked(state: WayState) -> WayState:
    taught = TAUGHT[state.ask]
    better = f"{taught[0].lower()}{taught[1:]}"
    return state.remarked(ASPECT[state.ask], WRONG[state.ask], better, len(state.moved))
