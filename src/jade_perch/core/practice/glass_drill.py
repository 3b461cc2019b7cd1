"""Which glass: start and top for a target and a night, three sums by head, then the ladder."""

from dataclasses import replace
from typing import Annotated, Literal

import numpy as np

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.choose import FIELD_ROOM
from jade_perch.core.evening.desk import Desk, require_telescope
from jade_perch.core.evening.judging import CLUSTER_ROOM, NO_ROOM_COSTS, SUITS_MM
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.optics.audit import mental_sum
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.optics.neighbours import SAME
from jade_perch.core.optics.rungs import Rung
from jade_perch.core.practice.drill import Aspect, AtS, DrillState, Score, chance, scored
from jade_perch.core.sky.seen import STARRY

NEAR_ENOUGH = 0.1  # a sum in the head within a tenth is right; our choice
TARGETS_ASKED = 2
MOST_RUNGS, FEWEST_RUNGS = 8, 2
ALIKE_OCTAVES = 0.35  # glasses that suit so nearly alike are both right; our choice
WRONG_SUMS = 2  # so many of six still pass; our choice
Ask = Literal["start", "top", "power", "field", "pupil", "shown"]
ASKS: tuple[Ask, ...] = ("start", "top", "power", "field", "pupil", "shown")
MOON_ARCMIN = 31.0  # what a target's size is drawn beside
# what is asked for: words, kind, size in arcmin as such things have it
TARGETS = (
    ("the whole Moon", "moon", MOON_ARCMIN),
    ("a bright planet", "planet", 0.7),
    ("a large open cluster", "open cluster", 60.0),
    ("a globular cluster", "globular cluster", 14.0),
    ("a large faint galaxy", "galaxy", 40.0),
    ("a small planetary nebula", "planetary nebula", 1.2),
    ("a wide nebula", "nebula", 70.0),
)
AIR_WORDS = {2: "the air boils", 3: "the air is usual", 5: "the air stands still"}


class GlassMove(Frozen):
    """One answer: a glass by its place in the list, a number, a lesson wished for, or on."""

    drill: Literal["glass"] = "glass"
    kind: Literal["choose", "say", "teach", "next"]
    glass: Annotated[int, Range(0, MOST_RUNGS - 1, "", "Choose one that is shown.")] = 0
    value: Annotated[float, Range(0, 5000, "", "Say a number.")] = 0.0
    at_s: AtS = 0.0


class GlassShown(Frozen):
    """One glass of the case with its figures; a page shows them once they were asked for."""

    name: str
    magnification: float
    true_field_deg: float
    exit_pupil_mm: float
    eyepiece_mm: float
    factor: float


class GlassAsked(Frozen):
    """One target on one night, with the glasses there are, where to start and where to end."""

    target: str
    kind: str
    size_arcmin: float
    night: str
    glasses: tuple[GlassShown, ...]
    start: int
    tops: tuple[int, ...]
    why: str


class GlassState(DrillState):
    """Two targets, at which of them one is, and what is asked of it now."""

    drill: Literal["glass"] = "glass"
    focal_length_mm: float
    aperture_mm: float
    asked: tuple[GlassAsked, ...]
    stage: int = 0
    ask: Ask = "start"
    chosen: int = 0
    wrong_sums: int = 0


class GlassScene(Frozen):
    """What is asked: figures and the answer are there only once all was said.

    ``size_arcmin`` is how wide the target is, ``moon_arcmin`` the Moon it is drawn beside.
    """

    drill: Literal["glass"] = "glass"
    stage: int
    stages: int
    target: str
    size_arcmin: float
    moon_arcmin: float
    night: str
    tube: str
    ask: Ask
    names: list[str]
    chosen: int
    shown: list[GlassShown]
    start: int | None
    tops: list[int]
    why: str


def begin_glass(desk: Desk, seed: int) -> GlassState:
    """Return two targets on two nights for tonight's telescope and case.

    Raises ``OutOfRange`` without a telescope, or with fewer than two glasses.

    Source: rules.md#glass-drill.
    """
    telescope = require_telescope(desk)
    dice = chance(seed)
    picked = dice.permutation(len(TARGETS))[:TARGETS_ASKED]
    nights = dice.permutation(list(AIR_WORDS))[:TARGETS_ASKED]
    asked = []
    for target, night in zip(picked, nights, strict=True):
        choice = desk.choice.model_copy(update={"steadiness": int(night)})
        ladder = replace(desk, choice=choice).ladder_of(telescope, desk.diagonal)
        focal_mm, words = telescope.focal_length_mm, AIR_WORDS[int(night)]
        asked.append(_asked(desk, focal_mm, ladder, TARGETS[int(target)], words))
    return GlassState(
        seed=seed,
        focal_length_mm=telescope.focal_length_mm,
        aperture_mm=telescope.aperture_mm,
        asked=tuple(asked),
        say="Which glass do you begin with?",
    )


def own_rungs(desk: Desk, ladder: Ladder) -> list[Rung]:
    """Return the rungs of a ladder one may choose among.  Source: rules.md#glass-drill."""
    owned = {one.id for one in desk.eyepieces}
    return [one for one in ladder.rungs if not one.is_masked and one.eyepiece_id in owned]


def has_glasses(desk: Desk) -> bool:
    """Return whether there is anything to choose among.  Source: rules.md#glass-drill."""
    if desk.telescope is None:
        return False
    return len(own_rungs(desk, desk.ladder_of(desk.telescope, desk.diagonal))) >= FEWEST_RUNGS


def _asked(
    desk: Desk,
    focal_length_mm: float,
    ladder: Ladder,
    target: tuple[str, str, float],
    night: str,
) -> GlassAsked:
    words, kind, size_arcmin = target
    owned = {one.id: one for one in desk.eyepieces}
    factors = {one.id: one.factor for one in desk.amplifiers}
    rungs = own_rungs(desk, ladder)
    if len(rungs) < FEWEST_RUNGS:
        allowed = f"{FEWEST_RUNGS} glasses or more"
        raise OutOfRange("eyepieces", len(rungs), allowed, "Put your eyepieces into the case.")
    kept = np.unique(np.linspace(0, len(rungs) - 1, MOST_RUNGS).round().astype(int))
    glasses = []
    for rung in (rungs[int(n)] for n in kept):
        eyepiece_mm = owned[rung.eyepiece_id].focal_length_mm
        printed = float(np.prod([factors.get(one, 1.0) for one in rung.amplifier_ids]))
        glasses.append(
            GlassShown(
                name=f"{eyepiece_mm:g} mm" + (f" with {printed:g}×" if rung.amplifier_ids else ""),
                magnification=rung.magnification,
                true_field_deg=rung.true_field_deg,
                exit_pupil_mm=rung.exit_pupil_mm,
                eyepiece_mm=eyepiece_mm,
                factor=rung.magnification * eyepiece_mm / focal_length_mm,
            )
        )
    costs = [_cost(one, kind, size_arcmin, ladder.air_magnification) for one in glasses]
    best = min(costs)
    low, high = SUITS_MM[kind]
    return GlassAsked(
        target=words,
        kind=kind,
        size_arcmin=size_arcmin,
        night=night,
        glasses=tuple(glasses),
        start=0,
        tops=tuple(n for n, cost in enumerate(costs) if cost <= best + ALIKE_OCTAVES),
        why=f"An exit pupil of {low:g} to {high:g} mm suits it, {size_arcmin:g}′ has to fit, and "
        f"the air gives {ladder.air_magnification:.0f}×.",
    )


def _cost(glass: GlassShown, kind: str, size_arcmin: float, most_power: float) -> float:
    """Return how far a glass is from what suits, in octaves; infinite over what the air gives."""
    low, high = SUITS_MM[kind]
    pupil = glass.exit_pupil_mm
    octaves = max(0.0, float(np.log2(low / pupil)), float(np.log2(pupil / high)))
    room = CLUSTER_ROOM if kind in STARRY else FIELD_ROOM
    is_tight = glass.true_field_deg * 60 < room * size_arcmin
    too_much = max(0.0, float(np.log2(glass.magnification / (most_power * SAME)))) * 4
    return octaves + 4 * NO_ROOM_COSTS * is_tight + too_much


def step_glass(state: GlassState, move: GlassMove) -> GlassState:
    """Return the round after one answer; a state that is over stays as it is.

    Raises ``OutOfRange`` for a glass that is not there.

    Source: rules.md#glass-drill.
    """
    if state.is_over:
        return state
    state = state.at_move(move.at_s)
    asked = state.asked[state.stage]
    if move.kind == "teach":
        return state.model_copy(update={"say": taught(state)})
    if move.kind == "next" and state.ask == "shown":
        return _next(state)
    if move.kind == "choose" and state.ask in ("start", "top"):
        if move.glass >= len(asked.glasses):
            allowed = f"0 to {len(asked.glasses) - 1}"
            raise OutOfRange("glass", move.glass, allowed, "Choose one that is shown.")
        return _chosen(state, asked, move.glass)
    if move.kind == "say" and state.ask in ("power", "field", "pupil"):
        return _said(state, asked, move.value)
    return state.model_copy(update={"say": ASK_WORDS[state.ask]})


ASK_WORDS: dict[Ask, str] = {
    "start": "Which glass do you begin with?",
    "top": "How far do you climb? Choose the best glass for it.",
    "power": "Which power has that glass? Say it by head.",
    "field": "How wide a field does it show, in degrees?",
    "pupil": "How wide is its exit pupil, in millimetres?",
    "shown": "This is the ladder of it.",
}


def exact_of(glass: GlassShown, ask: Ask) -> float:
    """Return the figure that is asked for: a power, a field in deg, a pupil in mm.

    Source: rules.md#power.
    """
    return {
        "power": glass.magnification,
        "field": glass.true_field_deg,
        "pupil": glass.exit_pupil_mm,
    }[ask]


def taught(state: GlassState) -> str:
    """Return the easy way to the figure that is asked for.  Source: rules.md#glass-drill."""
    glass = state.asked[state.stage].glasses[state.chosen]
    power = glass.magnification
    if state.ask == "power":
        return mental_sum(state.focal_length_mm, glass.eyepiece_mm, round(glass.factor, 2))
    if state.ask == "field":
        apparent = glass.true_field_deg * power
        return f"Apparent field over power: about {round(apparent, -1):.0f}° ÷ {power:.0f}."
    if state.ask == "pupil":
        return f"Aperture over power: {state.aperture_mm:g} mm ÷ {power:.0f}; a tenth first."
    return "Begin with the longest; climb until it fits, suits the eye, and the air allows it."


def scene_of_glass(state: GlassState) -> GlassScene:
    """Return what is asked now.  Source: rules.md#glass-drill."""
    stage = min(state.stage, len(state.asked) - 1)
    asked, is_shown = state.asked[stage], state.ask == "shown"
    return GlassScene(
        stage=stage + 1,
        stages=len(state.asked),
        target=f"{asked.target}, {asked.size_arcmin:g}′",
        size_arcmin=asked.size_arcmin,
        moon_arcmin=MOON_ARCMIN,
        night=asked.night,
        tube=f"{state.aperture_mm:g} mm aperture, {state.focal_length_mm:g} mm focal length",
        ask=state.ask,
        names=[one.name for one in asked.glasses],
        chosen=state.chosen,
        shown=list(asked.glasses) if is_shown else [],
        start=asked.start if is_shown else None,
        tops=list(asked.tops) if is_shown else [],
        why=asked.why if is_shown else "",
    )


def score_glass(state: GlassState) -> Score:
    """Return how it went.  Source: rules.md#glass-drill."""
    choices = [one for one in state.remarks if one.of != "eye"]
    sums = 3 * len(state.asked)
    return scored(
        is_passed=state.is_over and not choices and state.wrong_sums <= WRONG_SUMS,
        remarks=state.remarks,
        praises=(
            "You began with the longest eyepiece.",
            "You climbed as far as the target, the eye and the air allow.",
            "Your sums were within a tenth.",
        ),
        moves=state.moved,
        quicker=f"{sums - state.wrong_sums} of {sums} sums were right.",
    )


def _chosen(state: GlassState, asked: GlassAsked, glass: int) -> GlassState:
    name = asked.glasses[glass].name
    if state.ask == "start":
        state = _on(state, f"begin with {name}", glass)
        if glass == asked.start:
            return state
        better = "begin with the longest: it shows where you are."
        return _remarked(state, "order", f"You began with {name}", better)
    state = _on(state, f"end with {name}", glass)
    if glass in asked.tops:
        return state
    best = asked.glasses[asked.tops[0]].name
    too_far = glass > max(asked.tops)
    words = f"{name} is {'too much' if too_far else 'too little'} for {asked.target}"
    return _remarked(state, "gentleness", words, f"{best} would serve. {asked.why}")


def _said(state: GlassState, asked: GlassAsked, value: float) -> GlassState:
    glass = asked.glasses[state.chosen]
    exact = exact_of(glass, state.ask)
    better = taught(state)
    ask = state.ask
    state = _on(state, f"{ask} said to be {value:g}", state.chosen)
    if abs(value - exact) <= NEAR_ENOUGH * exact:
        return state.model_copy(update={"say": f"Right: {exact:.3g}. {state.say}"})
    state = state.model_copy(update={"wrong_sums": state.wrong_sums + 1})
    return _remarked(state, "eye", f"The {ask} is {exact:.3g}, not {value:g}", better)


def _on(state: GlassState, words: str, glass: int) -> GlassState:
    """Return the state at the next question about the same target."""
    ask = ASKS[ASKS.index(state.ask) + 1]
    update = {"ask": ask, "chosen": glass, "say": ASK_WORDS[ask], "moved": (*state.moved, words)}
    return state.model_copy(update=update)


def _next(state: GlassState) -> GlassState:
    stage = state.stage + 1
    if stage == len(state.asked):
        return state.model_copy(update={"is_over": True, "say": "Both targets are done."})
    update = {"stage": stage, "ask": "start", "chosen": 0, "say": ASK_WORDS["start"]}
    return state.model_copy(update=update)


def _remarked(state: GlassState, of: Aspect, words: str, better: str) -> GlassState:
    """Return the state with a remark; what is asked next is said with it."""
    after = state.remarked(of, words, better, len(state.moved))
    return after.model_copy(update={"say": f"{words}. {state.say}"})
