"""Which glass for which target: where to start and how far to climb, with the reason."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from jade_perch.core.fields import Frozen
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.optics.limits import ROUNDING_MM, SCHOOL_EXIT_PUPIL_MM, School
from jade_perch.core.optics.neighbours import SAME
from jade_perch.core.optics.rungs import Rung
from jade_perch.core.sky.targets import KindTraits

FIELD_ROOM = 1.3  # the field is at least this many times the object; rules.md#choose
CALM_RATIO = 1.25  # in calm moments the air rewards so much more; our estimate


class Climb(Frozen):
    """How far to climb: the rung, what the target then looks like, and why no higher.

    ``is_detail`` where the target does not stand whole in the field with room around it.
    """

    key: str
    label: str
    magnification: float
    fraction_of_field: float
    apparent_arcmin: float
    is_detail: bool
    reason: str


class Glass(Frozen):
    """Where to start for one target and how far to climb.

    ``detail`` is a second climb, for what is looked at whole first and then in parts.
    """

    start_label: str
    start_magnification: float
    top: Climb
    detail: Climb | None


@dataclass(frozen=True, slots=True)
class _Limit:
    """One thing that ends a climb: which rungs it allows, and what is said of the next one."""

    allows: Callable[[Rung], bool]
    words: Callable[[Rung], str]


def choose_glass(
    ladder: Ladder, kind: KindTraits, diameter_arcsec: float, school: School
) -> Glass | None:
    """Return where to start and how far to climb for a round target, or None without rungs.

    A rung is named only if it keeps every limit itself: a field at least 1.3 times the target
    where that is looked at whole, the chosen school's exit pupil, and tonight's air.

    Source: rules.md#choose.
    """
    full = [rung for rung in ladder.rungs if not rung.is_masked]
    if ladder.start is None or not full:
        return None
    start = next(rung for rung in full if rung.key == ladder.start.key)
    school_limit, air_limit = _school_limit(school), _air_limit(ladder)
    limits = [school_limit, air_limit]
    detail = _climb(ladder, full, limits, diameter_arcsec)
    top = detail
    if kind.keeps_whole:
        limits = [school_limit, _whole_limit(diameter_arcsec, kind.title), air_limit]
        top = _climb(ladder, full, limits, diameter_arcsec)
    if top is None:
        top = _widest(full, limits, diameter_arcsec)
    is_more = kind.keeps_whole and detail is not None and detail.key != top.key
    return Glass(
        start_label=start.label,
        start_magnification=start.magnification,
        top=top,
        detail=detail if is_more else None,
    )


def _school_limit(school: School) -> _Limit:
    pupil_mm = SCHOOL_EXIT_PUPIL_MM[school]
    return _Limit(
        lambda rung: rung.exit_pupil_mm >= pupil_mm - ROUNDING_MM,
        lambda rung: f"{rung.magnification:.0f}× would leave an exit pupil under {pupil_mm:g} mm.",
    )


def _air_limit(ladder: Ladder) -> _Limit:
    magnification, learned = ladder.air_magnification, ladder.viewer.learned_air
    if learned is not None:
        said = f"In air like this {learned.notes} of your notes end at {magnification:.0f}×."
        return _Limit(lambda rung: rung.magnification <= magnification * SAME, lambda _: said)
    return _Limit(
        lambda rung: rung.magnification <= magnification * SAME,
        lambda rung: (
            f"Above {magnification:.0f}× tonight's air blurs first."
            + f" In calm moments also {rung.magnification:.0f}×."
            * (rung.magnification <= CALM_RATIO * magnification)
        ),
    )


def _whole_limit(diameter_arcsec: float, title: str) -> _Limit:
    needed_deg = FIELD_ROOM * diameter_arcsec / 3600
    return _Limit(
        lambda rung: rung.true_field_deg >= needed_deg,
        lambda rung: (
            f"At {rung.magnification:.0f}× the whole {title} no longer fits with room around it."
        ),
    )


def _climb(
    ladder: Ladder, full: Sequence[Rung], limits: Sequence[_Limit], diameter_arcsec: float
) -> Climb | None:
    """Return the strongest rung that keeps every limit, or its plainer twin that does so too."""
    fitting = [rung for rung in full if all(limit.allows(rung) for limit in limits)]
    if not fitting:
        return None
    kept = {key: twin.keep for twin in ladder.twins for key in twin.keys}
    strongest = fitting[-1]
    top = next((rung for rung in fitting if rung.key == kept.get(strongest.key)), strongest)
    higher = [rung for rung in full if rung.magnification > strongest.magnification * SAME]
    return _climbed(top, diameter_arcsec, _reason(top, higher, limits, ladder.waiting_words))


def _climbed(top: Rung, diameter_arcsec: float, reason: str) -> Climb:
    share = diameter_arcsec / (top.true_field_deg * 3600)
    return Climb(
        key=top.key,
        label=top.label,
        magnification=top.magnification,
        fraction_of_field=share,
        apparent_arcmin=diameter_arcsec * top.magnification / 60,
        is_detail=share * FIELD_ROOM > 1,
        reason=reason,
    )


def _reason(top: Rung, higher: Sequence[Rung], limits: Sequence[_Limit], waiting: str) -> str:
    """Return what the next rung up would break, or that there is none on this ladder."""
    if not higher:
        more = f" {waiting}" if waiting else ""
        return f"{top.magnification:.0f}× is the strongest on this ladder.{more}"
    return next(limit.words(higher[0]) for limit in limits if not limit.allows(higher[0]))


def _widest(full: Sequence[Rung], limits: Sequence[_Limit], diameter_arcsec: float) -> Climb:
    """Return the widest rung there is, where none keeps every limit, and which it breaks."""
    widest = max(full, key=lambda rung: (rung.true_field_deg, -rung.magnification))
    broken = " ".join(limit.words(widest) for limit in limits if not limit.allows(widest))
    return _climbed(widest, diameter_arcsec, f"Nothing you own keeps every limit. {broken}".strip())
