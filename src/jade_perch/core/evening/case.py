"""The case for tonight: the few eyepieces that together cover the ladder best, exactly."""

from collections.abc import Sequence
from itertools import chain, combinations, pairwise
from math import comb

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.optics.rungs import Rung

GRID_POINTS = 96  # powers, evenly spread on a logarithmic scale, that the case should serve
MOST_CHOICES = 400_000  # sets compared at most; beyond it the question takes too long
AS_GOOD_PERCENT = 0.5  # two sets nearer than this serve the same; our choice
BATCH = 4096  # sets compared at once


class Case(Frozen):
    """A set of eyepieces and how well it serves; ``off_percent`` 0 would be a rung at any power.

    ``off_percent`` is the mean distance from a wished power to the nearest rung.
    """

    eyepiece_ids: list[int]
    uses_amplifiers: bool
    off_percent: float
    low_magnification: float
    high_magnification: float
    words: str


class CaseAdvice(Frozen):
    """The best case, the best without amplifiers where any helped, and the picked one if any.

    ``picked_words`` compares the picked one with the best; empty without one.
    """

    best: Case
    without_amplifiers: Case | None
    picked: Case | None
    picked_words: str


def best_case(
    ladder: Ladder, most_eyepieces: int, picked_ids: Sequence[int] = ()
) -> CaseAdvice | None:
    """Return the best set of at most ``most_eyepieces``, or None for an empty ladder.

    Served are all powers from the ladder's lowest to its highest useful rung.  Every set is
    compared, so the answer is the optimum; ties go to fewer eyepieces.  Raises ``OutOfRange``
    when there are too many sets.

    Source: our own measure, mean of |log power - log nearest rung|.
    """
    useful = [r for r in ladder.rungs if r.band != "empty" and not r.is_masked] or ladder.rungs
    owned = sorted({r.eyepiece_id for r in useful if r.eyepiece_id is not None})
    if not owned:
        return None
    size = min(most_eyepieces, len(owned))
    _check_effort(len(owned), size)
    grid = _grid(useful)
    distance = _distances(useful, owned, grid)
    best_ids = _search(distance, size)
    best = _case(useful, [owned[n] for n in best_ids], grid)
    known = [one for one in picked_ids if one in owned]
    picked = _case(useful, known, grid) if known else None
    return CaseAdvice(
        best=best,
        without_amplifiers=_plain_case(useful, size, grid) if best.uses_amplifiers else None,
        picked=picked,
        picked_words="" if picked is None else _picked_words(picked, best),
    )


def _picked_words(picked: Case, best: Case) -> str:
    gain = picked.off_percent - best.off_percent
    if gain < AS_GOOD_PERCENT:
        return "Your set is as good."
    return f"The best set comes {gain:.0f} percent nearer to a wished power."


def _plain_case(rungs: Sequence[Rung], size: int, grid: Floats) -> Case | None:
    """Return the best set that leaves every amplifier at home, by the same measure."""
    plain = [rung for rung in rungs if not rung.amplifier_ids]
    owned = sorted({r.eyepiece_id for r in plain if r.eyepiece_id is not None})
    if not owned:
        return None
    best = _search(_distances(plain, owned, grid), min(size, len(owned)))
    return _case(plain, [owned[n] for n in best], grid)


def _check_effort(owned: int, size: int) -> None:
    sets = sum(comb(owned, n) for n in range(1, size + 1))
    if sets > MOST_CHOICES:
        most = max(n for n in range(1, size) if comb(owned, n) * 2 <= MOST_CHOICES)
        raise OutOfRange(
            "most_eyepieces", size, f"1 to {most} of {owned}", "Ask for fewer eyepieces."
        )


def _grid(rungs: Sequence[Rung]) -> Floats:
    powers = [rung.magnification for rung in rungs]
    return np.linspace(np.log(min(powers)), np.log(max(powers)), GRID_POINTS)


def _distances(rungs: Sequence[Rung], owned: Sequence[int], grid: Floats) -> Floats:
    """Return, for each eyepiece and grid power, the distance to its nearest rung, (E, G)."""
    rows = []
    for eyepiece_id in owned:
        own = np.log([r.magnification for r in rungs if r.eyepiece_id == eyepiece_id])
        rows.append(np.abs(grid[:, np.newaxis] - own).min(axis=1))
    return np.array(rows)


def _search(distance: Floats, size: int) -> tuple[int, ...]:
    """Return the rows of the best set of at most ``size``: every set is looked at."""
    best_score = np.inf
    best: tuple[int, ...] = (0,)
    for count in range(1, size + 1):
        sets = np.fromiter(
            chain.from_iterable(combinations(range(len(distance)), count)), dtype=np.int16
        ).reshape(-1, count)
        for start in range(0, len(sets), BATCH):
            batch = sets[start : start + BATCH]
            nearest = distance[batch[:, 0]]
            for column in range(1, count):
                nearest = np.minimum(nearest, distance[batch[:, column]])
            scores = nearest.mean(axis=1)
            lowest = int(np.argmin(scores))
            if scores[lowest] < best_score - 1e-12:
                best_score, best = float(scores[lowest]), tuple(int(n) for n in batch[lowest])
    return best


def _case(rungs: Sequence[Rung], eyepiece_ids: Sequence[int], grid: Floats) -> Case:
    chosen = [rung for rung in rungs if rung.eyepiece_id in eyepiece_ids]
    powers = sorted(rung.magnification for rung in chosen)
    log_powers = np.log(powers)
    off = float(np.abs(grid[:, np.newaxis] - log_powers).min(axis=1).mean())
    steps = [high / low for low, high in pairwise(powers)]
    widest = max(steps, default=1.0)
    amplified = any(rung.amplifier_ids for rung in chosen)
    off_percent = 100 * float(np.expm1(off))
    words = (
        f"{len(powers)} powers from {powers[0]:.0f}× to {powers[-1]:.0f}×; "
        f"a wished power is on average {off_percent:.0f} % away, the widest step is {widest:.1f}."
    )
    return Case(
        eyepiece_ids=sorted(eyepiece_ids),
        uses_amplifiers=amplified,
        off_percent=off_percent,
        low_magnification=powers[0],
        high_magnification=powers[-1],
        words=words,
    )
