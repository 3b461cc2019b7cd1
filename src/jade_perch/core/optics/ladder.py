"""The ladder of powers: every rung one telescope, eyepiece and amplifier can make together."""

from collections.abc import Iterable, Sequence
from itertools import pairwise

import numpy as np

from jade_perch.core.constants import (
    BARREL_FIELD_STOP_MM,
    BARREL_INCHES,
    GAP_RATIO,
    TWIN_RATIO,
)
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Amplifier, Eyepiece, Telescope
from jade_perch.core.optics import powers
from jade_perch.core.optics.limits import (
    ROUNDING_MM,
    SCHOOL_EXIT_PUPIL_MM,
    Band,
    BandEdge,
    Ceiling,
    EyePupil,
    School,
    band_edges,
    band_of,
    ceilings,
)

Pieces = tuple[Eyepiece, Amplifier | None]


class Rung(Frozen):
    """One combination and its figures; ``key`` names it inside one telescope's ladder."""

    key: str
    label: str
    eyepiece_id: int | None
    amplifier_id: int | None
    magnification: float
    true_field_deg: float
    field_is_about: bool
    exit_pupil_mm: float
    focal_ratio: float
    drift_s: float
    eye_relief_mm: float | None
    band: Band
    passes: dict[School, bool]
    verdict: str


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
    fill_focal_length_mm: float
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
    eye_pupil: EyePupil
    rungs: list[Rung]
    twins: list[Twins]
    gaps: list[Gap]
    ceilings: list[Ceiling]
    bands: list[BandEdge]
    misfits: list[Misfit]
    start: Start | None


def build_ladder(
    telescope: Telescope,
    eyepieces: Sequence[Eyepiece],
    amplifiers: Sequence[Amplifier],
    pupil: EyePupil,
    steadiness: int,
) -> Ladder:
    """Return the ladder of one telescope, rungs in order of magnification.

    Each eyepiece stands alone and with each amplifier that fits; what does not fit is listed
    with its reason.  ``steadiness`` runs from 1 to 5.

    Source: handbook of the work, section 2.
    """
    fitting: list[Pieces] = []
    misfits: list[tuple[str, str]] = []
    for eyepiece in eyepieces:
        for amplifier in (None, *amplifiers):
            reason = why_not(telescope, eyepiece, amplifier)
            if reason is None:
                fitting.append((eyepiece, amplifier))
            else:
                misfits.append((reason, combination_label(eyepiece, amplifier)))
    rungs = make_rungs(telescope, fitting, pupil.pupil_mm)
    rungs.sort(key=lambda rung: (rung.magnification, rung.amplifier_id is not None, rung.key))
    return Ladder(
        telescope_id=telescope.id,
        telescope_name=telescope.name,
        eye_pupil=pupil,
        rungs=rungs,
        twins=find_twins(rungs),
        gaps=find_gaps(rungs, telescope.focal_length_mm),
        ceilings=ceilings(telescope.aperture_mm, steadiness),
        bands=band_edges(pupil.pupil_mm, telescope.aperture_mm),
        misfits=_by_reason(misfits),
        start=start_rung(rungs, pupil.pupil_mm),
    )


def _by_reason(misfits: Iterable[tuple[str, str]]) -> list[Misfit]:
    """Gather what is refused for the same reason, in order of first appearance."""
    gathered: dict[str, list[str]] = {}
    for reason, label in misfits:
        gathered.setdefault(reason, []).append(label)
    return [Misfit(labels=labels, reason=reason) for reason, labels in gathered.items()]


def why_not(telescope: Telescope, eyepiece: Eyepiece, amplifier: Amplifier | None) -> str | None:
    """Return why the pieces cannot be joined, or None when they can.

    A smaller barrel fits a bigger one by an adapter, never the other way round.
    """
    chain = [(f"the focuser of {telescope.name}", telescope.focuser_barrel_in)]
    if amplifier is not None:
        chain.append((amplifier.name, amplifier.barrel_in))
    chain.append((eyepiece.name, eyepiece.barrel_in))
    for (holder, opening), (piece, barrel) in pairwise(chain):
        if BARREL_INCHES[barrel] > BARREL_INCHES[opening]:
            return f"{piece} has a {barrel} in barrel; {holder} takes up to {opening} in."
    return None


def combination_label(eyepiece: Eyepiece, amplifier: Amplifier | None) -> str:
    """Return the short name of a combination, such as ``18 mm + 1.8×``."""
    alone = f"{eyepiece.focal_length_mm:g} mm"
    return alone if amplifier is None else f"{alone} + {amplifier.factor:g}×"


def make_rungs(telescope: Telescope, pieces: Sequence[Pieces], eye_pupil_mm: float) -> list[Rung]:
    """Return the figures of many combinations at once, with verdicts for an eye pupil in mm.

    The true field comes from the field stop; without one from the apparent field, capped by
    what the barrel lets through.
    """
    focal_mm = telescope.focal_length_mm
    factor = np.array([1.0 if a is None else a.factor for _, a in pieces])
    power = powers.magnification(focal_mm, [e.focal_length_mm for e, _ in pieces], factor)
    stop_mm = np.array([e.field_stop_mm or np.nan for e, _ in pieces])
    barrel_mm = [BARREL_FIELD_STOP_MM[e.barrel_in] for e, _ in pieces]
    about_deg = np.fmin(
        powers.true_field_from_apparent_deg([e.apparent_field_deg for e, _ in pieces], power),
        powers.true_field_from_stop_deg(barrel_mm, focal_mm, factor),
    )
    exact_deg = powers.true_field_from_stop_deg(stop_mm, focal_mm, factor)
    field_deg = np.where(np.isnan(exact_deg), about_deg, exact_deg)
    figures = np.column_stack(
        [
            power,
            field_deg,
            powers.exit_pupil_mm(telescope.aperture_mm, power),
            powers.effective_focal_ratio(focal_mm, telescope.aperture_mm, factor),
            powers.drift_time_s(field_deg),
        ]
    ).tolist()
    return [
        _rung(telescope, eyepiece, amplifier, row, eye_pupil_mm)
        for (eyepiece, amplifier), row in zip(pieces, figures, strict=True)
    ]


def _rung(
    telescope: Telescope,
    eyepiece: Eyepiece,
    amplifier: Amplifier | None,
    figures: list[float],
    eye_pupil_mm: float,
) -> Rung:
    power, field_deg, pupil_mm, focal_ratio, drift_s = figures
    amplifier_id = None if amplifier is None else amplifier.id
    return Rung(
        key=rung_key(eyepiece.id, amplifier_id),
        label=combination_label(eyepiece, amplifier),
        eyepiece_id=eyepiece.id,
        amplifier_id=amplifier_id,
        magnification=power,
        true_field_deg=field_deg,
        field_is_about=eyepiece.field_stop_mm is None,
        exit_pupil_mm=pupil_mm,
        focal_ratio=focal_ratio,
        drift_s=drift_s,
        eye_relief_mm=eyepiece.eye_relief_mm if amplifier is None else None,
        band=band_of(pupil_mm, eye_pupil_mm),
        passes={
            school: pupil_mm >= least - ROUNDING_MM
            for school, least in SCHOOL_EXIT_PUPIL_MM.items()
        },
        verdict=_verdict(telescope, power, pupil_mm, eye_pupil_mm),
    )


def rung_key(eyepiece_id: int | None, amplifier_id: int | None) -> str:
    """Return the name of a rung, such as ``e3`` or ``e3+a1``."""
    return f"e{eyepiece_id}" if amplifier_id is None else f"e{eyepiece_id}+a{amplifier_id}"


def _verdict(telescope: Telescope, power: float, pupil_mm: float, eye_pupil_mm: float) -> str:
    if pupil_mm > eye_pupil_mm:
        used_mm = power * eye_pupil_mm
        return (
            f"The beam of {pupil_mm:.1f} mm is wider than the eye's {eye_pupil_mm:.1f} mm: "
            f"it works like {used_mm:.0f} mm of aperture."
        )
    shadow_mm = telescope.obstruction_percent / 100 * pupil_mm
    if pupil_mm >= SCHOOL_EXIT_PUPIL_MM["detail"] - ROUNDING_MM:
        by_day = shadow_mm > 1.0
        return "By day the secondary's shadow may show." if by_day else "Sharp and easy to hold."
    if pupil_mm >= SCHOOL_EXIT_PUPIL_MM["comfort"] - ROUNDING_MM:
        return "All detail is already there at lower power; this shows it larger."
    if pupil_mm >= SCHOOL_EXIT_PUPIL_MM["steady"] - ROUNDING_MM:
        return "For planets and double stars on a steady night."
    return "Larger and dimmer, nothing new: beyond what the aperture gives."


def find_twins(rungs: Sequence[Rung]) -> list[Twins]:
    """Return the groups whose powers lie within 8 % of the group's lowest.

    Kept is the one with the fewest pieces of glass, then the longest eye relief.
    """
    groups: list[list[Rung]] = []
    for rung in rungs:
        if groups and rung.magnification <= TWIN_RATIO * groups[-1][0].magnification:
            groups[-1].append(rung)
        else:
            groups.append([rung])
    return [_twins(group) for group in groups if len(group) > 1]


def _twins(group: Sequence[Rung]) -> Twins:
    keep = min(group, key=lambda r: (r.amplifier_id is not None, -(r.eye_relief_mm or 0.0)))
    others = " and ".join(rung.label for rung in group if rung is not keep)
    verb = "gives" if len(group) == 2 else "give"
    why = "fewer pieces of glass" if keep.amplifier_id is None else "one of them is enough"
    if all(rung.amplifier_id is None for rung in group):
        why = "it leaves the eye more room" if keep.eye_relief_mm else "one of them is enough"
    words = f"{others} {verb} about the same power as {keep.label}. Use {keep.label}: {why}."
    return Twins(keys=[rung.key for rung in group], keep=keep.key, words=words)


def find_gaps(rungs: Sequence[Rung], focal_length_mm: float) -> list[Gap]:
    """Return every step over 1.8×, widest first, with the eyepiece in mm that would halve it."""
    gaps = [
        _gap(low, high, focal_length_mm)
        for low, high in pairwise(rungs)
        if high.magnification / low.magnification > GAP_RATIO
    ]
    return sorted(gaps, key=lambda gap: -gap.ratio)


def _gap(low: Rung, high: Rung, focal_length_mm: float) -> Gap:
    middle = (low.magnification * high.magnification) ** 0.5
    fill_mm = focal_length_mm / middle
    ratio = high.magnification / low.magnification
    words = (
        f"From {low.magnification:.0f}× to {high.magnification:.0f}× is a step of {ratio:.1f}. "
        f"First learn the ones you own; about {fill_mm:.0f} mm would stand in the middle."
    )
    return Gap(
        below=low.key, above=high.key, ratio=ratio, fill_focal_length_mm=fill_mm, words=words
    )


def start_rung(rungs: Iterable[Rung], eye_pupil_mm: float) -> Start | None:
    """Return the rung with the widest true field, the plainest one where several share it."""
    best = max(
        rungs,
        key=lambda r: (round(r.true_field_deg, 6), r.amplifier_id is None, -r.magnification),
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
