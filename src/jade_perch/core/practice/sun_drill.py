"""Sun drill: find the unsafe step, or say that there is none; passed only when all is right."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Annotated, Literal

import numpy as np

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.practice.drill import AtS, Replayed, Score, Seed, chance, counted
from jade_perch.core.practice.sun_scenes import ALWAYS, SUN_STEPS, Picture, SunStep, Topic

STEPS_SHOWN = 4
ALL_SAFE = 2  # scenes of a round in which nothing is unsafe, so that nobody guesses
OTHERS = 2  # topics of a round beside those that are always asked
SCENES = len(ALWAYS) + OTHERS + ALL_SAFE
NOTHING_UNSAFE = STEPS_SHOWN  # the answer that every step shown is safe
PASS_LASTS = timedelta(days=365)  # then it is asked again


class SunAnswer(Frozen):
    """Which of the steps is the unsafe one, counted from 0; one more is that none is."""

    drill: Literal["sun"] = "sun"
    choice: Annotated[int, Range(0, NOTHING_UNSAFE, "", "Choose a step, or that all are safe.")]
    scene: Annotated[int, Range(1, SCENES, "", "Answer the scene that is shown.")]
    at_s: AtS = 0.0


class SunState(Frozen):
    """A round of scenes: which steps each shows, by their place in the list, and the answers."""

    drill: Literal["sun"] = "sun"
    seed: Seed
    scenes: tuple[tuple[int, ...], ...]
    answers: tuple[int, ...] = ()
    number: int = 0
    say: str = ""
    at_s: float = 0.0

    @property
    def is_over(self) -> bool:
        """Whether every scene was answered.  Source: rules.md#practice."""
        return len(self.answers) == len(self.scenes)


class SunStepShown(Frozen):
    """One step as it is shown: nothing in it says whether it is safe."""

    words: str
    picture: Picture


class Judged(Frozen):
    """The scene answered last: whether that was right, and why; ``unsafe`` None where all is."""

    steps: list[SunStepShown]
    chosen: int
    unsafe: int | None
    is_right: bool
    why: str


class SunScene(Frozen):
    """The scene to be answered next, None after the last, and how the last one was judged."""

    drill: Literal["sun"] = "sun"
    scene: int
    scenes: int
    steps: list[SunStepShown]
    judged: Judged | None
    right: int


def begin_sun(seed: int) -> SunState:
    """Return a round of scenes by chance: every topic that must be known, some others, some safe.

    Source: rules.md#practice.
    """
    dice = chance(seed)
    every: list[Topic] = sorted({one.topic for one in SUN_STEPS})
    others = [one for one in every if one not in ALWAYS]
    asked: list[Topic | None] = [*ALWAYS, *_some(dice, others, OTHERS)]
    asked += [None] * ALL_SAFE
    order = dice.permutation(len(asked))
    scenes = tuple(_scene(dice, asked[int(n)]) for n in order)
    return SunState(seed=seed, scenes=scenes, say="Which of these steps is unsafe?")


def step_sun(state: SunState, move: SunAnswer) -> SunState:
    """Return the round after one answer; raises ``OutOfRange`` for another scene's.

    Source: rules.md#practice.
    """
    if state.is_over:
        return state
    shown = len(state.answers) + 1
    if move.scene != shown:
        cure = "Answer the scene that is shown."
        raise OutOfRange("scene", move.scene, f"scene {shown}", cure)
    judged = judge(state, shown - 1, move.choice)
    return state.model_copy(
        update={
            "answers": (*state.answers, move.choice),
            "number": state.number + 1,
            "at_s": max(state.at_s, move.at_s),
            "say": judged.why,
        }
    )


def judge(state: SunState, scene: int, choice: int) -> Judged:
    """Return whether a choice in a scene, counted from 0, was right, and why.

    Source: rules.md#practice.
    """
    steps = [SUN_STEPS[n] for n in state.scenes[scene]]
    unsafe = next((n for n, one in enumerate(steps) if one.is_unsafe), None)
    is_right = choice == (NOTHING_UNSAFE if unsafe is None else unsafe)
    if unsafe is None:
        why = "Right: all four are safe." if is_right else "No: all four are safe here."
    else:
        why = f"{'Right.' if is_right else 'No.'} {steps[unsafe].why}"
    return Judged(steps=_shown(steps), chosen=choice, unsafe=unsafe, is_right=is_right, why=why)


def scene_of_sun(state: SunState) -> SunScene:
    """Return what is shown next.  Source: rules.md#practice."""
    done = len(state.answers)
    steps = [] if state.is_over else _shown([SUN_STEPS[n] for n in state.scenes[done]])
    judged = judge(state, done - 1, state.answers[-1]) if done else None
    return SunScene(
        scene=min(done + 1, len(state.scenes)),
        scenes=len(state.scenes),
        steps=steps,
        judged=judged,
        right=sum(one.is_right for one in _all_judged(state)),
    )


def score_sun(state: SunState) -> Score:
    """Return whether all was right, and what was not.  Source: rules.md#practice."""
    judged = _all_judged(state)
    wrong = [one for one in judged if not one.is_right]
    is_passed = state.is_over and not wrong
    right = f"{len(judged) - len(wrong)} of {len(state.scenes)} scenes were right"
    missed = wrong[0].why if wrong else "No unsafe step went past you, and none was seen in vain."
    last = "You may open a solar session, filter in front; the checklist still comes first."
    if not is_passed:
        last = "All of them have to be right: begin another round, the scenes are others."
    return Score(
        is_passed=is_passed,
        is_clean=is_passed,
        sentences=(f"{right}.", missed, last),
        quicker="" if is_passed else f"{counted(len(wrong), 'scene')} to look at again.",
        replay=[
            Replayed(number=n, words=_answer_words(one), better="" if one.is_right else one.why)
            for n, one in enumerate(judged, start=1)
        ],
    )


def is_still_passed(passed_utc: Sequence[datetime], now_utc: datetime) -> bool:
    """Return whether a pass counts: from the past, and not older than a year.

    ``passed_utc`` and ``now_utc`` are by the stopwatch, whatever clock the evening goes by.

    Source: rules.md#practice.
    """
    return any(timedelta(0) <= now_utc - one < PASS_LASTS for one in passed_utc)


def _all_judged(state: SunState) -> list[Judged]:
    return [judge(state, n, choice) for n, choice in enumerate(state.answers)]


def _answer_words(judged: Judged) -> str:
    if judged.chosen == NOTHING_UNSAFE:
        return "all four called safe"
    return f"called unsafe: {judged.steps[judged.chosen].words}"


def _scene(dice: np.random.Generator, topic: Topic | None) -> tuple[int, ...]:
    """Return four steps by their place in the list: one unsafe of a topic, or none."""
    safe = [n for n, one in enumerate(SUN_STEPS) if not one.is_unsafe and one.topic != topic]
    unsafe = [n for n, one in enumerate(SUN_STEPS) if one.is_unsafe and one.topic == topic]
    chosen = [] if topic is None else [unsafe[int(dice.integers(len(unsafe)))]]
    while len(chosen) < STEPS_SHOWN:
        one = safe[int(dice.integers(len(safe)))]
        if SUN_STEPS[one].topic not in {SUN_STEPS[n].topic for n in chosen}:
            chosen.append(one)
    return tuple(chosen[int(n)] for n in dice.permutation(STEPS_SHOWN))


def _some(dice: np.random.Generator, among: Sequence[Topic], count: int) -> list[Topic]:
    return [among[int(n)] for n in dice.permutation(len(among))[:count]]


def _shown(steps: Sequence[SunStep]) -> list[SunStepShown]:
    return [SunStepShown(words=one.words, picture=one.picture) for one in steps]
