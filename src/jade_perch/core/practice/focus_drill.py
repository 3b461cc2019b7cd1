"""Focus drill: which way, how far, whose eye, and whether it is the focus at all."""

from typing import Annotated, Literal

import numpy as np

from jade_perch.core.constants import ARCMIN_PER_RADIAN
from jade_perch.core.evening.desk import Desk, require_telescope
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.kit import Eyepiece, Observer, Telescope
from jade_perch.core.optics.powers import refocus_shift_mm
from jade_perch.core.practice.drill import AtS, DrillState, Score, chance, counted, scored
from jade_perch.core.practice.lent import with_an_eyepiece

MM_PER_TURN = 20.0  # what a focuser's knob usually moves in one turn; our estimate
TURNS = (0.005, 0.05, 0.4)  # a hair, a little, a lot
TURN_WORDS = ("a hair", "a little", "a lot")
EYE_ARCMIN = 6.0  # a blur so wide at the eye is not noticed any more; our estimate
LEAST_SHARP_MM = 0.15  # a hand sets a focuser no finer; our estimate
START_MM, PARFOCAL_MM = (6.0, 14.0), 4.0  # how far out it is at first, and after a swap
FAINT_SHARE = 0.2  # of the field: a disc as wide is too faint to be seen; our estimate
LOST_MM = 60.0  # so far out, or farther, a focuser is left where nothing is seen
SPARE_MM = 20.0  # a focuser goes so much farther, then it is at its end; our choice
LOCKED_OFTEN = 0.4  # how often the focuser's lock was left closed; our choice
GUEST_DIOPTERS = (-6.0, 6.0)  # of a guest where the kit knows no second person
TRIED_TURNS = 2.0  # a focuser is turned through by so much at a time
PAST_MM = 2.0  # so far through the focus a turn was too large; our estimate
WRONG_TIMES = 2  # turns running that made it larger

Answer = Literal["focus", "pointing"]


class FocusMove(Frozen):
    """One move: a turn outward positive, the lock, "it is sharp", or what is wrong."""

    drill: Literal["focus"] = "focus"
    kind: Literal["turn", "unlock", "sharp", "say", "ask"]
    turns: Annotated[float, Range(-3, 3, "turns", "Turn it by less at one go.")] = 0.0
    answer: Answer = "focus"
    at_s: AtS = 0.0


class Look(Frozen):
    """One look: through which eyepiece, whose eye, and where it is sharp, in mm from the first.

    ``question`` is what is really wrong where nothing is seen at first, empty elsewhere.
    """

    eyepiece_mm: float
    field_deg: float
    who: str
    sharp_mm: float
    question: Literal["", "focus", "pointing"] = ""


class FocusState(DrillState):
    """A focuser at ``position_mm``, the looks that are wanted, and which of them it is at."""

    drill: Literal["focus"] = "focus"
    focal_length_mm: float
    focal_ratio: float
    obstruction_share: float
    looks: tuple[Look, ...]
    stage: int = 0
    position_mm: float
    is_locked: bool
    worse: int = 0

    @property
    def look(self) -> Look:
        """The look it is at.  Source: rules.md#focus-drill."""
        return self.looks[min(self.stage, len(self.looks) - 1)]


class FocusScene(Frozen):
    """What is seen: a disc ``disc_share`` of the field wide, None where nothing is in it.

    ``shadow_share`` is the secondary's shadow in that disc.
    """

    drill: Literal["focus"] = "focus"
    stage: int
    stages: int
    eyepiece_mm: float
    who: str
    disc_share: float | None
    shadow_share: float
    is_question: bool
    is_locked: bool
    turns: list[float]
    turn_words: list[str]


def begin_focus(desk: Desk, seed: int) -> FocusState:
    """Return a focuser that is out, for own eyepieces and people, by chance from a seed.

    Raises ``OutOfRange`` without a telescope.

    Source: rules.md#focus-drill.
    """
    telescope = require_telescope(desk)
    desk, lent = with_an_eyepiece(desk)
    dice = chance(seed)
    long, short = _two_eyepieces(desk, telescope)
    own, guest = _two_people(desk, dice)
    first = _look(long, own, 0.0)
    swap_mm = float(dice.uniform(-PARFOCAL_MM, PARFOCAL_MM))
    question: Answer = "focus" if dice.random() < 0.5 else "pointing"
    looks = (
        first,
        _look(short, own, swap_mm),
        _look(long, guest, 0.0),
        _look(long, own, 0.0).model_copy(update={"question": question}),
    )
    away = dice.uniform(*START_MM) * dice.choice([-1.0, 1.0])
    return FocusState(
        seed=seed,
        lent=lent,
        focal_length_mm=telescope.focal_length_mm,
        focal_ratio=telescope.focal_ratio,
        obstruction_share=telescope.obstruction_percent / 100,
        looks=looks,
        position_mm=float(looks[0].sharp_mm + away),
        is_locked=bool(dice.random() < LOCKED_OFTEN),
        say="Turn until the star is smallest. Which way, the first turn tells.",
    )


def blur_mm(state: FocusState) -> float:
    """Return how wide a star's cone of light is where the eyepiece looks, in mm.

    Source: rules.md#focus-drill; similar triangles: the way out of focus over the focal ratio.
    """
    return abs(state.position_mm - state.look.sharp_mm) / state.focal_ratio


def sharp_within_mm(state: FocusState) -> float:
    """Return how near the focus nobody sees a difference any more, in mm of the focuser.

    Source: rules.md#focus-drill; the blur's angle behind the eyepiece.
    """
    seen = EYE_ARCMIN / ARCMIN_PER_RADIAN * state.look.eyepiece_mm * state.focal_ratio
    return max(LEAST_SHARP_MM, seen)


def disc_share(state: FocusState) -> float | None:
    """Return how much of the field's width a star takes; None where nothing is in it.

    Source: rules.md#focus-drill.
    """
    if state.look.question == "pointing":
        return None
    share = blur_mm(state) / stop_mm(state)
    return None if state.look.question and share > FAINT_SHARE else min(share, 1.0)


def stop_mm(state: FocusState) -> float:
    """Return how wide the field is where the eyepiece looks, in mm.  Source: rules.md#field."""
    return float(2 * state.focal_length_mm * np.tan(np.radians(state.look.field_deg) / 2))


def lost_mm(state: FocusState) -> float:
    """Return how far out a focuser is left where nothing is seen, in mm past the focus.

    Source: rules.md#focus-drill.
    """
    last = state.model_copy(update={"stage": len(state.looks) - 1})
    return max(LOST_MM, 1.5 * FAINT_SHARE * stop_mm(last) * state.focal_ratio)


def reach_mm(state: FocusState) -> float:
    """Return how far the focuser goes either way, in mm.  Source: rules.md#focus-drill."""
    return lost_mm(state) + SPARE_MM


def step_focus(state: FocusState, move: FocusMove) -> FocusState:
    """Return the focuser after one move; a state that is over stays as it is.

    Source: rules.md#focus-drill.
    """
    if state.is_over:
        return state
    state = state.at_move(move.at_s).noted(_words(move))
    if move.kind == "turn":
        return _turned(state, move)
    if move.kind == "unlock":
        say = "The lock is open." if state.is_locked else "It was open already."
        return state.model_copy(update={"is_locked": False, "say": say})
    if move.kind == "sharp":
        return _called(state)
    if move.kind == "say":
        return _answered(state, move)
    return state.model_copy(update={"say": advised_focus(state)[0]})


def advised_focus(state: FocusState) -> tuple[str, FocusMove]:
    """Return what a mentor would do next, in words and as a move.  Source: rules.md#focus-drill."""
    if state.is_locked:
        return "Open the focuser's lock first.", FocusMove(kind="unlock")
    look = state.look
    if look.question:
        is_only_blurred = look.question == "focus"
        if disc_share(state) is None and (is_only_blurred or not _has_tried(state)):
            words = "Turn the focus through: does a disc come?"
            return words, FocusMove(kind="turn", turns=-TRIED_TURNS)
        answer: Answer = "pointing" if disc_share(state) is None else "focus"
        return f"It is the {answer}: say so.", FocusMove(kind="say", answer=answer)
    left_mm = look.sharp_mm - state.position_mm
    if abs(left_mm) <= sharp_within_mm(state):
        return "Smallest: say that it is sharp.", FocusMove(kind="sharp")
    turns = float(np.clip(left_mm / MM_PER_TURN, -3, 3))
    way = "out" if turns > 0 else "in"
    near = abs(turns) < TURNS[1]
    return f"Turn {way}, {'a hair at a time' if near else 'until it is smallest'}.", FocusMove(
        kind="turn", turns=turns
    )


def scene_of_focus(state: FocusState) -> FocusScene:
    """Return what is seen.  Source: rules.md#focus-drill."""
    look = state.look
    return FocusScene(
        stage=min(state.stage, len(state.looks) - 1) + 1,
        stages=len(state.looks),
        eyepiece_mm=look.eyepiece_mm,
        who=look.who,
        disc_share=disc_share(state),
        shadow_share=state.obstruction_share,
        is_question=bool(look.question),
        is_locked=state.is_locked,
        turns=list(TURNS),
        turn_words=list(TURN_WORDS),
    )


def score_focus(state: FocusState) -> Score:
    """Return how it went.  Source: rules.md#focus-drill."""
    return scored(
        is_passed=state.is_over,
        remarks=state.remarks,
        praises=(
            "You turned back as soon as it grew.",
            "Large turns far out, small ones near the focus; nothing was forced.",
            "You looked before you called it, and told focus from pointing.",
        ),
        moves=state.moved,
        quicker=f"You made {counted(len(state.moved), 'move')}.",
    )


def _has_tried(state: FocusState) -> bool:
    """Return whether the focus was turned since nothing was seen."""
    return bool(state.moved) and state.moved[-1].startswith("turn")


def _turned(state: FocusState, move: FocusMove) -> FocusState:
    if state.is_locked:
        better = "open its lock first: forced, the gears give."
        return state.remarked("gentleness", "The locked focuser was turned", better)
    sharp = state.look.sharp_mm
    before = state.position_mm - sharp
    reach = reach_mm(state)
    wanted = state.position_mm + move.turns * MM_PER_TURN
    after = float(np.clip(wanted, -reach, reach)) - sharp
    grew = abs(after) > abs(before)
    went_through = before * after < 0
    worse = state.worse + 1 if grew and not went_through else 0
    update = {"position_mm": sharp + after, "worse": worse}
    state = state.model_copy(update=update)
    if abs(wanted) > reach:
        return state.model_copy(update={"say": "The focuser is at its end: turn back."})
    if state.look.question:
        say = "Nothing changes." if disc_share(state) is None else "A disc: it shrinks."
        return state.model_copy(update={"say": say})
    if worse >= WRONG_TIMES:
        better = "bigger and blurrier is the wrong way: turn back at once."
        return state.remarked("order", f"It grew {worse} turns running", better)
    if went_through and abs(after) > PAST_MM and abs(before) < PAST_MM:
        better = "near the focus turn by a hair."
        return state.remarked("gentleness", "It went far through the focus", better)
    say = "Larger: the other way." if grew else "Smaller: go on."
    if went_through:
        say = "Through the focus: back by half."
    return state.model_copy(update={"say": say})


def _called(state: FocusState) -> FocusState:
    if state.look.question:
        return state.model_copy(update={"say": "First say what is wrong: focus or pointing."})
    if abs(state.position_mm - state.look.sharp_mm) > sharp_within_mm(state):
        better = "turn through the smallest once, then back to it."
        return state.remarked("eye", "It was called sharp too early", better)
    return _next(state)


def _answered(state: FocusState, move: FocusMove) -> FocusState:
    if not state.look.question:
        return state.model_copy(update={"say": "It is in the field: turn until it is smallest."})
    if move.answer != state.look.question:
        better = "turn the focus: what is only blurred becomes a disc."
        words = f"It was called {move.answer}, and was not"
        return state.remarked("eye", words, better)
    return _next(state)


def _next(state: FocusState) -> FocusState:
    """Return the state at the next look, or at the end."""
    stage = state.stage + 1
    if stage == len(state.looks):
        return state.model_copy(update={"stage": stage, "is_over": True, "say": "Well focused."})
    look = state.looks[stage]
    update: dict[str, object] = {"stage": stage, "worse": 0}
    if look.question:
        out_mm = lost_mm(state) if look.question == "focus" else 0.0
        update["position_mm"] = look.sharp_mm + out_mm
        say = "Now nothing is seen. Is it the focus, or the pointing?"
    elif look.who != state.look.who:
        say = f"{look.who} looks now: other eyes, another focus."
    else:
        say = f"The {look.eyepiece_mm:g} mm eyepiece is in: focus again."
    return state.model_copy(update={**update, "say": say})


def _words(move: FocusMove) -> str:
    if move.kind == "turn":
        return f"turn {'out' if move.turns > 0 else 'in'} by {abs(move.turns):g}"
    return {
        "unlock": "open the lock",
        "sharp": "call it sharp",
        "say": f"call it {move.answer}",
        "ask": "ask the mentor",
    }[move.kind]


def _look(eyepiece: tuple[float, float], who: tuple[str, float], offset_mm: float) -> Look:
    """Return a look: short sight moves the eyepiece in."""
    focal_mm, field_deg = eyepiece
    name, diopters = who
    sharp_mm = offset_mm + float(refocus_shift_mm(focal_mm, diopters))
    return Look(eyepiece_mm=focal_mm, field_deg=field_deg, who=name, sharp_mm=sharp_mm)


def _two_eyepieces(
    desk: Desk, telescope: Telescope
) -> tuple[tuple[float, float], tuple[float, float]]:
    """Return focal length in mm and true field in deg of the longest eyepiece and one shorter."""
    rungs = desk.ladder_of(telescope, desk.diagonal).rungs
    bare = [one for one in rungs if not one.amplifier_ids]
    owned: dict[int | None, Eyepiece] = {one.id: one for one in desk.eyepieces}
    found = sorted(
        (owned[one.eyepiece_id].focal_length_mm, one.true_field_deg)
        for one in bare or rungs
        if one.eyepiece_id in owned
    )
    return found[-1], found[len(found) // 2 - (len(found) > 2)]


def _two_people(
    desk: Desk, dice: np.random.Generator
) -> tuple[tuple[str, float], tuple[str, float]]:
    """Return the name and diopters of tonight's observer and of somebody else, a guest if need be.

    Whoever keeps the glasses on for astigmatism focuses as a plain eye.
    """
    own = desk.observer
    guest_diopters = float(dice.choice(GUEST_DIOPTERS))
    other = next((one for one in desk.everybody if own is None or one.id != own.id), None)
    mine = ("You", 0.0) if own is None else (own.name, _diopters(own))
    if other is None or abs(_diopters(other) - mine[1]) < 0.5:
        return mine, (f"A guest of {guest_diopters:+g} dpt", guest_diopters)
    return mine, (other.name, _diopters(other))


def _diopters(person: Observer) -> float:
    return 0.0 if person.glasses == "astigmatism" else person.sight_diopters or 0.0
