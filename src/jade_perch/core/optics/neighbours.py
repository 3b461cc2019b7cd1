"""Rungs beside each other: twins of which one stays at home, gaps and what would fill them.

Both end where use ends: at the smallest useful exit pupil and at tonight's air.
"""

from collections.abc import Sequence
from itertools import groupby, pairwise

from jade_perch.core.constants import GAP_RATIO, TWIN_RATIO
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Amplifier
from jade_perch.core.optics.limits import ROUNDING_MM, SCHOOL_EXIT_PUPIL_MM
from jade_perch.core.optics.rungs import Rung

SAME = 1 + 1e-9  # rounding between a power and a limit that are the same


class Twins(Frozen):
    """Rungs so close in power that only one of them is worth carrying."""

    keys: list[str]
    keep: str
    words: str


class Gap(Frozen):
    """A step too wide between two useful rungs, and the eyepiece that would stand in its middle."""

    below: str
    above: str
    ratio: float
    words: str


def useful_rungs(rungs: Sequence[Rung], magnification: float) -> list[Rung]:
    """Return the rungs up to a power, tonight's air, that the smallest useful beam still rewards.

    Source: rules.md#ladder.
    """
    least_mm = SCHOOL_EXIT_PUPIL_MM["steady"] - ROUNDING_MM
    return [
        rung
        for rung in rungs
        if rung.exit_pupil_mm >= least_mm and rung.magnification <= magnification * SAME
    ]


def find_twins(rungs: Sequence[Rung]) -> list[Twins]:
    """Return the groups whose powers lie within ``TWIN_RATIO`` of the group's lowest.

    Kept is the one with the fewest pieces of glass, then the longest eye relief where both are
    known.  A mask changes the beam, so masked rungs are twins only of masked ones; the settings
    of one zoom are no twins of each other.

    Source: rules.md#ladder.
    """
    groups: list[list[Rung]] = []
    for is_masked in (False, True):
        open_group: list[Rung] = []
        for rung in (one for one in rungs if one.is_masked is is_masked):
            if open_group and rung.magnification <= TWIN_RATIO * open_group[0].magnification:
                open_group.append(rung)
            else:
                open_group = [rung]
                groups.append(open_group)
    return [_twins(group) for group in groups if len({_glass_of(one) for one in group}) > 1]


def _glass_of(rung: Rung) -> tuple[object, ...]:
    """Return what a rung is made of, whatever a zoom is set to."""
    return rung.eyepiece_id, *rung.amplifier_ids, rung.placement, rung.is_masked


def _twins(group: Sequence[Rung]) -> Twins:
    least = min(len(rung.amplifier_ids) for rung in group)
    plainest = [rung for rung in group if len(rung.amplifier_ids) == least]
    reliefs = [rung.eye_relief_mm for rung in plainest if rung.eye_relief_mm is not None]
    keep, why = plainest[0], "fewer pieces of glass"
    if len(plainest) > 1:
        why = "one of them is enough"
        if len(reliefs) == len(plainest) and max(reliefs) > min(reliefs):
            keep = max(plainest, key=lambda rung: rung.eye_relief_mm or 0.0)
            why = "it leaves the eye more room"
    others = " and ".join(rung.label for rung in group if rung is not keep)
    verb = "gives" if len(group) == 2 else "give"
    words = f"{others} {verb} about the same power as {keep.label}. Use {keep.label}: {why}."
    return Twins(keys=[rung.key for rung in group], keep=keep.key, words=words)


def find_gaps(
    rungs: Sequence[Rung], focal_length_mm: float, amplifiers: Sequence[Amplifier] = ()
) -> list[Gap]:
    """Return every step over ``GAP_RATIO``, widest first, and the eyepiece in mm that halves it.

    ``amplifiers`` are those that fit this telescope; what lies inside a zoom's range is no gap.

    Source: rules.md#ladder.
    """
    full = [rung for rung in rungs if not rung.is_masked]
    spans = zoom_spans(full)
    gaps = [
        _gap(low, high, focal_length_mm, amplifiers)
        for low, high in pairwise(full)
        if high.magnification / low.magnification > GAP_RATIO
        and not any(
            start <= low.magnification * SAME and high.magnification <= end * SAME
            for start, end in spans
        )
    ]
    return sorted(gaps, key=lambda gap: -gap.ratio)


def zoom_spans(rungs: Sequence[Rung]) -> list[tuple[float, float]]:
    """Return the stretches of power that zooms fill without a step, lowest and highest.

    Source: rules.md#ladder.
    """
    spans = []
    for _, group in groupby(sorted(rungs, key=lambda one: str(_glass_of(one))), key=_glass_of):
        powers = [rung.magnification for rung in group]
        if len(powers) > 1:
            spans.append((min(powers), max(powers)))
    return spans


def _gap(low: Rung, high: Rung, focal_length_mm: float, amplifiers: Sequence[Amplifier]) -> Gap:
    middle = (low.magnification * high.magnification) ** 0.5
    fill_mm = focal_length_mm / middle
    ratio = high.magnification / low.magnification
    also = "".join(f", or {fill_mm * one.factor:.0f} mm with {one.name}" for one in amplifiers)
    words = (
        f"From {low.magnification:.0f}× to {high.magnification:.0f}× is a step of {ratio:.1f}. "
        f"First learn the ones you own; about {fill_mm:.0f} mm would stand in the middle{also}."
    )
    return Gap(below=low.key, above=high.key, ratio=ratio, words=words)
