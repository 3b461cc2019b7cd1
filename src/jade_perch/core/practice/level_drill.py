"""Level drill: feet that are turned one at a time under a bubble that is slow and sticks."""

from collections.abc import Sequence

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.advice import turns_words
from jade_perch.core.bench.level import CENTRED, MOST_TURNS, LevelAdvice, LevelInput, advise_level
from jade_perch.core.bench.loop import Try
from jade_perch.core.bench.response import REMEMBERED
from jade_perch.core.bench.vials import RoundVial
from jade_perch.core.constants import ARCMIN_PER_RADIAN
from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Mount
from jade_perch.core.practice.base import (
    RINGS,
    TREMBLE,
    LevelMove,
    LevelScene,
    LevelState,
    allowed_out,
    azimuths_of,
    bubble_at,
    feet_of,
    has_screws,
    inside,
    lean_of,
    pitch_mm,
    radius_mm,
    slow_s,
    wall_arcmin,
)
from jade_perch.core.practice.drill import Remark, Score, as_sentence, chance, counted, pair, scored
from jade_perch.core.units import METRIC, Units

STICKS = 0.05  # of the way to the wall: a smaller push may leave a bubble stuck; our estimate
STILL = 0.08  # so near its rest a bubble is read as standing
SLIP = 0.15  # how far a hand's turn is from the one meant, as a share; our estimate
TRAVEL = 4.0  # a foot goes so many times as far as the base leans at most; our estimate
HARDEST = 1.6  # of the way to the wall a base leans at most to begin with
MOST_MENDED = 40  # turns after which the bench's own advice has long finished
WRONG_WAY = 0.05  # farther out by so much of the way to the wall is a wrong turn


def begin_level(mount: Mount, seed: int, units: Units = METRIC) -> LevelState:
    """Return a base that leans, by chance from a seed, farther than the mount allows.

    Source: rules.md#practice.
    """
    dice = chance(seed)
    need = max(CENTRED, mount.traits.level_need_arcmin / wall_arcmin(mount))
    out = dice.uniform(min(1.2 * need + 0.1, HARDEST - 0.2), HARDEST)
    angle = dice.uniform(0, 2 * np.pi)
    lean = out * np.array([np.sin(angle), np.cos(angle)])
    feet = feet_of(mount)
    slope = lean * wall_arcmin(mount) / ARCMIN_PER_RADIAN
    heights = radius_mm(mount) * (feet.toward @ slope)
    rests = inside(lean)
    return LevelState(
        seed=seed,
        mount=mount.model_copy(update={"id": None, "version": None}),
        units=units,
        heights_mm=tuple(heights.tolist()),
        bubble=rests,
        rests=rests,
        say="Look where the bubble stands, then choose one foot.",
    )


def step_level(state: LevelState, move: LevelMove) -> LevelState:
    """Return the base after one move; a state that is over stays as it is.

    Raises ``OutOfRange`` for a foot that is not there.

    Source: rules.md#practice.
    """
    if state.is_over:
        return state
    bubble = bubble_at(state, max(state.at_s, move.at_s))
    state = state.at_move(move.at_s).model_copy(update={"bubble": bubble})
    if move.kind == "turn":
        return _turned(state, move)
    if move.kind == "tap":
        update = {"is_stuck": False, "say": "Tapped: a bubble that stuck runs on."}
        return state.model_copy(update=update).noted("tap the glass")
    if move.kind == "ask":
        return state.model_copy(update={"say": asked(state).instruction}).noted("ask the bench")
    return _called(state)


def scene_of_level(state: LevelState) -> LevelScene:
    """Return what is seen of a base.  Source: rules.md#practice."""
    screws = state.mount.levelling == "screws"
    steps = [0.25, 1.0, 3.0] if screws else [1.0, 5.0, 20.0]
    return LevelScene(
        foot_azimuths_deg=azimuths_of(state.mount),
        rings=RINGS,
        bubble=state.bubble,
        rests=state.bubble if state.is_stuck else state.rests,
        slow_s=slow_s(state.seed),
        steps=steps,
        step_words=[turns_words(one) if screws else state.units.small(one) for one in steps],
    )


def asked(state: LevelState) -> LevelAdvice:
    """Return what the bench would say to the bubble as it stands.  Source: rules.md#level."""
    out = float(np.hypot(*state.bubble))
    reading = RoundVial(
        bubble_divisions=min(RINGS, RINGS * out),
        bubble_azimuth_deg=float(np.degrees(np.arctan2(*state.bubble))) % 360,
        vial_divisions=RINGS,
        sensitivity_arcmin=wall_arcmin(state.mount) / RINGS,
    )
    return advise_level(LevelInput(reading=reading), state.mount, state.tries, state.units)


def advised_level(state: LevelState) -> list[LevelMove]:
    """Return the turns the bench asks for now; empty where it is content.

    Source: rules.md#level.
    """
    told = asked(state)
    if told.is_done:
        return []
    feet = feet_of(state.mount)
    if told.next_foot is None or told.round_.asked is None:
        far = int(np.argmin(feet.toward @ np.array(state.bubble)))
        return [
            LevelMove(
                kind="turn", foot=far + 1, amount=MOST_TURNS / 4 if has_screws(state) else 5.0
            )
        ]
    along = float(np.array(told.round_.asked) @ feet.toward[told.next_foot])
    turns = [LevelMove(kind="turn", foot=told.next_foot + 1, amount=along)]
    if feet.in_pairs:
        turns.append(LevelMove(kind="turn", foot=(told.next_foot + 2) % 4 + 1, amount=-along))
    return turns


def score_level(state: LevelState) -> Score:
    """Return how it went, against the turns the bench's own advice would have needed.

    Source: rules.md#practice.
    """
    turns = sum(1 for one in state.moved if "foot" in one)
    fewest = turns_needed(state.mount, state.seed)
    return scored(
        is_passed=state.is_over,
        remarks=state.remarks,
        praises=(
            "Every turn brought the bubble nearer.",
            "Turns grew smaller toward the middle, and none went past it.",
            "You waited until the bubble stood before you turned again.",
        ),
        moves=state.moved,
        quicker=f"You made {counted(turns, 'turn')}; the bench's advice needs about {fewest}.",
    )


def turns_needed(mount: Mount, seed: int) -> int:
    """Return how many turns the bench's own advice needs from the same beginning.

    Source: rules.md#level, followed to its end.
    """
    state = begin_level(mount, seed)
    for done in range(MOST_MENDED):
        moves = advised_level(state)
        if not moves:
            return done
        for move in moves:
            state = settled(step_level(state, move))
    return MOST_MENDED


def settled(state: LevelState) -> LevelState:
    """Return a base whose bubble was tapped and waited for.  Source: rules.md#practice."""
    return state.model_copy(update={"is_stuck": False, "bubble": state.rests})


def _turned(state: LevelState, move: LevelMove) -> LevelState:
    if move.foot > state.mount.feet:
        allowed = f"1 to {state.mount.feet}"
        raise OutOfRange("foot", move.foot, allowed, "Choose a foot of this base.")
    remarks = [*state.remarks, *_too_soon(state)]
    slip = chance(state.seed, 1, state.number).uniform(1 - SLIP, 1 + SLIP)
    per_unit_mm = pitch_mm(state.mount) if has_screws(state) else 1.0
    heights = list(state.heights_mm)
    before_mm = heights[move.foot - 1]
    travel_mm = TRAVEL * HARDEST * radius_mm(state.mount) * wall_arcmin(state.mount)
    travel_mm /= ARCMIN_PER_RADIAN
    after_mm = min(travel_mm, max(-travel_mm, before_mm + slip * move.amount * per_unit_mm))
    heights[move.foot - 1] = after_mm
    after = state.model_copy(update={"heights_mm": tuple(heights)})
    before_lean, after_lean = lean_of(state), lean_of(after)
    remarks += _on_turn(state, before_lean, after_lean)
    tremble = chance(state.seed, 2, state.number).normal(0, TREMBLE, 2)
    rests = inside(after_lean + tremble)
    pushed = float(np.hypot(*(np.array(rests) - np.array(state.bubble))))
    at_end = abs(after_mm) >= travel_mm
    return after.model_copy(
        update={
            "rests": rests,
            "is_stuck": pushed < STICKS * chance(state.seed, 3).uniform(0, 1),
            "tries": (*state.tries, _round(state, move))[-REMEMBERED:],
            "remarks": tuple(remarks),
            "moved": (*state.moved, _turn_words(state, move)),
            "say": "That foot is at its end: move another." if at_end else _watch(remarks, state),
        }
    )


def _round(state: LevelState, move: LevelMove) -> Try:
    """Return the turn as the bench learns from it: where the bubble stood, what was turned."""
    feet = feet_of(state.mount)
    share = 0.5 if feet.in_pairs else 1.0  # one of the two feet of a pair
    turn = share * move.amount * feet.toward[move.foot - 1]
    return Try(
        right=state.bubble[0],
        up=state.bubble[1],
        at_wall=float(np.hypot(*state.bubble)) >= 1 - 1e-9,
        asked=pair(turn),
    )


def _on_turn(state: LevelState, before: Floats, after: Floats) -> list[Remark]:
    """Return what a mentor says to a turn by what it did to the base."""
    out, now = float(np.hypot(*before)), float(np.hypot(*after))
    number = state.number
    if float(before @ after) < 0 and now > CENTRED:
        return [
            Remark(
                number=number,
                of="gentleness",
                words=f"Turn {number} went past the middle",
                better="near the middle halve every turn.",
            )
        ]
    if now > out + WRONG_WAY:
        return [
            Remark(
                number=number,
                of="order",
                words=f"Turn {number} took the bubble farther out",
                better="a foot that rises draws the bubble toward itself.",
            )
        ]
    return []


def _too_soon(state: LevelState) -> list[Remark]:
    left = float(np.hypot(*(np.array(state.rests) - np.array(state.bubble))))
    if state.is_stuck or left <= STILL:
        return []
    return [
        Remark(
            number=state.number,
            of="eye",
            words=f"At turn {state.number} the bubble still ran",
            better="wait until it stands, then turn.",
        )
    ]


def _called(state: LevelState) -> LevelState:
    out = float(np.hypot(*lean_of(state)))
    arcmin = out * wall_arcmin(state.mount)
    if out <= allowed_out(state.mount):
        say = f"Level: {arcmin:.0f}′ is left, and this mount allows so much."
        return state.model_copy(update={"is_over": True, "say": say}).noted("call it level")
    remark = Remark(
        number=state.number,
        of="eye",
        words=f"It was called level while it leaned by {arcmin:.0f}′",
        better="look straight down on the glass before you call it.",
    )
    update = {"remarks": (*state.remarks, remark), "say": "Not yet: look straight down on it."}
    return state.model_copy(update=update).noted("call it level")


def _watch(remarks: Sequence[Remark], state: LevelState) -> str:
    mine = [one for one in remarks if one.number == state.number]
    if mine:
        return as_sentence(mine[-1].better)
    return "Let the bubble come to rest before you read it."


def _turn_words(state: LevelState, move: LevelMove) -> str:
    way = "up" if move.amount >= 0 else "down"
    screws = has_screws(state)
    said = turns_words(move.amount) if screws else state.units.small(abs(move.amount))
    return f"foot {move.foot} {way} by {said}"
