"""Finder drill: landmark, main tube, clamp, screws, and a look back, with what spoils each."""

from typing import Any

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.loop import Try
from jade_perch.core.bench.response import REMEMBERED
from jade_perch.core.bench.screws import screw_hours
from jade_perch.core.constants import SUN_KEEP_AWAY_DEG
from jade_perch.core.errors import OutOfRange
from jade_perch.core.practice.drill import Aspect, Plane, chance, pair
from jade_perch.core.practice.finder_advice import (
    advised_finder,
    is_at_sun,
    is_centred,
    is_good,
    is_too_near,
    off_arcmin,
    play_turns,
    saw_it_centred,
)
from jade_perch.core.practice.handling import FORCED_SHARE, NO_CLAMPS, forced_clamp, left_behind
from jade_perch.core.practice.ring import FORCED_TURNS, SNUG_TURNS, TRAVEL_TURNS
from jade_perch.core.practice.seen import LOOKS, Eye
from jade_perch.core.practice.sighted import FinderMove, FinderState, radius_arcmin, seen_in

BUMP_SHARE = 0.12  # of the main field's radius: how far a tube is bumped that nothing holds
HELD_SHARE = 0.03  # the same while its clamps are closed; our estimates
BUMPS, BUMPS_HELD = 0.35, 0.1  # how often turning a screw bumps it; our estimates
PUSH_SLIP = 0.1  # how far a push is from the one meant, as a share; our estimate
ALONG_DEG = 1.0  # how well a tube is sighted along, one standard deviation; our estimate


def step_finder(state: FinderState, move: FinderMove) -> FinderState:
    """Return finder and tube after one move; a state that is over stays as it is.

    Raises ``OutOfRange`` for a screw or a landmark that is not there.

    Source: rules.md#practice.
    """
    if state.is_over:
        return state
    tube = left_behind(state.tube, state.drift, move.at_s - state.at_s)
    state = state.at_move(move.at_s).model_copy(update={"tube": tube})
    return MOVES[move.kind](state, move).noted(move_words(state, move))


def _looked(state: FinderState, move: FinderMove) -> FinderState:
    update: dict[str, Any] = {"eye": move.eye, "say": _look_words(state, move.eye)}
    if move.eye == "main":
        update |= {"turned_since_look": False, "was_centred": is_centred(state)}
    after = state.model_copy(update=update)
    return _beside_sun(after) if move.eye != "along" and is_at_sun(after) else after


def _look_words(state: FinderState, eye: Eye) -> str:
    if eye == "along":
        return "Along the tube one points as well as a degree or two."
    if seen_in(state, eye) is None:
        if eye == "main":
            return "Not in the field: sight along the tube, then sweep a spiral."
        if not saw_it_centred(state):
            return "Not in the finder: first bring it into the main tube."
        return "Not in the finder: it is off by more than its field shows."
    if eye == "main":
        return "In the main field: bring it to the middle before any screw."
    if not state.was_centred:
        return "In the finder; first centre it in the main tube, then its screws."
    return "In the finder: now its screws, while the tube stays where it is."


def _chosen(state: FinderState, move: FinderMove) -> FinderState:
    """Turn to another landmark, sighted along the tube as well as one does."""
    if move.landmark >= len(state.marks):
        allowed = f"0 to {len(state.marks) - 1}" if state.marks else "none: a star is aligned on"
        raise OutOfRange("landmark", move.landmark, allowed, "Choose one that is shown.")
    if state.is_clamped and state.has_clamps:
        return forced_clamp(state)
    tube = chance(state.seed, 4, state.number).normal(0, 3 * 60 * ALONG_DEG, 2)
    after = state.model_copy(
        update={
            "chosen": move.landmark,
            "tube": pair(tube),
            "tries": (),
            "swept": 0,
            "was_centred": False,
            "eye": "along",
            "say": "Turned about to it: sight along the tube.",
        }
    )
    return _beside_sun(after) if is_at_sun(after) else after


def _beside_sun(state: FinderState) -> FinderState:
    """Return the state with what a mentor says to a landmark beside the Sun, every time."""
    away = f"stay {SUN_KEEP_AWAY_DEG:.0f}° away from it, also with a capped tube."
    return state.remarked("order", "That landmark stands beside the Sun", away)


def _pushed(state: FinderState, move: FinderMove) -> FinderState:
    wanted = np.array([move.right, move.up])
    if state.is_clamped and state.has_clamps:
        return forced_clamp(_moved_tube(state, FORCED_SHARE * wanted))
    slip = chance(state.seed, 5, state.number).uniform(1 - PUSH_SLIP, 1 + PUSH_SLIP)
    after = _moved_tube(state, slip * wanted)
    say = "Centred in the main field." if is_centred(after) else _push_words(after)
    is_sweeping = state.eye == "main" and seen_in(after, "main") is None
    update: dict[str, Any] = {"was_centred": is_centred(after) and state.eye == "main"}
    update |= {"say": say, "swept": state.swept + 1 if is_sweeping else 0, "tries": _broken(state)}
    return after.model_copy(update=update)


def _push_words(state: FinderState) -> str:
    if seen_in(state, state.eye) is not None:
        return "Nearer the middle still." if state.eye == "main" else "Look where it stands now."
    return "Nothing there yet."


def _moved_tube(state: FinderState, push_arcmin: Floats) -> FinderState:
    tube = np.clip(np.array(state.tube) + push_arcmin, -7200, 7200)
    return state.model_copy(update={"tube": pair(tube)})


def _clamped(state: FinderState, move: FinderMove) -> FinderState:
    closes = move.kind == "clamp"
    if not state.has_clamps:
        return state.model_copy(update={"say": NO_CLAMPS})
    say = "Clamps closed: it stays." if closes else "Clamps open, one hand on the tube."
    return state.model_copy(update={"is_clamped": closes, "say": say})


def _turned(state: FinderState, move: FinderMove) -> FinderState:
    hours = screw_hours(state.finder)
    if move.screw >= len(hours):
        allowed = f"0 to {len(hours) - 1}"
        raise OutOfRange("screw", move.screw, allowed, "Choose a screw of this finder.")
    state = _before_a_screw(state)
    tips, forced = state.ring.turned(np.array(state.tips), move.screw, move.turns)
    after = _with_tips(state, tips, _asked(state, move))
    if move.turns > 0:
        after = after.model_copy(update={"last_out": move.screw})
    after = _bumped(after)
    if abs(tips[move.screw]) >= TRAVEL_TURNS:
        after = after.model_copy(update={"say": "That screw is at its end."})
    if forced > FORCED_TURNS:
        hour = hours[move.screw]
        return after.remarked(
            "gentleness",
            f"The screw at {hour} o'clock was forced",
            "loosen the one across first, then tighten.",
        )
    return after


def _asked(state: FinderState, move: FinderMove) -> Plane:
    """Return the plane turn of one screw, as the bench reckons with: loosened toward its side."""
    toward = state.ring.toward[move.screw] * move.turns
    return pair(_share(state) * toward)


def _share(state: FinderState) -> float:
    """Return what one screw's turn is of a plane turn: as many around share it evenly."""
    return 1.0 if state.ring.is_sprung else 2 / len(state.tips)


def _snugged(state: FinderState, _: FinderMove) -> FinderState:
    state = _before_a_screw(state)
    tips = state.ring.snugged(np.array(state.tips), state.last_out)
    turn = state.ring.toward.T @ (tips - np.array(state.tips)) * _share(state)
    after = _bumped(_with_tips(state, tips, pair(turn)))
    return after.model_copy(update={"last_out": None})


def _middled(state: FinderState, _: FinderMove) -> FinderState:
    after = _with_tips(state, np.zeros(len(state.tips)), None)
    say = "Every screw in the middle of its travel."
    return after.model_copy(update={"last_out": None, "tries": (), "say": say})


def _with_tips(state: FinderState, tips: Floats, asked: Plane | None) -> FinderState:
    """Return the finder with its screws so, and the turn as the bench learns from it."""
    seen = seen_in(state, "finder")
    right, up = (0.0, 0.0) if seen is None else pair(seen)
    round_ = Try(right=right, up=up, is_lost=seen is None, asked=asked)
    before = state.tries
    last = before[-1] if before and before[-1].words == "part" else None
    if last is not None and last.asked is not None and asked is not None:
        # screws turned one after the other, nobody looking between, are one turn
        both = (last.asked[0] + asked[0], last.asked[1] + asked[1])
        round_, before = last.model_copy(update={"asked": both}), before[:-1]
    tries = (*before, round_.model_copy(update={"words": "part"}))[-REMEMBERED:]
    after = state.model_copy(
        update={
            "tips": tuple(tips.tolist()),
            "tries": tries,
            "turned_since_look": state.eye != "main",
        }
    )
    rattles = "It rattles: the others have to follow."
    say = rattles if play_turns(after) > SNUG_TURNS else "Every screw holds."
    return after.model_copy(update={"say": say})


def _before_a_screw(state: FinderState) -> FinderState:
    """Return the state with what a mentor says to turning a screw now."""
    said: list[tuple[Aspect, str, str]] = []
    if not saw_it_centred(state):
        better = "first centre it in the main tube, then turn the finder's screws."
        said.append(
            ("order", "Screws were turned before the target stood in the main field", better)
        )
    if state.has_clamps and not state.is_clamped:
        better = "close the clamps first: a loose tube moves under the screws."
        said.append(("gentleness", "Screws were turned with the clamps open", better))
    if state.eye != "finder":
        better = "watch the target in the finder while you turn."
        said.append(("eye", "Screws were turned without an eye at the finder", better))
    for of, words, better in said:
        state = state.remarked(of, words, better)
    return state


def _bumped(state: FinderState) -> FinderState:
    """Return the tube after hands were at the finder: now and then it is bumped."""
    dice = chance(state.seed, 6, state.number)
    holds = state.is_clamped and state.has_clamps
    if dice.random() > (BUMPS_HELD if holds else BUMPS):
        return state
    share = HELD_SHARE if holds else BUMP_SHARE
    bump = dice.normal(0, share * radius_arcmin(state, "main"), 2)
    return _moved_tube(state, bump)


def _told(state: FinderState, _: FinderMove) -> FinderState:
    say = advised_finder(state).words
    tries = looked_at(state.tries) if state.eye == "finder" else state.tries
    return state.model_copy(update={"say": say, "tries": tries})


def looked_at(tries: tuple[Try, ...]) -> tuple[Try, ...]:
    """Return the rounds after somebody looked: what is turned next is a round of its own.

    Source: rules.md#learning.
    """
    if not tries:
        return ()
    return (*tries[:-1], tries[-1].model_copy(update={"words": "seen"}))


def _called(state: FinderState, _: FinderMove) -> FinderState:
    if is_at_sun(state):
        return _beside_sun(state)
    if state.turned_since_look or state.eye != "main":
        better = "look back through the main tube first: screws bump it."
        state = state.remarked("eye", "It was called aligned without a look back", better)
    if play_turns(state) > SNUG_TURNS:
        better = "snug every screw: a loose finder is off by the next touch."
        return state.remarked("gentleness", "It was called aligned with loose screws", better)
    off = off_arcmin(state)
    if is_good(state):
        say = f"Aligned: on a star it is {off:.0f}′ off, well inside your widest field."
        return state.model_copy(update={"is_over": True, "say": say})
    why = "the target stood not in the middle of the main field."
    if is_too_near(state):
        why = "the landmark is too near for this finder."
    return state.remarked("eye", f"On a star it was {off:.0f}′ off", why)


def _broken(state: FinderState) -> tuple[Try, ...]:
    """Return the rounds before a push: what is seen after it says nothing of the last one."""
    if not state.tries:
        return ()
    return (*state.tries[:-1], state.tries[-1].model_copy(update={"is_broken": True}))


def move_words(state: FinderState, move: FinderMove) -> str:
    """Return a move as it is looked back on.  Source: rules.md#practice."""
    if move.kind == "look":
        return LOOKS[move.eye]
    if move.kind == "choose":
        return f"turn to {state.marks[move.landmark].words}"
    if move.kind == "push":
        return "push the tube"
    if move.kind == "screw":
        hours = screw_hours(state.finder)
        way = "out" if move.turns > 0 else "in"
        return f"screw at {hours[move.screw]} o'clock {abs(move.turns):g} {way}"
    return {
        "clamp": "close the clamps",
        "unclamp": "open the clamps",
        "snug": "snug the screws",
        "middle": "set every screw to its middle",
        "ask": "ask the bench",
        "done": "call it aligned",
    }[move.kind]


MOVES = {
    "look": _looked,
    "choose": _chosen,
    "push": _pushed,
    "clamp": _clamped,
    "unclamp": _clamped,
    "screw": _turned,
    "snug": _snugged,
    "middle": _middled,
    "ask": _told,
    "done": _called,
}
