"""Keep-it drill: a target that drifts is held for minutes, by the right knob, at growing power."""

from typing import Annotated, Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.evening.desk import Desk, require_telescope
from jade_perch.core.fields import Frozen, Range
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
from jade_perch.core.practice.handling import Axis, Handling, handling_of, knob_turned
from jade_perch.core.practice.lent import with_an_eyepiece
from jade_perch.core.practice.seen import EyeView, rows, things_about

USUAL_S = 300.0  # as long as a queue of children takes; our choice
STAGES = 5  # powers one climbs through
MOST_OUT_SHARE = 0.1  # of the time outside the field still counts as kept
KNOB_ARCMIN, PUSH_ARCMIN = (1.5, 6.0), (5.0, 20.0)  # the finest a hand does, and more; estimates
KNOB_SLIP, HAND_SLIP = 0.05, 0.25  # how far from the one meant, as a share; our estimates
STANDING = 1e-12  # slower than this, squared, something stands
PAST_SHARE = 0.7  # of the field's radius beyond its middle is pushed too far


class KeepMove(Frozen):
    """One move: an axis turned by so many arcmin, or only time that goes by."""

    drill: Literal["keep"] = "keep"
    kind: Literal["turn", "wait"]
    axis: Axis = 0
    amount: Annotated[float, Range(-120, 120, "arcmin", "Turn it by less at one go.")] = 0.0
    at_s: AtS = 0.0


class KeepState(DrillState):
    """A target in a field: ``place`` is where it stands from the middle, (right, up) in arcmin.

    ``fields_arcmin`` are the radii one climbs through, ``out_s`` how long it was outside.
    """

    drill: Literal["keep"] = "keep"
    handling: Handling
    matrix: tuple[Plane, Plane]
    powers: tuple[float, ...]
    fields_arcmin: tuple[float, ...]
    whole_s: float
    place: Plane
    last_way: tuple[int, int] = (0, 0)
    out_s: float = 0.0


class KeepScene(Frozen):
    """What is seen of it, by which arcs it is brought back, and until when this power lasts."""

    drill: Literal["keep"] = "keep"
    view: EyeView
    handling: Handling
    magnification: float
    stage: int
    stages: int
    next_at_s: float
    whole_s: float
    out_s: float


def begin_keep(desk: Desk, seed: int, whole_s: float = USUAL_S) -> KeepState:
    """Return a target in the middle of the longest eyepiece, on tonight's mount.

    Raises ``OutOfRange`` without a telescope.

    Source: rules.md#practice.
    """
    telescope = require_telescope(desk)
    desk, lent = with_an_eyepiece(desk)
    rungs = sorted(
        desk.ladder_of(telescope, desk.diagonal).rungs, key=lambda one: one.magnification
    )
    climbed = [rungs[int(n)] for n in np.linspace(0, len(rungs) - 1, STAGES).round()]
    handling = handling_of(desk, chance(seed))
    bring = "bring it back before it reaches the edge."
    return KeepState(
        seed=seed,
        lent=lent,
        handling=handling,
        matrix=rows(np.array(telescope_orientation(telescope, desk.diagonal).matrix)),
        powers=tuple(one.magnification for one in climbed),
        fields_arcmin=tuple(one.true_field_deg * 30 for one in climbed),
        whole_s=whole_s,
        place=(0.0, 0.0),
        say=f"The motors stand still here: {bring}"
        if handling.is_stopped
        else f"It drifts: {bring}",
    )


def stage_at(state: KeepState, at_s: float) -> int:
    """Return which power, from 0, stands at a moment of the round.  Source: rules.md#practice."""
    return min(STAGES - 1, int(at_s * STAGES / state.whole_s))


def step_keep(state: KeepState, move: KeepMove) -> KeepState:
    """Return the target after one move; the round is over when its time is.

    Source: rules.md#practice.
    """
    if state.is_over:
        return state
    state = gone_on(state, min(max(move.at_s, state.at_s), state.whole_s)).at_move(0.0)
    if move.kind == "turn" and state.at_s < state.whole_s:
        return _turned(state, move)
    if state.at_s >= state.whole_s:
        kept = round(100 * (1 - state.out_s / state.whole_s))
        return state.model_copy(update={"is_over": True, "say": f"Kept for {kept} % of the time."})
    return state.model_copy(update={"say": _where_words(state)})


def gone_on(state: KeepState, at_s: float) -> KeepState:
    """Return the target as it drifted on, and how long of it was outside: exactly, power by power.

    Source: rules.md#handling; a straight line through a circle.
    """
    drift = np.array(state.handling.drift) / 60
    place, now, out_s = np.array(state.place), state.at_s, state.out_s
    while now < at_s:
        stage = stage_at(state, now)
        end = at_s if stage == STAGES - 1 else min(at_s, (stage + 1) * state.whole_s / STAGES)
        span = max(end - now, 1e-9)
        out_s += outside_s(place, drift, state.fields_arcmin[stage], span)
        place = place + drift * span
        now = end if end > now else at_s
    return state.model_copy(update={"place": pair(place), "at_s": at_s, "out_s": out_s})


def outside_s(start: Floats, moved: Floats, radius_arcmin: float, span_s: float) -> float:
    """Return how long something is outside a circle while it goes on for a span.

    ``start`` is in arcmin from the middle, ``moved`` in arcmin a second.

    Source: rules.md#handling; the two roots of |start + moved·t| = radius.
    """
    a, b = float(moved @ moved), 2 * float(start @ moved)
    c = float(start @ start) - radius_arcmin**2
    root = b * b - 4 * a * c
    if a < STANDING or root <= 0:
        return span_s if c > 0 else 0.0
    first, last = ((-b - np.sqrt(root)) / (2 * a), (-b + np.sqrt(root)) / (2 * a))
    inside = max(0.0, min(span_s, last) - max(0.0, first))
    return float(span_s - inside)


def scene_of_keep(state: KeepState) -> KeepScene:
    """Return what is seen of it now.  Source: rules.md#orientation."""
    stage = stage_at(state, state.at_s)
    radius = state.fields_arcmin[stage]
    amounts = KNOB_ARCMIN if state.handling.has_knobs else PUSH_ARCMIN
    view = EyeView(
        eye="main",
        scenery="night",
        finder_kind="",
        matrix=state.matrix,
        centre=pair(-np.array(state.place)),
        drift=state.handling.drift,
        radius_arcmin=radius,
        things=things_about(state.seed, 0, "night"),
        target="star",
        target_words="the target",
        nudges_arcmin=list(amounts),
    )
    return KeepScene(
        view=view,
        handling=state.handling,
        magnification=state.powers[stage],
        stage=stage + 1,
        stages=STAGES,
        next_at_s=(stage + 1) * state.whole_s / STAGES,
        whole_s=state.whole_s,
        out_s=state.out_s,
    )


def score_keep(state: KeepState) -> Score:
    """Return how it was kept.  Source: rules.md#practice."""
    share = 1 - state.out_s / state.whole_s
    turns = len(state.moved)
    return scored(
        is_passed=state.is_over and 1 - share <= MOST_OUT_SHARE,
        remarks=state.remarks,
        praises=(
            "Every turn brought it back toward the middle.",
            "Small turns, and none past the middle.",
            "You brought it back before it reached the edge.",
        ),
        moves=state.moved,
        quicker=f"In the field for {100 * share:.0f} % of the time, with {counted(turns, 'turn')}.",
    )


def _turned(state: KeepState, move: KeepMove) -> KeepState:
    went, ways = knob_turned(state.last_way, move.axis, move.amount)
    slip = KNOB_SLIP
    if not state.handling.has_knobs:  # a hand has no play, and no fine touch
        went, slip = move.amount, HAND_SLIP
    went *= chance(state.seed, 1, state.number).normal(1, slip)
    before = np.array(state.place)
    after = before - went * np.array(state.handling.arcs[move.axis])
    words = f"{state.handling.arc_words[move.axis]}: {_way_words(state, move)}"
    state = state.model_copy(
        update={"place": pair(after), "last_way": ways, "moved": (*state.moved, words)}
    )
    return _judged(state, before, after)


def _way_words(state: KeepState, move: KeepMove) -> str:
    return state.handling.way_words[move.axis][1 if move.amount > 0 else 0]


def _judged(state: KeepState, before: Floats, after: Floats) -> KeepState:
    radius = state.fields_arcmin[stage_at(state, state.at_s)]
    was, now = float(np.hypot(*before)), float(np.hypot(*after))
    turn = len(state.moved)  # by its number among the turns: waiting is no move to look back on
    if was > radius:
        better = "bring it back at two thirds of the way out."
        state = state.remarked("eye", "It had left the field", better, turn)
    if now > was + 0.05 * radius and float(before @ after) > 0:
        better = "turn so that it comes back: it leaves the other way."
        return state.remarked("order", "A turn drove it farther out", better, turn)
    if float(before @ after) < 0 and now > PAST_SHARE * radius:
        return state.remarked("gentleness", "It was pushed past the middle", "smaller turns.", turn)
    return state.model_copy(update={"say": _where_words(state)}) if was <= radius else state


def _where_words(state: KeepState) -> str:
    radius = state.fields_arcmin[stage_at(state, state.at_s)]
    share = float(np.hypot(*state.place)) / radius
    if share > 1:
        return "It has left the field: bring it back the way it went."
    return "Near the edge: now." if share > 0.7 else "Well kept."
