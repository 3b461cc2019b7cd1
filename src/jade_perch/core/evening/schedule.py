"""Which of some targets to look at when: the exact best order for a dozen, a bounded one for more.

Time is cut into slots.  ``gain[k, s]`` is what target k is worth when it begins at slot s, -inf
where it cannot; it then takes ``slots[k]`` of them.  Going from j to k costs ``cost[j, k]``.
Nobody has to be on the list.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from jade_perch.core.arrays import Floats, Integers

MOST_EXACT = 12  # targets up to which the optimum is found; beyond it costs too much memory
ALMOST = 1e-3  # two values so near are the same, in single precision


@dataclass(frozen=True, slots=True)
class Chosen:
    """What to look at, in order, and from which slot on; ``bound`` no order can be better than."""

    order: tuple[int, ...]
    starts: tuple[int, ...]
    value: float
    bound: float
    is_exact: bool


@dataclass(frozen=True, slots=True)
class Problem:
    """Gains (N, T), slots (N,), costs (N, N) from one to another; see the module."""

    gain: Floats
    slots: Integers
    cost: Floats

    def part(self, numbers: Sequence[int]) -> "Problem":
        """Return the same for some of the targets.  Source: rules.md#schedule."""
        keep = np.array(numbers, dtype=int)
        return Problem(self.gain[keep], self.slots[keep], self.cost[np.ix_(keep, keep)])


def best_order(problem: Problem) -> Chosen:
    """Return the best order of some targets: exact up to ``MOST_EXACT``, else good and bounded.

    Source: rules.md#schedule; dynamic programming over sets (Held and Karp 1962).
    """
    count = len(problem.slots)
    if count <= MOST_EXACT:
        order, starts, value = _exact(problem)
        return Chosen(order, starts, value, value, is_exact=True)
    worth = np.where(np.isfinite(problem.gain), problem.gain, -np.inf).max(axis=1)
    first = np.argsort(-worth, kind="stable")[:MOST_EXACT].tolist()
    order, starts, _ = _exact(problem.part(first))
    placed = [(first[n], at) for n, at in zip(order, starts, strict=True)]
    placed = _filled(problem, placed, [n for n in range(count) if n not in first])
    value = _value(problem, placed)
    names, begins = zip(*placed, strict=True) if placed else ((), ())
    return Chosen(names, begins, value, max(value, upper_bound(problem)), is_exact=False)


def upper_bound(problem: Problem) -> float:
    """Return a value no order can pass: as if targets could be cut and nothing cost anything.

    Source: rules.md#schedule; the fractional knapsack.
    """
    most = np.maximum(problem.gain.max(axis=1, initial=-np.inf), 0.0)
    room, total = float(problem.gain.shape[1]), 0.0
    for number in np.argsort(-most / problem.slots, kind="stable"):
        share = min(1.0, room / float(problem.slots[number]))
        total += share * float(most[number])
        room -= share * float(problem.slots[number])
        if room <= 0:
            break
    return total


def _exact(problem: Problem) -> tuple[tuple[int, ...], tuple[int, ...], float]:
    count, times = problem.gain.shape
    if not count or not times:
        return (), (), 0.0
    # best[S, k, t]: the targets of S looked at, k last, all over by slot t
    best = np.full((1 << count, count, times + 1), -np.inf, dtype=np.float32)
    gain, cost = problem.gain.astype(np.float32), problem.cost.astype(np.float32)
    none = np.zeros((1, times + 1), dtype=np.float32)
    for k in range(count):
        best[1 << k, k] = _after(none, gain[k], int(problem.slots[k]))[0]
    sizes = np.array([number.bit_count() for number in range(1 << count)])
    for size in range(1, count):
        sets = np.flatnonzero(sizes == size)
        for k in range(count):
            without = sets[(sets >> k) & 1 == 0]
            before = (best[without] - cost[:, k][np.newaxis, :, np.newaxis]).max(axis=1)
            best[without | (1 << k), k] = _after(before, gain[k], int(problem.slots[k]))
    last = best[:, :, times]
    top = float(last.max())
    if top <= 0:
        return (), (), 0.0
    chosen, k = divmod(int(last.argmax()), count)
    order, starts = _walked_back(problem, best, chosen, k)
    return order, starts, _value(problem, list(zip(order, starts, strict=True)))


def _after(before: Floats, gain: Floats, slots: int) -> Floats:
    """Return the best by each slot once one more target was looked at, begun at any slot."""
    found = np.full_like(before, -np.inf)
    times = gain.shape[0]
    if slots <= times:
        found[:, slots:] = before[:, : times + 1 - slots] + gain[: times + 1 - slots]
    return np.asarray(np.maximum.accumulate(found, axis=1))


def _walked_back(
    problem: Problem, best: Floats, chosen: int, last: int
) -> tuple[tuple[int, ...], tuple[int, ...]]:
    """Return order and starts of the best way to a set, each target as early as it may be."""
    order, starts, end, k = [], [], best.shape[2] - 1, last
    while True:
        value = best[chosen, k, end]
        end = int(np.flatnonzero(best[chosen, k] >= value - ALMOST)[0])
        start = end - int(problem.slots[k])
        order.append(k)
        starts.append(start)
        chosen &= ~(1 << k)
        if not chosen:
            return tuple(reversed(order)), tuple(reversed(starts))
        k = int(np.argmax(best[chosen, :, start] - problem.cost[:, k].astype(np.float32)))
        end = start


Placed = list[tuple[int, int]]


def _value(problem: Problem, placed: Placed) -> float:
    gains = sum(float(problem.gain[n, at]) for n, at in placed)
    between = pairwise(placed)
    return gains - sum(float(problem.cost[a, b]) for (a, _), (b, _) in between)


def _filled(problem: Problem, placed: Placed, others: Sequence[int]) -> Placed:
    """Return a plan with other targets put where they fit and add most, the best one first."""
    left = list(others)
    while left:
        before = _value(problem, placed)
        tried = [
            (_value(problem, found) - before, n, found)
            for n in left
            if (found := _put(problem, placed, n)) is not None
        ]
        if not tried or max(tried, key=lambda one: one[0])[0] <= 0:
            return placed
        _, number, placed = max(tried, key=lambda one: one[0])
        left.remove(number)
    return placed


def _put(problem: Problem, placed: Placed, number: int) -> Placed | None:
    """Return a plan with one target more at its best free slot, or None where none is free."""
    free = np.isfinite(problem.gain[number])
    length, times = int(problem.slots[number]), problem.gain.shape[1]
    free[max(0, times - length + 1) :] = False
    for other, at in placed:
        free[max(0, at - length + 1) : at + int(problem.slots[other])] = False
    if not free.any():
        return None
    at = int(np.argmax(np.where(free, problem.gain[number], -np.inf)))
    return sorted([*placed, (number, at)], key=lambda one: one[1])
