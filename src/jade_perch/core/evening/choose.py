"""Which glass for which target: where to start and how far to climb, with the reason."""

from collections.abc import Sequence
from dataclasses import dataclass

from jade_perch.core.fields import Frozen
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.optics.limits import SCHOOL_EXIT_PUPIL_MM, School
from jade_perch.core.optics.rungs import Rung
from jade_perch.core.sky.targets import KindTraits

FIELD_ROOM = 1.3  # the field is at least this many times the object; rules.md#choose


class Glass(Frozen):
    """The start and top rung for one target; ``None`` where the ladder is empty."""

    start_label: str
    start_magnification: float
    top_key: str
    top_label: str
    top_magnification: float
    top_fraction_of_field: float
    top_apparent_arcmin: float
    reason: str


@dataclass(frozen=True)
class _Limit:
    magnification: float
    words: str


def choose_glass(
    ladder: Ladder, kind: KindTraits, diameter_arcsec: float, school: School
) -> Glass | None:
    """Return where to start and how far to climb for a round target, or None without rungs.

    The top rung is the strongest whose field is at least 1.3 times the target, whose exit pupil
    satisfies the chosen school, and which tonight's air still rewards.

    Source: rules.md#choose.
    """
    if ladder.start is None:
        return None
    by_key = {rung.key: rung for rung in ladder.rungs}
    start = by_key[ladder.start.key]
    limits = _limits(ladder, diameter_arcsec, kind, school)
    lowest = min(limits, key=lambda limit: limit.magnification)
    full = [r for r in ladder.rungs if not r.is_masked]
    fitting = [r for r in full if r.magnification <= lowest.magnification * (1 + 1e-9)]
    top = _plainest(ladder, fitting) if fitting else start
    return Glass(
        start_label=start.label,
        start_magnification=start.magnification,
        top_key=top.key,
        top_label=top.label,
        top_magnification=top.magnification,
        top_fraction_of_field=_share(diameter_arcsec, top),
        top_apparent_arcmin=diameter_arcsec * top.magnification / 60,
        reason=_reason(top, ladder.rungs, lowest, has_fitting=bool(fitting)),
    )


def _plainest(ladder: Ladder, fitting: Sequence[Rung]) -> Rung:
    """Return the strongest fitting rung, or its twin if that is the one worth carrying."""
    top = fitting[-1]
    kept = {key: twin.keep for twin in ladder.twins for key in twin.keys}
    return next((rung for rung in fitting if rung.key == kept.get(top.key)), top)


def _limits(
    ladder: Ladder, diameter_arcsec: float, kind: KindTraits, school: School
) -> list[_Limit]:
    ceiling = {one.name: one.magnification for one in ladder.ceilings}
    pupil = SCHOOL_EXIT_PUPIL_MM[school]
    limits = [
        _Limit(ceiling["air"], "tonight's air blurs first"),
        _Limit(ceiling[school], f"the exit pupil falls under {pupil:g} mm"),
    ]
    if kind.keeps_whole:
        limits.append(_whole_in_field(ladder.rungs, diameter_arcsec, kind.title))
    return limits


def _whole_in_field(rungs: Sequence[Rung], diameter_arcsec: float, title: str) -> _Limit:
    needed_deg = FIELD_ROOM * diameter_arcsec / 3600
    showing = [rung.magnification for rung in rungs if rung.true_field_deg >= needed_deg]
    words = f"the whole {title} no longer fits with room around it"
    return _Limit(max(showing, default=0.0), words)


def _share(diameter_arcsec: float, rung: Rung) -> float:
    return diameter_arcsec / (rung.true_field_deg * 3600)


def _reason(top: Rung, rungs: Sequence[Rung], lowest: _Limit, *, has_fitting: bool) -> str:
    if not has_fitting:
        return f"Even your lowest power is above {lowest.magnification:.0f}×: {lowest.words}."
    if rungs[-1].magnification <= lowest.magnification:
        return f"{top.magnification:.0f}× is the strongest you own."
    return f"Above {max(lowest.magnification, top.magnification):.0f}× {lowest.words}."
