"""The ladder of powers: every rung one telescope, eyepiece and amplifier can make together."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache

from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Amplifier, Diagonal, Eyepiece, Telescope
from jade_perch.core.optics.audit import Audit, audit_largest_power
from jade_perch.core.optics.combinations import Combination, every_way, fit_together
from jade_perch.core.optics.limits import BandEdge, Ceiling, band_edges, ceilings
from jade_perch.core.optics.neighbours import Gap, Twins, find_gaps, find_twins, useful_rungs
from jade_perch.core.optics.rungs import Rung, rungs_of
from jade_perch.core.optics.table import Figures, compute
from jade_perch.core.optics.viewer import LearnedAir, Viewer

LADDERS_KEPT = 12  # a club's telescopes, at one declination each; more only fills memory


class Ways(Frozen):
    """Which ways of putting pieces together stand on the ladder beside the plain ones."""

    ahead: bool = False
    masked: bool = False
    stacked: bool = False


class Start(Frozen):
    """The rung to begin every search with, and why."""

    key: str
    words: str


class Misfit(Frozen):
    """What cannot be put together for one reason."""

    labels: list[str]
    reason: str


class Ladder(Frozen):
    """Everything the powers station shows for one telescope.

    ``waiting_words`` name the amplifiers that are owned and left in the box; empty for none.
    """

    telescope_id: int | None
    telescope_name: str
    viewer: Viewer
    ways: Ways
    amplifiers_on: bool
    rungs: list[Rung]
    twins: list[Twins]
    gaps: list[Gap]
    ceilings: list[Ceiling]
    bands: list[BandEdge]
    claims: list[Audit]
    misfits: list[Misfit]
    start: Start | None
    waiting_words: str

    @property
    def air_magnification(self) -> float:
        """The power above which tonight's air shows nothing new.  Source: rules.md#air."""
        return air_ceiling(self.ceilings)


def build_ladder(
    telescope: Telescope,
    eyepieces: Sequence[Eyepiece],
    amplifiers: Sequence[Amplifier],
    viewer: Viewer,
    diagonal: Diagonal | None = None,
    ways: Ways | None = None,
    waiting: Sequence[Amplifier] = (),
) -> Ladder:
    """Return the ladder of one telescope, rungs in order of magnification.

    Each eyepiece stands alone and with each amplifier that fits; what does not fit is listed
    with its reason.  ``waiting`` are amplifiers that are owned and left in the box.  The last
    ladders are kept for the next asker.

    Source: rules.md#ladder.
    """
    case = tuple(eyepieces), tuple(amplifiers)
    return _ladder(telescope, *case, viewer, diagonal, ways or Ways(), tuple(waiting))


@lru_cache(maxsize=LADDERS_KEPT)
def _ladder(
    telescope: Telescope,
    eyepieces: tuple[Eyepiece, ...],
    amplifiers: tuple[Amplifier, ...],
    viewer: Viewer,
    diagonal: Diagonal | None,
    ways: Ways,
    waiting: tuple[Amplifier, ...],
) -> Ladder:
    fitted = _fitted(telescope, eyepieces, amplifiers, diagonal, ways)
    rungs = rungs_of(fitted.fitting, fitted.figures, viewer)
    rungs.sort(key=lambda rung: (rung.magnification, len(rung.amplifier_ids), rung.key))
    claim = telescope.printed_power
    learned = viewer.learned_air
    over = ceilings(
        telescope.aperture_mm,
        viewer.steadiness,
        air_is_told=viewer.air_is_told,
        learned_magnification=None if learned is None else learned.magnification,
        learned_words="" if learned is None else learned_words(learned),
    )
    useful = useful_rungs(rungs, air_ceiling(over))
    fitting = {number for rung in rungs for number in rung.amplifier_ids}
    return Ladder(
        telescope_id=telescope.id,
        telescope_name=telescope.name,
        viewer=viewer,
        ways=ways,
        amplifiers_on=bool(amplifiers),
        rungs=rungs,
        twins=find_twins(useful),
        gaps=find_gaps(
            useful, telescope.focal_length_mm, [one for one in amplifiers if one.id in fitting]
        ),
        ceilings=over,
        bands=band_edges(viewer.pupil.pupil_mm, telescope.aperture_mm),
        claims=[] if claim is None else [audit_largest_power(telescope, claim)],
        misfits=list(fitted.misfits),
        start=start_rung(rungs, viewer.pupil.pupil_mm),
        waiting_words=_waiting_words(telescope, eyepieces, waiting, diagonal),
    )


def learned_words(learned: LearnedAir) -> str:
    """Return what is said of air the notes have taught about.  Source: rules.md#learned-air."""
    return (
        f"; {learned.notes} of your notes in such air end at {learned.magnification:.0f}×,"
        f" the rule alone says {learned.ruled_magnification:.0f}×"
    )


def air_ceiling(over: Iterable[Ceiling]) -> float:
    """Return the power above which tonight's air shows nothing new.  Source: rules.md#air."""
    return next(one.magnification for one in over if one.name == "air")


def _waiting_words(
    telescope: Telescope,
    eyepieces: Sequence[Eyepiece],
    waiting: Sequence[Amplifier],
    diagonal: Diagonal | None,
) -> str:
    """Return which amplifiers wait in the box: those that would fit an eyepiece here."""
    fits = [
        one.name
        for one in waiting
        if any(not fit_together(telescope, glass, (one,), diagonal).why_not for glass in eyepieces)
    ]
    if not fits:
        return ""
    verb = "waits" if len(fits) == 1 else "wait"
    return f"{' and '.join(fits)} {verb} in the box: first learn these rungs without."


@dataclass(frozen=True, slots=True)
class _Fitted:
    """What a case makes with one telescope, whoever looks: what fits, and what does not."""

    fitting: tuple[Combination, ...]
    figures: Figures
    misfits: tuple[Misfit, ...]


@lru_cache(maxsize=LADDERS_KEPT)
def _fitted(
    telescope: Telescope,
    eyepieces: tuple[Eyepiece, ...],
    amplifiers: tuple[Amplifier, ...],
    diagonal: Diagonal | None,
    ways: Ways,
) -> _Fitted:
    found = list(every_way(telescope, eyepieces, amplifiers, diagonal, **ways.model_dump()))
    fitting = tuple(one for one, reason in found if reason is None)
    misfits = _by_reason((reason, one.label) for one, reason in found if reason is not None)
    figures = compute(fitting, {telescope.diagonal_id: diagonal})
    return _Fitted(fitting, figures, tuple(misfits))


def _by_reason(misfits: Iterable[tuple[str, str]]) -> list[Misfit]:
    """Gather what is refused for the same reason, in order of first appearance."""
    gathered: dict[str, list[str]] = {}
    for reason, label in misfits:
        gathered.setdefault(reason, []).append(label)
    return [Misfit(labels=labels, reason=reason) for reason, labels in gathered.items()]


def start_rung(rungs: Iterable[Rung], eye_pupil_mm: float) -> Start | None:
    """Return the rung with the widest true field, the plainest one where several share it.

    Source: rules.md#ladder.
    """
    best = max(
        (rung for rung in rungs if not rung.is_masked),
        key=lambda r: (round(r.true_field_deg, 6), -len(r.amplifier_ids), -r.magnification),
        default=None,
    )
    if best is None:
        return None
    about = "about " if best.field_is_about else ""
    words = (
        f"{best.label}, {best.magnification:.0f}×. The widest field you own, "
        f"{about}{best.true_field_deg:.1f}°: easiest to find things in."
    )
    if best.exit_pupil_mm > eye_pupil_mm:
        words += " Some light misses the eye; for finding that does no harm."
    return Start(key=best.key, words=words)
