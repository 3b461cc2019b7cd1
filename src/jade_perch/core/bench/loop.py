"""Turn, look again: what is kept of each round of a loop, and what the last turn taught."""

from collections.abc import Sequence

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.response import Place, Response, Turned, Verdict, Ways, learn
from jade_perch.core.fields import Frozen

UNMOVED_TIMES = 2  # turns in a row without effect after which something else is wrong


class Try(Frozen):
    """One round: where something was seen, in radii of its view, and the turn then asked for.

    ``asked`` is a plane vector in turns or mm; None where the answer was no turn that can be
    reckoned with.  ``is_broken`` where something else happened after it, such as a bump.
    """

    right: float = 0.0
    up: float = 0.0
    at_wall: bool = False
    is_lost: bool = False
    asked: tuple[float, float] | None = None
    words: str = ""
    is_broken: bool = False

    @property
    def place(self) -> Place:
        """Where it was seen.  Source: rules.md#learning."""
        return Place(self.right, self.up, self.at_wall, self.is_lost)


def turns_of(tries: Sequence[Try], here: Place) -> list[Turned]:
    """Return what each turn did, the last one as seen ``here``.  Source: rules.md#learning."""
    places = [*(one.place for one in tries[1:]), here]
    return [
        Turned(np.array(one.asked), one.place, after)
        for one, after in zip(tries, places, strict=False)
        if one.asked is not None and not one.is_broken
    ]


class Learned(Frozen):
    """What the rounds so far have taught, in words for beside the instruction.

    ``verdict`` is what the last turn taught, ``rounds`` how many turns were made, ``unmoved`` how
    many of the last ones did nothing.
    """

    verdict: Verdict
    rounds: int
    unmoved: int
    words: str


def learned(
    usual: Floats, tries: Sequence[Try], here: Place, ways: Ways, of: str, what_turned: str
) -> tuple[Response, Learned]:
    """Return what turns do, and what the last one taught about ``of`` such as "bubble".

    Source: rules.md#learning.
    """
    turns = turns_of(tries, here)
    response = learn(usual, turns, ways)
    followed = bool(tries) and tries[-1].asked is not None and not tries[-1].is_broken
    verdict = response.verdict if followed else "first"
    unmoved = 0
    last = response.verdict
    while last == "unmoved":
        unmoved += 1
        last = learn(usual, turns[:-unmoved], ways).verdict
    words = _words(verdict, unmoved, of, what_turned)
    return response, Learned(verdict=verdict, rounds=len(turns), unmoved=unmoved, words=words)


def _words(verdict: Verdict, unmoved: int, of: str, what: str) -> str:
    if verdict == "unmoved" and unmoved >= UNMOVED_TIMES:
        return (
            f"The {of} has not moved {unmoved} times running: see that {what} really turns, is not "
            "at its end, and that nothing holds it."
        )
    return {
        "first": "",
        "as_told": "",
        "unmoved": f"The {of} did not move: {what} had slack, or another one was turned.",
        "other_way": "That made it worse: it goes the other way round here.",
        "farther": "It went farther than reckoned: from now on less.",
        "less": "It went less far than reckoned: from now on more.",
        "sideways": f"It went sideways: {what} acts another way than reckoned, now taken in.",
        "bump": "It moved by itself: somebody bumped it. Nothing is learned from that.",
        "lost": "",
    }[verdict]
