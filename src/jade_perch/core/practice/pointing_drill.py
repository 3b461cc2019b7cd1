"""Pointing drill: clamps first, then along the tube, the finder, and the main tube, in time."""

from typing import Any, Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.finderview import finder_field_deg, geometry_of
from jade_perch.core.evening.desk import Desk, longest_field_of, require_telescope
from jade_perch.core.fields import Frozen
from jade_perch.core.optics.orientation import telescope_orientation
from jade_perch.core.practice.drill import (
    AtS,
    DrillState,
    Plane,
    Score,
    chance,
    counted,
    pair,
    scored,
)
from jade_perch.core.practice.handling import (
    FORCED_SHARE,
    KNOB_SLIP,
    MOST_PUSH_ARCMIN,
    NO_CLAMPS,
    PUSH_SLIP,
    Axis,
    Handling,
    Push,
    finder_of,
    forced_clamp,
    handling_of,
    knob_turned,
    left_behind,
)
from jade_perch.core.practice.lent import with_an_eyepiece
from jade_perch.core.practice.seen import (
    ALONG_OFF_ARCMIN,
    ALONG_RADIUS_ARCMIN,
    IN_VIEW,
    LOOKS,
    Eye,
    EyeView,
    nudges_arcmin,
    rows,
    things_about,
)

START_ARCMIN = (600.0, 1080.0)  # how far away the tube points at first
CENTRED_SHARE = 0.33  # of the main field's radius: within it the target counts as brought in
PAST_SHARE = 0.5  # of a view's radius beyond its middle is pushed too far
# from the finest view to the widest: how one gets there, and what to do in it
VIEWS: dict[Eye, tuple[str, str]] = {
    "main": ("Look through the main tube.", "Push it to the middle of the main field."),
    "finder": ("Look through the finder.", "Push until it stands on the finder's mark."),
    "along": ("Look along the tube.", "Push the tube until it points at the star."),
}


class PointingMove(Frozen):
    """One move: where the eye goes, a push (right, up) or a knob's turn in arcmin, a clamp."""

    drill: Literal["pointing"] = "pointing"
    kind: Literal["look", "push", "knob", "clamp", "unclamp", "ask", "done"]
    eye: Eye = "main"
    right: Push = 0.0
    up: Push = 0.0
    axis: Axis = 0
    at_s: AtS = 0.0


class PointingState(DrillState):
    """A tube that is to be brought to a target: ``tube`` is where it points past it.

    ``finder_off`` and ``along_off`` are what finder and sight are off by, ``last_way`` the sign of
    each knob's last turn.
    """

    drill: Literal["pointing"] = "pointing"
    handling: Handling
    matrix: tuple[Plane, Plane]
    finder_matrix: tuple[Plane, Plane]
    finder_kind: str
    finder_name: str
    is_borrowed: bool
    finder_radius_arcmin: float
    main_radius_arcmin: float
    limit_s: float | None
    tube: Plane
    finder_off: Plane
    along_off: Plane
    eye: Eye = "along"
    is_clamped: bool
    last_way: tuple[int, int] = (0, 0)


class PointingScene(Frozen):
    """What the eye sees, how the mount is handled, and how long one gave oneself."""

    drill: Literal["pointing"] = "pointing"
    view: EyeView
    finder_name: str
    is_borrowed: bool
    handling: Handling
    is_clamped: bool
    limit_s: float | None
    knob_arcmin: list[float]


def begin_pointing(desk: Desk, seed: int, limit_s: float | None = None) -> PointingState:
    """Return a tube that points elsewhere, with tonight's kit, by chance from a seed.

    ``limit_s`` is the time one gives oneself.  Raises ``OutOfRange`` without a telescope.

    Source: rules.md#practice.
    """
    telescope = require_telescope(desk)
    desk, lent = with_an_eyepiece(desk)
    dice = chance(seed)
    finder = finder_of(desk)
    longest_deg = longest_field_of(desk.ladder_of(telescope, desk.diagonal))
    angles = geometry_of(finder, None, longest_deg)
    handling = handling_of(desk, dice)
    angle, away = dice.uniform(0, 2 * np.pi), dice.uniform(*START_ARCMIN)
    return PointingState(
        seed=seed,
        lent=lent,
        handling=handling,
        matrix=rows(np.array(telescope_orientation(telescope, desk.diagonal).matrix)),
        finder_matrix=rows(angles.matrix),
        finder_kind=finder.kind,
        finder_name=finder.name,
        is_borrowed=not desk.finders,
        finder_radius_arcmin=finder_field_deg(finder)[0] * 30,
        main_radius_arcmin=longest_deg * 30,
        limit_s=limit_s,
        tube=pair(away * np.array([np.sin(angle), np.cos(angle)])),
        finder_off=pair(dice.normal(0, angles.limit_arcmin / 3, 2)),
        along_off=pair(dice.normal(0, ALONG_OFF_ARCMIN, 2)),
        is_clamped=handling.has_clamps,
        say="Bring the bright star into the main tube: think of the clamps.",
    )


def step_pointing(state: PointingState, move: PointingMove) -> PointingState:
    """Return the tube after one move; a state that is over stays as it is.

    Source: rules.md#practice.
    """
    if state.is_over:
        return state
    tube = left_behind(state.tube, state.handling.drift, move.at_s - state.at_s)
    state = state.at_move(move.at_s).model_copy(update={"tube": tube})
    after: PointingState = MOVES[move.kind](state, move)
    return after.noted(_words(state, move))


def target_at(state: PointingState, eye: Eye) -> Floats:
    """Return where the target stands from a view's middle, (right, up) in arcmin.

    Source: rules.md#finder.
    """
    off = {"main": (0.0, 0.0), "finder": state.finder_off, "along": state.along_off}[eye]
    return np.asarray(-np.array(state.tube) - np.array(off))


def radius_of(state: PointingState, eye: Eye) -> float:
    """Return a view's radius in arcmin.  Source: rules.md#finder."""
    return {
        "main": state.main_radius_arcmin,
        "finder": state.finder_radius_arcmin,
        "along": ALONG_RADIUS_ARCMIN,
    }[eye]


def is_seen(state: PointingState, eye: Eye) -> bool:
    """Return whether the target is in a view.  Source: rules.md#finder."""
    return float(np.hypot(*target_at(state, eye))) <= IN_VIEW * radius_of(state, eye)


def scene_of_pointing(state: PointingState) -> PointingScene:
    """Return what the eye sees now.  Source: rules.md#orientation."""
    eye = state.eye
    upright = ((1.0, 0.0), (0.0, 1.0))
    matrix = {"main": state.matrix, "finder": state.finder_matrix, "along": upright}[eye]
    view = EyeView(
        eye=eye,
        scenery="night",
        finder_kind=state.finder_kind,
        matrix=matrix,
        centre=pair(-target_at(state, eye)),
        drift=state.handling.drift,
        radius_arcmin=radius_of(state, eye),
        things=things_about(state.seed, 0, "night"),
        target="star",
        target_words="the bright star",
        nudges_arcmin=nudges_arcmin(eye, radius_of(state, eye)),
    )
    return PointingScene(
        view=view,
        finder_name=state.finder_name,
        is_borrowed=state.is_borrowed,
        handling=state.handling,
        is_clamped=state.is_clamped,
        limit_s=state.limit_s,
        knob_arcmin=[share * state.main_radius_arcmin for share in (0.15, 0.6)],
    )


def advised_pointing(state: PointingState) -> tuple[str, PointingMove]:
    """Return what a mentor would do next, in words and as a move.  Source: rules.md#practice."""
    eye, holds = state.eye, state.handling.has_clamps and state.is_clamped
    left = target_at(state, "main")
    surely = 0.7 * CENTRED_SHARE * state.main_radius_arcmin  # it goes on while one says so
    if float(np.hypot(*left)) <= surely and eye == "main":
        return "It stands in the middle: say so.", PointingMove(kind="done")
    knobs = state.handling.has_knobs and is_seen(state, "main") and eye == "main"
    if holds and not knobs:
        return "Open the clamps first.", PointingMove(kind="unclamp")
    where = next((one for one in VIEWS if is_seen(state, one)), None)
    if where is None:
        words = "It is out of sight: turn the tube back toward it."
        return words, _toward(target_at(state, "along"))
    if eye != where:
        return VIEWS[where][0], PointingMove(kind="look", eye=where)
    return VIEWS[where][1], _toward(target_at(state, eye))


def _toward(push_arcmin: Floats) -> PointingMove:
    right, up = np.clip(push_arcmin, -MOST_PUSH_ARCMIN, MOST_PUSH_ARCMIN)
    return PointingMove(kind="push", right=float(right), up=float(up))


def score_pointing(state: PointingState) -> Score:
    """Return how it went, and in which time.  Source: rules.md#practice."""
    minutes, seconds = divmod(round(state.at_s), 60)
    took = f"It took {minutes}:{seconds:02d} and {counted(len(state.moved), 'move')}"
    in_time = state.limit_s is None or state.at_s <= state.limit_s
    given = "" if state.limit_s is None else f", of {state.limit_s / 60:g} min you gave yourself"
    return scored(
        is_passed=state.is_over and in_time,
        remarks=state.remarks,
        praises=(
            "Clamps, along the tube, finder, main tube: in that order.",
            "Nothing was forced, and nothing pushed past.",
            "Your eye went to the main tube when the finder had it.",
        ),
        moves=state.moved,
        quicker=f"{took}{given}.",
    )


def _looked(state: PointingState, move: PointingMove) -> PointingState:
    after = state.model_copy(update={"eye": move.eye})
    if move.eye == "main" and not is_seen(after, "main") and not is_seen(after, "finder"):
        better = "first along the tube, then the finder, then the main tube."
        return after.remarked("eye", "You looked into the main tube before the finder", better)
    seen = is_seen(after, move.eye)
    say = "There it is." if seen else "Not in this view: go one step back."
    return after.model_copy(update={"say": say})


def _clamped(state: PointingState, move: PointingMove) -> PointingState:
    if not state.handling.has_clamps:
        return state.model_copy(update={"say": NO_CLAMPS})
    closes = move.kind == "clamp"
    say = "Clamps closed: only knobs move it now." if closes else "Clamps open: now push."
    return state.model_copy(update={"is_clamped": closes, "say": say})


def _pushed(state: PointingState, move: PointingMove) -> PointingState:
    wanted = np.array([move.right, move.up])
    if state.handling.has_clamps and state.is_clamped:
        return forced_clamp(_moved_by(state, FORCED_SHARE * wanted))
    slip = chance(state.seed, 1, state.number).normal(1, PUSH_SLIP)
    return _followed(state, _moved_by(state, slip * wanted))


def _knob(state: PointingState, move: PointingMove) -> PointingState:
    if not state.handling.has_knobs:
        return state.model_copy(update={"say": "This mount has no knobs: push the tube."})
    if state.handling.has_clamps and not state.is_clamped:
        better = "close the clamps before the knobs: open, they turn nothing."
        return state.remarked("order", "A knob was turned with the clamps open", better)
    went, ways = knob_turned(state.last_way, move.axis, move.right)
    slip = chance(state.seed, 1, state.number).normal(1, KNOB_SLIP)
    arc = np.array(state.handling.arcs[move.axis])
    after = _moved_by(state, slip * went * arc).model_copy(update={"last_way": ways})
    return _followed(state, after)


def _moved_by(state: PointingState, push_arcmin: Floats) -> PointingState:
    tube = np.clip(np.array(state.tube) + push_arcmin, -5400, 5400)
    return state.model_copy(update={"tube": pair(tube)})


def _followed(before: PointingState, after: PointingState) -> PointingState:
    """Return the tube after a push, with what a mentor says to where it went."""
    eye = before.eye
    was, now = target_at(before, eye), target_at(after, eye)
    radius = radius_of(before, eye)
    is_past = float(was @ now) < 0 and float(np.hypot(*now)) > PAST_SHARE * radius
    if is_seen(before, eye) and is_past:
        better = "the nearer the middle, the smaller the push."
        return after.remarked("gentleness", "It was pushed past the middle", better)
    if not is_seen(before, eye) and not is_seen(after, eye) and eye == "main":
        better = "go back to the finder instead of sweeping blindly."
        if is_seen(after, "finder"):
            return after.remarked("order", "The main tube was swept blindly", better)
    if float(np.hypot(*now)) > float(np.hypot(*was)):
        return after.model_copy(update={"say": "That was the other way."})
    say = "In the middle." if _is_centred(after) else "Nearer."
    return after.model_copy(update={"say": say})


def _is_centred(state: PointingState) -> bool:
    return float(np.hypot(*state.tube)) <= CENTRED_SHARE * state.main_radius_arcmin


def _told(state: PointingState, _: PointingMove) -> PointingState:
    return state.model_copy(update={"say": advised_pointing(state)[0]})


def _called(state: PointingState, _: PointingMove) -> PointingState:
    if _is_centred(state):
        return state.model_copy(update={"is_over": True, "say": "Brought in."})
    better = "look through the main tube, and bring it to the middle."
    return state.remarked("eye", "It was called brought in too early", better)


def _words(state: PointingState, move: PointingMove) -> str:
    if move.kind == "look":
        return LOOKS[move.eye]
    if move.kind == "knob":
        return f"turn the knob of the {state.handling.arc_words[move.axis]}"
    return {
        "push": "push the tube",
        "clamp": "close the clamps",
        "unclamp": "open the clamps",
        "ask": "ask the mentor",
        "done": "say that it is in",
    }[move.kind]


MOVES: dict[str, Any] = {
    "look": _looked,
    "push": _pushed,
    "knob": _knob,
    "clamp": _clamped,
    "unclamp": _clamped,
    "ask": _told,
    "done": _called,
}
