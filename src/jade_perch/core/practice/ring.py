"""A finder's ring: where a tube rests between the tips of its screws, and what a hand can turn.

Lengths are in turns of a screw.  A tube that is loose sags until screws hold it; a sprung one is
pressed against its two screws all the time.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np

from jade_perch.core.arrays import Floats, Integers
from jade_perch.core.bench.advice import clock_direction
from jade_perch.core.bench.screws import screw_hours
from jade_perch.core.kit import Finder
from jade_perch.core.practice.drill import Plane

TRAVEL_TURNS = 5.0  # how far a tube can go from the middle of its ring; our estimate
SNUG_TURNS = 0.06  # so little play holds
FORCED_TURNS = 0.3  # turned in so much beyond what gives, a screw was forced; our estimate
FINEST_TURNS = 1 / 32  # how finely screws are tightened one after the other
MOST_ROUNDS = 24  # of tightening one after the other; far fewer are needed
WALLS = 8  # the ring itself, as so many straight pieces
TOUCHES = 1e-9


@dataclass(frozen=True, slots=True)
class Ring:
    """The screws of a finder by the direction in which each is loosened, (right, up) from behind.

    ``is_sprung`` where two screws press against a spring.
    """

    toward: Floats
    is_sprung: bool

    def rests(self, tips_turns: Floats) -> Floats:
        """Return where the tube rests with the screws' tips so far out, (right, up) in turns.

        Source: rules.md#practice; the lowest point that every tip allows.
        """
        if self.is_sprung:
            return np.asarray(np.linalg.solve(self.toward, tips_turns), float)
        corners = self._corners(tips_turns)
        lowest = corners[:, 1] <= corners[:, 1].min() + TOUCHES
        return np.asarray(corners[lowest].mean(axis=0))

    def play(self, tips_turns: Floats) -> float:
        """Return how far a tube can rattle between the tips, in turns.

        Source: rules.md#practice.
        """
        if self.is_sprung:
            return 0.0
        corners = self._corners(tips_turns)
        return float(np.ptp(corners, axis=0).max())

    def turned(self, tips_turns: Floats, screw: int, out_turns: float) -> tuple[Floats, float]:
        """Return the tips after one screw was turned, and by how many turns that was forced.

        Inwards it stops where nothing gives any more, and both ways at its own end.

        Source: rules.md#practice.
        """
        after = tips_turns.copy()
        wanted = float(np.clip(tips_turns[screw] + out_turns, -TRAVEL_TURNS, TRAVEL_TURNS))
        gives = wanted
        if not self.is_sprung and out_turns < 0:
            gives = max(wanted, min(float(tips_turns[screw]), self._innermost(tips_turns, screw)))
        after[screw] = gives
        return after, gives - wanted

    def snugged(self, tips_turns: Floats, kept: int | None) -> Floats:
        """Return the tips with every screw but one tightened, little by little, until all hold.

        ``kept`` is the screw that was loosened last, and is left; None tightens all.

        Source: rules.md#practice.
        """
        movable = [n for n in range(len(tips_turns)) if n != kept]
        if len(tips_turns) == 3:  # what the three leave between them is taken up evenly
            after = tips_turns.copy()
            after[movable] -= max(0.0, float(tips_turns.sum())) / len(movable)
            return after
        if len(tips_turns) == 4:  # two pairs across from each other, each takes up its own
            after = tips_turns.copy()
            for pair in ((0, 2), (1, 3)):
                ends = [n for n in pair if n != kept]
                after[ends] -= max(0.0, float(tips_turns[list(pair)].sum())) / len(ends)
            return after
        for _ in range(MOST_ROUNDS):
            play = self.play(tips_turns)
            if play <= SNUG_TURNS / 2:
                break
            for screw in movable:
                tips_turns, _ = self.turned(tips_turns, screw, -max(FINEST_TURNS, play / 2))
        return tips_turns

    def _innermost(self, tips_turns: Floats, screw: int) -> float:
        """Return how far in a screw can go before the others hold the tube against it."""
        others = [n for n in range(len(tips_turns)) if n != screw]
        return float((self._corners(tips_turns, others) @ self.toward[screw]).min())

    def _corners(self, tips_turns: Floats, screws: Sequence[int] | None = None) -> Floats:
        """Return the corners of where a tube can be between some of the screws, or all."""
        some = list(range(len(tips_turns)) if screws is None else screws)
        of = _crossings(tuple((right, up) for right, up in self.toward[some].tolist()))
        out = np.concatenate([tips_turns[some], np.full(WALLS, 2 * TRAVEL_TURNS)])
        found = (of.inverses @ out[of.pairs][..., None])[..., 0]
        is_inside = (found @ of.toward.T <= out + 1e-7).all(axis=1)
        return np.asarray(found[is_inside])


def ring_of(finder: Finder) -> Ring:
    """Return the ring of a finder: two screws work against a spring, more against each other.

    Source: rules.md#finder.
    """
    hours = screw_hours(finder)
    return Ring(np.array([clock_direction(hour) for hour in hours]), len(hours) == 2)


@dataclass(frozen=True, slots=True)
class _Crossings:
    """Straight walls, toward · c ≤ out: which two cross, and what turns their outs into where."""

    toward: Floats
    pairs: Integers
    inverses: Floats


@lru_cache(maxsize=64)
def _crossings(screws: tuple[Plane, ...]) -> _Crossings:
    """Return where the walls of some screws and of the ring itself cross, whatever their tips."""
    angles = np.arange(WALLS) * 2 * np.pi / WALLS
    ring = np.stack([np.sin(angles), np.cos(angles)], axis=1)
    toward = np.concatenate([np.array(screws).reshape(-1, 2), ring])
    pairs = np.array(list(combinations(range(len(toward)), 2)))
    sides = toward[pairs]
    crossing = np.abs(np.linalg.det(sides)) > TOUCHES
    return _Crossings(toward, pairs[crossing], np.linalg.inv(sides[crossing]))
