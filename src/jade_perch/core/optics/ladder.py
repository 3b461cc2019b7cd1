"""The ladder of powers: every rung one telescope, eyepiece and amplifier can make together."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

from jade_perch.core.constants import GAP_RATIO, TWIN_RATIO
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Amplifier, Diagonal, Eyepiece, Telescope
from jade_perch.core.optics.audit import Audit, audit_largest_power
from jade_perch.core.optics.combinations import Combination, every_way
from jade_perch.core.optics.limits import BandEdge, Ceiling, band_edges, ceilings
from jade_perch.core.optics.rungs import Rung, rungs_of
from jade_perch.core.optics.table import Figures, compute
from jade_perch.core.optics.viewer import Viewer

LADDERS_KEPT = 12  # a club's telescopes, at one declination each; more only fills memory


class Ways(Frozen):
    """Which ways of putting pieces together stand on the ladder beside the plain ones."""

    ahead: bool = False
    masked: bool = False
    stacked: bool = False


class Twins(Frozen):
    """Rungs so close in power that only one of them is worth carrying."""

    keys: list[str]
    keep: str
    words: str


class Gap(Frozen):
    """A step too wide between two rungs, and the eyepiece that would stand in its middle."""

    below: str
    above: str
    ratio: float
    words: str


class Start(Frozen):
    """The rung to begin every search with, and why."""

    key: str
    words: str


class Misfit(Frozen):
    """What cannot be put together for one reason."""

    labels: list[str]
    reason: str


class Ladder(Frozen):
    """Everything the powers station shows for one telescope."""

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


def build_ladder(
    telescope: Telescope,
    eyepieces: Sequence[Eyepiece],
    amplifiers: Sequence[Amplifier],
    viewer: Viewer,
    diagonal: Diagonal | None = None,
    ways: Ways | None = None,
) -> Ladder:
    """Return the ladder of one telescope, rungs in order of magnification.

    Each eyepiece stands alone and with each amplifier that fits; what does not fit is listed
    with its reason.  The last ladders are kept for the next asker.

    Source: rules.md#ladder.
    """
    case = tuple(eyepieces), tuple(amplifiers)
    return _ladder(telescope, *case, viewer, diagonal, ways or Ways())


@lru_cache(maxsize=LADDERS_KEPT)
def _ladder(
    telescope: Telescope,
    eyepieces: tuple[Eyepiece, ...],
    amplifiers: tuple[Amplifier, ...],
    viewer: Viewer,
    diagonal: Diagonal | None,
    ways: Ways,
) -> Ladder:
    fitted = _fitted(telescope, eyepieces, amplifiers, diagonal, ways)
    rungs = rungs_of(fitted.fitting, fitted.figures, viewer)
    rungs.sort(key=lambda rung: (rung.magnification, len(rung.amplifier_ids), rung.key))
    claim = telescope.printed_power
    return Ladder(
        telescope_id=telescope.id,
        telescope_name=telescope.name,
        viewer=viewer,
        ways=ways,
        amplifiers_on=bool(amplifiers),
        rungs=rungs,
        twins=find_twins(rungs),
        gaps=find_gaps(rungs, telescope.focal_length_mm, amplifiers),
        ceilings=ceilings(telescope.aperture_mm, viewer.steadiness),
        bands=band_edges(viewer.pupil.pupil_mm, telescope.aperture_mm),
        claims=[] if claim is None else [audit_largest_power(telescope, claim)],
        misfits=list(fitted.misfits),
        start=start_rung(rungs, viewer.pupil.pupil_mm),
    )


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


def find_twins(rungs: Sequence[Rung]) -> list[Twins]:
    """Return the groups whose powers lie within ``TWIN_RATIO`` of the group's lowest.

    Kept is the one with the fewest pieces of glass, then the longest eye relief.  A mask changes
    the beam, so masked rungs are twins only of masked ones.

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
    return [_twins(group) for group in groups if len(group) > 1]


def _twins(group: Sequence[Rung]) -> Twins:
    keep = min(group, key=lambda r: (len(r.amplifier_ids), -(r.eye_relief_mm or 0.0)))
    others = " and ".join(rung.label for rung in group if rung is not keep)
    verb = "gives" if len(group) == 2 else "give"
    same_glass = all(len(r.amplifier_ids) == len(keep.amplifier_ids) for r in group)
    why = "fewer pieces of glass"
    if same_glass:
        why = "it leaves the eye more room" if keep.eye_relief_mm else "one of them is enough"
    words = f"{others} {verb} about the same power as {keep.label}. Use {keep.label}: {why}."
    return Twins(keys=[rung.key for rung in group], keep=keep.key, words=words)


def find_gaps(
    rungs: Sequence[Rung], focal_length_mm: float, amplifiers: Sequence[Amplifier] = ()
) -> list[Gap]:
    """Return every step over ``GAP_RATIO``, widest first, and the eyepiece in mm that halves it.

    Source: rules.md#ladder.
    """
    full = [rung for rung in rungs if not rung.is_masked]
    gaps = [
        _gap(low, high, focal_length_mm, amplifiers)
        for low, high in pairwise(full)
        if high.magnification / low.magnification > GAP_RATIO
    ]
    return sorted(gaps, key=lambda gap: -gap.ratio)


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
