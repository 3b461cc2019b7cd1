"""What every drill has: chance from a seed, what a mentor remarks, and the score at its end."""

from collections import Counter
from collections.abc import Sequence
from typing import Annotated, Literal, Self

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.fields import Frozen, Range, UpTo

DrillName = Literal["level", "finder", "focus", "glass", "which_way", "pointing", "keep", "sun"]
MOST_SEED = 2**31 - 1
MOST_MOVES = 1000  # more than any drill wants; our choice
LONGEST_S = 7200.0  # a drill open longer is begun anew; our choice

Seed = Annotated[int, Range(0, MOST_SEED, "", "Any whole number begins another round.")]
AtS = Annotated[float, Range(0, LONGEST_S, "s", "Begin the drill anew.")]
FEW_MOVES = UpTo(MOST_MOVES, "moves", "Begin the drill anew.")
Aspect = Literal["order", "gentleness", "eye"]
ASPECTS: tuple[Aspect, ...] = ("order", "gentleness", "eye")
Plane = tuple[float, float]  # a plane vector as it is told


class Remark(Frozen):
    """What a mentor would have said to one move, by its number from 1; ``of`` is what it is about.

    ``words`` tell what was done, ``better`` what would have been quicker or safer.
    """

    number: int
    of: Aspect
    words: str
    better: str


class DrillState(Frozen):
    """What the state of every drill has: where it is, the mentor's line, what was said and made.

    ``number`` counts the moves, ``at_s`` is the drill's clock at the last one; ``lent`` says what
    the kit has not and is lent, empty where it has all.
    """

    seed: Seed
    lent: str = ""
    at_s: float = 0.0
    number: int = 0
    say: str = ""
    remarks: tuple[Remark, ...] = ()
    moved: tuple[str, ...] = ()
    is_over: bool = False

    def at_move(self, at_s: float) -> Self:
        """Return the state with one move more, its clock never going back.

        Source: rules.md#practice.
        """
        return self.model_copy(update={"number": self.number + 1, "at_s": max(self.at_s, at_s)})

    def noted(self, words: str) -> Self:
        """Return the state with a move in words to look back on.  Source: rules.md#practice."""
        return self.model_copy(update={"moved": (*self.moved, words)})

    def remarked(self, of: Aspect, words: str, better: str, number: int | None = None) -> Self:
        """Return the state with a remark, which the mentor says at once.

        ``number`` is the move it is about, this one where none is told.

        Source: rules.md#practice.
        """
        at = self.number if number is None else number
        remark = Remark(number=at, of=of, words=words, better=better)
        update = {"remarks": (*self.remarks, remark), "say": as_sentence(better)}
        return self.model_copy(update=update)


class Replayed(Frozen):
    """One move as it was made, and what would have been better; empty where it was well done."""

    number: int
    words: str
    better: str = ""


class Score(Frozen):
    """How a drill went: three sentences on order, gentleness and where the eye was.

    ``is_passed`` is that what was wanted stands, ``is_clean`` that the mentor had nothing to say;
    ``quicker`` compares with what the bench's own advice would have needed.
    """

    is_passed: bool
    is_clean: bool
    sentences: tuple[str, str, str]
    quicker: str
    replay: list[Replayed]


def chance(seed: int, *labels: int) -> np.random.Generator:
    """Return the dice of one moment of a drill: the same for the same seed and labels.

    Source: our own rule; NumPy's PCG64, whose stream is fixed by its seed.
    """
    return np.random.default_rng((seed, *labels))


def sentence_on(of: Aspect, remarks: Sequence[Remark], praise: str) -> str:
    """Return the one sentence on an aspect: what happened most often, or what was well done.

    Source: rules.md#practice.
    """
    told = Counter(one.better for one in remarks if one.of == of)
    if not told:
        return praise
    better, times = told.most_common(1)[0]
    first = next(one for one in remarks if one.better == better)
    often = "" if times == 1 else f" ({times} times)"
    return f"{first.words}{often}: {better}"


def scored(
    *,
    is_passed: bool,
    remarks: Sequence[Remark],
    praises: tuple[str, str, str],
    moves: Sequence[str],
    quicker: str,
) -> Score:
    """Return a score of the moves as words and what a mentor remarked to them.

    Source: rules.md#practice.
    """
    first, second, third = (
        sentence_on(of, remarks, praise) for of, praise in zip(ASPECTS, praises, strict=True)
    )
    better = {one.number: one.better for one in reversed(remarks)}
    return Score(
        is_passed=is_passed,
        is_clean=is_passed and not remarks,
        sentences=(first, second, third),
        quicker=quicker,
        replay=[
            Replayed(number=n, words=words, better=better.get(n, ""))
            for n, words in enumerate(moves, start=1)
        ],
    )


def as_sentence(words: str) -> str:
    """Return words as they begin a sentence.  Source: rules.md#words."""
    return f"{words[0].upper()}{words[1:]}"


def pair(places: Floats) -> Plane:
    """Return a plane vector as it is told.  Source: rules.md#orientation."""
    return float(places[0]), float(places[1])


def counted(number: int, thing: str) -> str:
    """Return a number of things as people say it.  Source: rules.md#words."""
    return f"{number} {thing}{'' if number == 1 else 's'}"
