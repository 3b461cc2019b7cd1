"""What a turn really does: learned from the places seen before and after it.

Screws sit at either end, rings are turned, eyepieces look sideways, threads are coarse: whatever
was taken for granted is only where the learning begins.  Places and turns are plane vectors.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from jade_perch.core.arrays import Floats

READ_NOISE = 0.04  # of a view's radius: how well a finger points at what is seen; our estimate
HANDS_SHARE = 0.25  # how far a turn may be from the one asked for; our estimate
FADING = 0.85  # what an older turn counts for, turn by turn: screws get moved; our estimate
REMEMBERED = 8  # turns that are looked back on
SHARE_SPREAD = 0.9  # how far, in e-foldings, a usual lever or thread may be off; our estimate
MOST_MISSED = 5.0  # doubts; worse tells no more: it was bumped
BUMP_MISSED, AGREED = 3.5, 1.5  # doubts, after two that agreed: a bump and no lesson; our estimate
PLAUSIBLE = 2.5  # of oddness more than the likeliest still counts as possible; our estimate
INSIDE = 0.95  # radii; so far out a place is still well seen
SHARES = np.geomspace(1 / 9, 9, 21)
BEYOND = np.array([1.0, 1.3, 1.7, 2.3, 3.2, 4.5])  # how far out something at the wall may be
FAR_OUT = 1.5  # radii beyond the wall that something may well lie; our estimate
Verdict = Literal[
    "first", "as_told", "unmoved", "other_way", "farther", "less", "sideways", "bump", "lost"
]


@dataclass(frozen=True)
class Ways:
    """Every way in which an expectation may be turned or mirrored, and how odd each is."""

    matrices: Floats
    odd: Floats


def make_ways(odd_deg: Mapping[int, float], odd_other: float, odd_mirrored: float) -> Ways:
    """Return turns by every 15 degrees, plain and mirrored; some are less odd than others.

    Oddness is the negative logarithm of how often it happens, 0 for what is expected.

    Source: rules.md#learning; our estimates.
    """
    angles = range(0, 360, 15)
    cosine, sine = np.cos(np.radians(angles)), np.sin(np.radians(angles))
    turned = np.stack([np.stack([cosine, -sine], -1), np.stack([sine, cosine], -1)], -2)
    odd = np.array([odd_deg.get(angle, odd_other) for angle in angles])
    both = np.concatenate([turned, turned @ np.diag([-1.0, 1.0])])
    return Ways(both, np.concatenate([odd, odd + odd_mirrored]))


@dataclass(frozen=True, slots=True)
class Place:
    """Where something was seen, (right, up) in radii.

    ``at_wall`` where it may be farther out the same way; ``is_lost`` where it was not seen at all.
    """

    right: float = 0.0
    up: float = 0.0
    at_wall: bool = False
    is_lost: bool = False

    @property
    def is_inside(self) -> bool:
        """Whether it was seen where it really was.  Source: rules.md#learning."""
        return not (self.at_wall or self.is_lost)

    @property
    def vector(self) -> Floats:
        """The place as a vector.  Source: rules.md#learning."""
        return np.array([self.right, self.up])

    @property
    def out(self) -> float:
        """How far out it is, in radii.  Source: rules.md#learning."""
        return float(np.hypot(self.right, self.up))


@dataclass(frozen=True, slots=True)
class Turned:
    """One turn: what was asked of the hands, and the places before and after it."""

    asked: Floats
    before: Place
    after: Place

    @property
    def moved(self) -> Floats:
        """The way the place went.  Source: rules.md#learning."""
        return self.after.vector - self.before.vector


@dataclass(frozen=True)
class Response:
    """What turns do: ``matrix`` times a turn is the way the seen place moves.

    ``possible`` are matrices (N, 2, 2) that nothing has ruled out yet; ``verdict`` is what the
    last turn taught.
    """

    matrix: Floats
    possible: Floats
    verdict: Verdict

    def turn_for(self, here: Place, wanted: Floats) -> Floats:
        """Return the turn that moves what stands ``here`` by ``wanted``, or a share of it.

        It stays a share as long as a wrong belief could carry the place out of the view.

        Source: rules.md#learning.
        """
        turn: Floats = np.asarray(np.linalg.solve(self.matrix, wanted), dtype=float)
        if here.at_wall:
            return turn
        for share in (1.0, 0.7, 0.5, 0.35, 0.25):
            ends = here.vector + share * (self.possible @ turn)
            if np.hypot(*ends.T).max() <= max(INSIDE, here.out):
                return share * turn
        return 0.25 * turn


def learn(usual: Floats, turns: Sequence[Turned], ways: Ways) -> Response:
    """Return what turns do, ``usual`` being the matrix one would expect before any.

    Every way of being wrong (turned by any angle, mirrored, by another share) is weighed against
    the last turns, younger ones most; the likeliest is then bent to fit them.

    Source: rules.md#learning; least squares with a prior.
    """
    turns = list(turns[-REMEMBERED:])
    known = _weigh(usual, turns[:-1], ways)
    verdict: Verdict = "first"
    taken = known
    if turns:
        taken = _weigh(usual, turns, ways)
        verdict = _verdict(turns, known, taken)
        if verdict == "bump":
            taken = known
    return Response(_bent(taken), taken.possible, verdict)


@dataclass(frozen=True)
class _Trail:
    """What was seen from one anchor on: turns summed up since it, and the place after each.

    An anchor at the wall may lie farther out.
    """

    anchor: Place
    seen: list[tuple[Floats, Place]]


@dataclass(frozen=True)
class _Weighed:
    """Turns weighed: the trails they make, the likeliest matrix and all that are possible."""

    trails: list[_Trail]
    likeliest: Floats
    possible: Floats


SHARES_ODD = 0.5 * (np.log(SHARES) / SHARE_SPREAD) ** 2


def _weigh(usual: Floats, turns: list[Turned], ways: Ways) -> _Weighed:
    """Return the likeliest and the possible matrices after some turns."""
    matrices = SHARES[:, None, None, None] * (ways.matrices @ usual)[None]
    cost = SHARES_ODD[:, None] + ways.odd[None]
    trails = _trails(turns)
    for age, trail in enumerate(reversed(trails)):
        cost = cost + FADING**age * _missed(matrices, trail)
    share = np.argmin(cost, axis=0)
    every = np.arange(len(ways.odd))
    of_way = cost[share, every]
    best = int(np.argmin(of_way))
    possible = matrices[share, every][of_way <= of_way[best] + PLAUSIBLE]
    return _Weighed(trails, matrices[share[best], best], possible)


def _trails(turns: list[Turned]) -> list[_Trail]:
    """Return turns as trails: each ends as soon as something is seen inside the view again."""
    trails: list[_Trail] = []
    last: Place | None = None
    for one in turns:
        if last is None or one.before != last or last.is_inside:
            trails.append(_Trail(one.before, []))
        seen = trails[-1].seen
        seen.append((one.asked + (seen[-1][0] if seen else 0.0), one.after))
        last = one.after
    return [_turned_about(one) for one in trails]


def _turned_about(trail: _Trail) -> _Trail:
    """Return a trail told from where it ended, where only its end was inside the view."""
    whole, end = trail.seen[-1]
    if trail.anchor.is_inside or not end.is_inside:
        return trail
    seen = [(-whole, trail.anchor), *((asked - whole, place) for asked, place in trail.seen[:-1])]
    return _Trail(end, seen)


def _missed(matrices: Floats, trail: _Trail) -> Floats:
    """Return by how much each matrix misses a trail: half the squares of doubts, summed."""
    factors = BEYOND if trail.anchor.at_wall else np.ones(1)
    begun = factors[:, None, None, None] * trail.anchor.vector
    cost = 0.5 * (factors - 1.0)[:, None, None] ** 2 / FAR_OUT**2  # nearer is likelier
    for asked, place in trail.seen:
        moved = matrices @ asked
        ends = begun + moved[None]
        out = _length(ends)
        if place.is_lost:
            gap = np.maximum(0.0, 1.0 - out)
        else:
            if place.at_wall:
                ends = ends / np.maximum(1.0, out)[..., None]
            gap = _length(ends - place.vector)
        cost = cost + 0.5 * np.minimum(gap / _doubt(moved)[None], MOST_MISSED) ** 2
    return np.asarray(np.min(cost, axis=0))


def _length(vectors: Floats) -> Floats:
    """Return the lengths of plane vectors (..., 2)."""
    return np.asarray(np.hypot(vectors[..., 0], vectors[..., 1]))


def _doubt(moved: Floats) -> Floats:
    """Return how far ways (..., 2) may be off: both places as read, the turn as made."""
    return np.asarray(1.4 * READ_NOISE + HANDS_SHARE * _length(moved))


def _bent(weighed: _Weighed) -> Floats:
    """Return the likeliest matrix bent toward what was seen inside the view at both ends."""
    likeliest = weighed.likeliest
    ease = 1 / (0.3 * max(float(np.linalg.norm(likeliest)), 1e-9)) ** 2
    left, right = ease * np.eye(2), ease * likeliest
    for age, trail in enumerate(reversed(weighed.trails)):
        asked, end = trail.seen[-1]
        if trail.anchor.is_inside and end.is_inside:
            moved = end.vector - trail.anchor.vector
            weight = FADING**age / _doubt(moved) ** 2
            left = left + weight * np.outer(asked, asked)
            right = right + weight * np.outer(moved, asked)
    bent = right @ np.linalg.inv(left)
    # what is nearly flat is not believed: no turn would move across it
    return bent if abs(np.linalg.det(bent)) > 0.2 * abs(np.linalg.det(likeliest)) else likeliest


def _verdict(turns: list[Turned], known: _Weighed, taken: _Weighed) -> Verdict:
    """Return what the last turn taught, against what had been believed before it."""
    last, believed = turns[-1], _bent(known)
    foretold = believed @ last.asked
    is_inside = last.before.is_inside and last.after.is_inside
    if last.after.is_lost:
        return "lost"
    if np.hypot(*last.moved) < 1.5 * READ_NOISE and np.hypot(*foretold) > 3 * READ_NOISE:
        return "unmoved"
    errors = [np.hypot(*(one.moved - believed @ one.asked)) / _doubt(one.moved) for one in turns]
    if is_inside and len(turns) > 2 and errors[-1] > BUMP_MISSED and max(errors[-3:-1]) < AGREED:
        return "bump"
    now = taken.likeliest @ last.asked
    share = np.hypot(*now) / max(float(np.hypot(*foretold)), 1e-9)
    along = float(foretold @ now) / max(float(np.hypot(*foretold) * np.hypot(*now)), 1e-9)
    if along < -0.7:
        return "other_way"
    if along < 0.7:
        return "sideways"
    if share > 1.6:
        return "farther"
    return "less" if share < 1 / 1.6 else "as_told"
