"""What powers were really used in which air, as far as enough notes say so."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np

from jade_perch.core.optics.limits import air_limit, seeing_arcsec
from jade_perch.core.optics.viewer import LearnedAir
from jade_perch.core.sky.targets import KINDS, Shape

BRIGHT: tuple[Shape, ...] = ("disc", "pair", "point")  # what high power is meant for
LEAST_NOTES, LEAST_EVENINGS = 10, 3  # fewer say nothing; our choice
USED_PERCENT = 85.0  # of the notes stay at or under what counts as used; one rare try does not
LEAST_OF_RULE, MOST_OF_RULE = 0.7, 1.4  # of what the rule says: notes shift it, no more


class PowerNote(NamedTuple):
    """One note as it tells of powers: telescope by name, kind of target, steadiness, evening."""

    telescope_name: str
    kind: str
    steadiness: int
    magnification: float
    evening_id: int | None


def learned_airs(notes: Sequence[PowerNote], steadiness: int | None) -> Mapping[str, LearnedAir]:
    """Return by a telescope's name what its notes say of air of a steadiness, where enough do.

    Only bright things count: what is faint is never looked at with high power.  An air nobody
    judged teaches nothing.

    Source: rules.md#learned-air.
    """
    if steadiness is None:
        return {}
    by_telescope: dict[str, list[PowerNote]] = {}
    for one in notes:
        traits = KINDS.get(one.kind)
        if one.steadiness == steadiness and traits is not None and traits.shape in BRIGHT:
            by_telescope.setdefault(one.telescope_name, []).append(one)
    ruled = air_limit(seeing_arcsec(steadiness))
    return {
        name: _learned(found, ruled)
        for name, found in by_telescope.items()
        if len(found) >= LEAST_NOTES and len({one.evening_id for one in found}) >= LEAST_EVENINGS
    }


def _learned(notes: Sequence[PowerNote], ruled: float) -> LearnedAir:
    powers = np.array([one.magnification for one in notes])
    used = float(np.percentile(powers, USED_PERCENT, method="lower"))
    return LearnedAir(
        magnification=min(max(used, LEAST_OF_RULE * ruled), MOST_OF_RULE * ruled),
        ruled_magnification=ruled,
        notes=len(notes),
        evenings=len({one.evening_id for one in notes}),
    )
