"""What a mentor would do next with a finder: the order of the work, then the bench's advice."""

from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.finder import FinderAdvice, FinderInput, advise_finder
from jade_perch.core.bench.finderview import needed_distance_m
from jade_perch.core.bench.landmark import Landmark
from jade_perch.core.bench.screws import screw_hours
from jade_perch.core.bench.sunguard import LandmarkCheck
from jade_perch.core.constants import SUN_KEEP_AWAY_DEG
from jade_perch.core.practice.handling import MOST_PUSH_ARCMIN
from jade_perch.core.practice.ring import SNUG_TURNS, TRAVEL_TURNS
from jade_perch.core.practice.seen import Eye
from jade_perch.core.practice.sighted import (
    FinderMove,
    FinderState,
    axis_off,
    radius_arcmin,
    seen_in,
    target_from,
)
from jade_perch.core.practice.spiral import spiral_push, spiral_words

CENTRED_SHARE = 0.5  # of what a finder may be off: so near the middle a target is centred
SPARE = 1.5  # a finder and a tube each as well as they are looked at agree within so much
SIGHTED_SHARE = 0.05  # of the view along the tube: nearer nobody points by eye; our estimate
# Nothing is aimed at while practising: the guard has nothing to refuse.
PRACTISED = LandmarkCheck(
    instruction="Practice: nothing is pointed at.",
    detail="",
    is_done=True,
    sums=[],
    refused=False,
    nearest_deg=None,
    allowed_from_utc=None,
    holds_until_utc=datetime(2000, 1, 1, tzinfo=UTC),
)


def is_centred(state: FinderState) -> bool:
    """Return whether the target stands near the middle of the main field.

    Source: rules.md#practice.
    """
    return float(np.hypot(*state.tube)) <= CENTRED_SHARE * state.angles.limit_arcmin


def saw_it_centred(state: FinderState) -> bool:
    """Return whether somebody saw the target in the middle of the main field.

    Source: rules.md#practice.
    """
    return state.was_centred or (state.eye == "main" and is_centred(state))


def is_too_near(state: FinderState) -> bool:
    """Return whether a landmark is so near that crossing axes are off on a star.

    Source: rules.md#finder.
    """
    return not state.angles.is_far_enough


def is_at_sun(state: FinderState) -> bool:
    """Return whether the landmark stands too near the drill's Sun.  Source: rules.md#sun."""
    return state.mark is not None and state.mark.sun_deg < SUN_KEEP_AWAY_DEG


def off_arcmin(state: FinderState) -> float:
    """Return how far the finder is off on a star.  Source: rules.md#finder."""
    return float(np.hypot(*axis_off(state)))


def play_turns(state: FinderState) -> float:
    """Return how far the finder can rattle between its screws.  Source: rules.md#practice."""
    return state.ring.play(np.array(state.tips))


def asked_finder(state: FinderState) -> FinderAdvice | None:
    """Return what the bench says to what is seen in the finder; None while something comes first.

    Source: rules.md#finder.
    """
    if not is_centred(state) or is_at_sun(state):
        return None
    seen = seen_in(state, "finder")
    place: dict[str, Any] = {"trouble": "lost"}
    if max(map(abs, state.tips)) >= TRAVEL_TURNS:
        place = {"trouble": "at_end"}
    elif seen is not None:
        place = {"seen_right": float(seen[0]), "seen_up": float(seen[1])}
    if state.distance_m is None:
        place["on"] = "star"
    else:
        place["landmark"] = Landmark(distance_m=state.distance_m)
    given = FinderInput(finder_id=1, **place)
    return advise_finder(
        given, state.finder, state.longest_field_deg, PRACTISED, state.tries, state.units
    )


@dataclass(frozen=True, slots=True)
class Advised:
    """What comes next in words, and the moves that do it; none where only the eye can say."""

    words: str
    moves: tuple[FinderMove, ...]


def advised_finder(state: FinderState) -> Advised:
    """Return what a mentor would do next: the order of the work first, then the bench's advice.

    Source: rules.md#practice.
    """
    if is_at_sun(state) or is_too_near(state):
        return _to_landmark(state)
    if not is_centred(state):
        return _to_centre(state)
    if not saw_it_centred(state):
        return _look("main", "Look through the main tube: is it in the middle?")
    if state.has_clamps and not state.is_clamped:
        words = "Close the clamps, so that turning screws moves nothing else."
        return Advised(words, (FinderMove(kind="clamp"),))
    if not is_good(state):
        return _to_agree(state)
    if play_turns(state) > SNUG_TURNS:
        return Advised("It agrees: snug every screw, evenly.", (FinderMove(kind="snug"),))
    if state.eye != "main" or state.turned_since_look:
        return _look("main", "Look through the main tube again: is it still in the middle?")
    return Advised("Both agree: call it aligned.", (FinderMove(kind="done"),))


def _to_agree(state: FinderState) -> Advised:
    """Return the bench's word to what is seen in the finder, once the eye is there."""
    if state.eye != "finder":
        return _look("finder", "Now look through the finder.")
    told = asked_finder(state)
    if told is None or told.agrees:
        words = "Push the tube until it stands exactly in the middle of the main field."
        return Advised(words, (*_opened(state), _push(target_from(state, "main"))))
    return Advised(told.instruction, tuple(_screws(state, told)))


def is_good(state: FinderState) -> bool:
    """Return whether the finder is off by no more than wanted on a star.

    Source: rules.md#finder.
    """
    return off_arcmin(state) <= wanted_arcmin(state)


def wanted_arcmin(state: FinderState) -> float:
    """Return how far a finder may be off on a star: well inside the longest eyepiece's field.

    Source: rules.md#finder; each look as good as it is, and the parallax of a good landmark.
    """
    allowed = SPARE * state.angles.limit_arcmin
    return allowed if is_too_near(state) else allowed + state.angles.parallax_arcmin


def _look(eye: Eye, words: str) -> Advised:
    return Advised(words, (FinderMove(kind="look", eye=eye),))


def _opened(state: FinderState) -> tuple[FinderMove, ...]:
    """Return the move that frees the tube, where anything holds it."""
    return (FinderMove(kind="unclamp"),) if state.has_clamps and state.is_clamped else ()


def _to_landmark(state: FinderState) -> Advised:
    """Return how another landmark is chosen: away from the Sun, and far enough."""
    needed = needed_distance_m(state.finder.axis_offset_mm, state.longest_field_deg)
    words = f"Choose a landmark farther than {state.units.distance(needed)}."
    if is_at_sun(state):
        words = f"Choose a landmark {SUN_KEEP_AWAY_DEG:.0f}° or more from the Sun."
    good = next(
        n
        for n, one in enumerate(state.marks)
        if one.sun_deg >= SUN_KEEP_AWAY_DEG and one.distance_m >= needed
    )
    return Advised(words, (*_opened(state), FinderMove(kind="choose", landmark=good)))


def _to_centre(state: FinderState) -> Advised:
    """Return how the target comes into the middle of the main field."""
    if _opened(state):
        return Advised("Open the clamps before you push the tube.", _opened(state))
    if seen_in(state, "main") is not None:
        if state.eye != "main":
            return _look("main", "Look through the main tube: it is in the field.")
        words = "Push the tube until it stands in the middle of the main field."
        return Advised(words, (_push(target_from(state, "main")),))
    along = target_from(state, "along")
    is_sighted = float(np.hypot(*along)) < SIGHTED_SHARE * radius_arcmin(state, "along")
    if is_sighted or state.swept:
        if state.eye != "main":
            return _look("main", "Look through the main tube now.")
        field = 2 * radius_arcmin(state, "main")
        words = spiral_words(state.swept, "main")
        return Advised(words, (_push(np.array(spiral_push(state.swept, field))),))
    if state.eye != "along":
        return _look("along", "Not in the field: look along the tube first.")
    return Advised("Push the tube until it points at the target, seen along it.", (_push(along),))


def _push(push_arcmin: Floats) -> FinderMove:
    push_arcmin = np.clip(push_arcmin, -MOST_PUSH_ARCMIN, MOST_PUSH_ARCMIN)
    return FinderMove(kind="push", right=float(push_arcmin[0]), up=float(push_arcmin[1]))


def _screws(state: FinderState, told: FinderAdvice) -> list[FinderMove]:
    """Return the turns that were told; two screws are each turned until the target is nearest."""
    if told.instruction.startswith("Set "):
        return [FinderMove(kind="middle")]
    if told.instruction.startswith("Turn every screw back"):
        return [FinderMove(kind="middle")]
    if state.ring.is_sprung:
        return _two_screws(state, told)
    hours = screw_hours(state.finder)
    turns = [(hours.index(one.hour), one.turns_out) for one in told.screws if one.way != "leave"]
    turns.sort(key=lambda one: -one[1])  # loosened first, and no farther than it goes
    room = min(((TRAVEL_TURNS - state.tips[n]) / out for n, out in turns if out > 0), default=1.0)
    share = min(1.0, room)
    return [FinderMove(kind="screw", screw=n, turns=share * out) for n, out in turns]


def _two_screws(state: FinderState, told: FinderAdvice) -> list[FinderMove]:
    sign = 1.0 if state.end == "front" else -1.0
    wanted = state.angles.true(np.array([told.wanted_right, told.wanted_up]))
    left = wanted - target_from(state, "finder")
    moves = []
    for n, toward in enumerate(state.ring.toward):
        goes = -sign * state.arcmin_per_turn * toward
        turns = float(np.clip(left @ goes / (goes @ goes), -TRAVEL_TURNS, TRAVEL_TURNS))
        moves.append(FinderMove(kind="screw", screw=n, turns=turns))
    return moves
