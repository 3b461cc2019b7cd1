"""The case for tonight: the few eyepieces that together cover the ladder best, exactly."""

from collections.abc import Mapping, Sequence
from itertools import combinations
from math import comb

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Amplifier
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.optics.neighbours import useful_rungs
from jade_perch.core.optics.rungs import Rung

GRID_POINTS = 96  # powers, evenly spread on a logarithmic scale, that the case should serve
MOST_CHOICES = 400_000  # sets compared at most; beyond it the question takes too long
AS_GOOD_PERCENT = 0.5  # two sets nearer than this serve the same; our choice
BATCH = 4096  # sets compared at once
NUMBER_WORDS = (
    "no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven",
    "twelve",
)  # fmt: skip


class Case(Frozen):
    """A set of eyepieces and how well it serves; ``off_percent`` 0 would be a rung at any power.

    ``off_percent`` is the mean distance from a wished power to the nearest one it can show.
    """

    eyepiece_ids: list[int]
    amplifier_names: list[str]
    off_percent: float
    low_magnification: float
    high_magnification: float
    words: str

    @property
    def uses_amplifiers(self) -> bool:
        """Whether any amplifier goes along.  Source: rules.md#case."""
        return bool(self.amplifier_names)


class CaseAdvice(Frozen):
    """The best case, the best without amplifiers where any helped, and the picked one if any.

    ``picked_words`` compares the picked one with the best; empty without one.  ``learned_words``
    say where the notes end the ladder, where they do.
    """

    best: Case
    without_amplifiers: Case | None
    picked: Case | None
    picked_words: str
    learned_words: str


def best_case(
    ladder: Ladder,
    most_eyepieces: int,
    amplifiers: Sequence[Amplifier] = (),
    picked_ids: Sequence[int] = (),
) -> CaseAdvice | None:
    """Return the best set of at most ``most_eyepieces``, or None for an empty ladder.

    The eyepiece every search starts with goes along.  Served are all powers from the ladder's
    lowest to its highest one that is useful tonight.  Every set is compared, so the answer is the
    optimum; ties go to fewer eyepieces.  ``amplifiers`` are the ladder's, for their names.
    Raises ``OutOfRange`` when there are too many sets.

    Source: rules.md#case, mean of |log power - log nearest power|.
    """
    full = [rung for rung in ladder.rungs if not rung.is_masked]
    useful = useful_rungs(full, ladder.air_magnification) or full
    if not useful:
        return None
    start = ladder.start.key if ladder.start is not None else useful[0].key
    first = next((rung for rung in full if rung.key == start), useful[0])
    if first not in useful:
        useful = [first, *useful]
    search = _Search(useful, {one.id: one.name for one in amplifiers}, first.eyepiece_id)
    size = min(most_eyepieces, len(search.owned))
    _check_effort(len(search.owned), size)
    best = search.best(size)
    known = [one for one in picked_ids if one in search.owned]
    picked = search.case(known) if known else None
    plain = _Search(
        [rung for rung in useful if not rung.amplifier_ids], {}, first.eyepiece_id, search.grid
    )
    return CaseAdvice(
        best=best,
        without_amplifiers=plain.best(size) if best.uses_amplifiers and plain.owned else None,
        picked=picked,
        picked_words=_picked_words(picked, best) if picked_ids else "",
        learned_words=_learned_words(ladder),
    )


def _learned_words(ladder: Ladder) -> str:
    learned = ladder.viewer.learned_air
    if learned is None:
        return ""
    return f"It ends at {learned.magnification:.0f}×, as {learned.notes} of your notes in such air."


def _picked_words(picked: Case | None, best: Case) -> str:
    if picked is None:
        return "None of these gives a power that tonight's air and the aperture reward."
    gain = picked.off_percent - best.off_percent
    if gain < AS_GOOD_PERCENT:
        return "Your set is as good."
    return f"The best set comes {gain:.0f} percent nearer to a wished power."


class _Search:
    """The powers a set of rungs can show, and the sets of their eyepieces compared.

    A zoom shows every power between its ends, so each eyepiece has stretches rather than points.
    """

    def __init__(
        self,
        rungs: Sequence[Rung],
        names: Mapping[int | None, str],
        first_id: int | None,
        grid: Floats | None = None,
    ) -> None:
        self.rungs, self.names = rungs, names
        self.owned = sorted({r.eyepiece_id for r in rungs if r.eyepiece_id is not None})
        self.first = self.owned.index(first_id) if first_id in self.owned else 0
        self.stretches = [_stretches(rungs, one) for one in self.owned]
        powers = [rung.magnification for rung in rungs]
        self.grid = grid
        if grid is None:
            self.grid = np.linspace(np.log(min(powers)), np.log(max(powers)), GRID_POINTS)

    def distance(self, number: int) -> Floats:
        """Return, for each wished power, how far an eyepiece's nearest one is, in logarithms."""
        ends = np.log(self.stretches[number])
        short = ends[:, :1] - self.grid
        over = self.grid - ends[:, 1:]
        return np.asarray(np.maximum(0.0, np.maximum(short, over)).min(axis=0))

    def best(self, size: int) -> Case:
        """Return the best set of at most ``size`` eyepieces."""
        distance = np.array([self.distance(number) for number in range(len(self.owned))])
        return self.case([self.owned[n] for n in _best_rows(distance, size, self.first)])

    def case(self, eyepiece_ids: Sequence[int]) -> Case:
        """Return a set with its score and its words."""
        numbers = [self.owned.index(one) for one in eyepiece_ids]
        off = float(np.min([self.distance(n) for n in numbers], axis=0).mean())
        stretches = sorted({one for n in numbers for one in self.stretches[n]})
        used = {
            number
            for rung in self.rungs
            if rung.eyepiece_id in eyepiece_ids
            for number in rung.amplifier_ids
        }
        names = [name for number, name in self.names.items() if number in used]
        off_percent = 100 * float(np.expm1(off))
        return Case(
            eyepiece_ids=sorted(eyepiece_ids),
            amplifier_names=names,
            off_percent=off_percent,
            low_magnification=stretches[0][0],
            high_magnification=max(high for _, high in stretches),
            words=_words(len(eyepiece_ids), names, stretches, off_percent),
        )


def _stretches(rungs: Sequence[Rung], eyepiece_id: int) -> list[tuple[float, float]]:
    """Return the powers an eyepiece shows: points, and for a zoom from end to end."""
    by_way: dict[tuple[object, ...], list[float]] = {}
    for rung in rungs:
        if rung.eyepiece_id == eyepiece_id:
            way = (*rung.amplifier_ids, rung.placement)
            by_way.setdefault(way, []).append(rung.magnification)
    return [(min(powers), max(powers)) for powers in by_way.values()]


def _words(
    eyepieces: int, names: Sequence[str], stretches: Sequence[tuple[float, float]], off: float
) -> str:
    """Return a set in plain words: what goes along, what it shows, how wide its steps are."""
    counted = _counted(eyepieces, "eyepiece").capitalize()
    along = f"{counted}{''.join(f' and {name}' for name in names)}"
    low, high = stretches[0][0], max(end for _, end in stretches)
    points = sum(start == end for start, end in stretches)
    shown = [_counted(points, "power")] if points else []
    shown += [
        f"every power from {start:.0f}× to {end:.0f}×" for start, end in stretches if end > start
    ]
    reach, widest = stretches[0][1], 1.0
    for start, end in stretches[1:]:
        widest, reach = max(widest, start / reach), max(reach, end)
    step = f", the widest step is {widest:.1f}" if widest > 1 else ""
    verb = "gives" if eyepieces == 1 and not names else "give"
    return (
        f"{along} {verb} {' and '.join(shown)}, {low:.0f}× to {high:.0f}×; a wished "
        f"power is on average {off:.0f} % away{step}."
    )


def _counted(number: int, noun: str) -> str:
    word = NUMBER_WORDS[number] if number < len(NUMBER_WORDS) else str(number)
    return f"{word} {noun}{'' if number == 1 else 's'}"


def _check_effort(owned: int, size: int) -> None:
    sets = sum(comb(owned - 1, n) for n in range(size))
    if sets > MOST_CHOICES:
        most = max(n for n in range(1, size) if comb(owned - 1, n - 1) * 2 <= MOST_CHOICES)
        raise OutOfRange(
            "most_eyepieces", size, f"1 to {most} of {owned}", "Ask for fewer eyepieces."
        )


def _best_rows(distance: Floats, size: int, first: int) -> tuple[int, ...]:
    """Return the rows of the best set of at most ``size`` with ``first`` in it: all are tried."""
    best_score = np.inf
    best: tuple[int, ...] = (first,)
    others = [n for n in range(len(distance)) if n != first]
    for count in range(1, size + 1):
        sets = np.array(
            [(first, *more) for more in combinations(others, count - 1)], dtype=np.int16
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
