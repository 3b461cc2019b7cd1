"""The figures of combinations, computed for all of them at once as arrays."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from jade_perch.core.arrays import Floats, Integers, Truths
from jade_perch.core.constants import BARREL_FIELD_STOP_MM
from jade_perch.core.kit import Amplifier, Diagonal, Telescope
from jade_perch.core.optics import powers
from jade_perch.core.optics.combinations import Combination, Setting, worn_diagonal

Diagonals = dict[int | None, Diagonal | None]

UNKNOWN_BARLOW_MM, UNKNOWN_BARLOW_OFF_MM = 67.5, 7.5  # 60 to 75 mm for a short one; rules.md#barlow
UNKNOWN_PATH_OFF_MM = 5.0  # 65 to 75 mm for 1.25 in; rules.md#barlow
FACTOR_OFF = 0.05  # a printed Barlow factor against the measured one; our estimate
BARREL_OFF = 0.03  # inner diameters of barrels differ by about a millimetre; our estimate

T_DIAGONAL, T_EYEPIECE, T_AMPLIFIER = 0.95, 0.95, 0.97  # transmission, estimates of rules.md#barlow


@dataclass(frozen=True, slots=True)
class Figures:
    """What combinations give, arrays of one shape; ``_off`` is a fraction (one standard doubt)."""

    amplification: Floats
    amplification_off: Floats
    aperture_mm: Floats
    obstruction: Floats
    magnification: Floats
    true_field_deg: Floats
    field_off: Floats
    exit_pupil_mm: Floats
    focal_ratio: Floats
    transmission: Floats
    eye_relief_gain_mm: Floats
    inward_mm: Floats


@dataclass(frozen=True, slots=True)
class _Tubes:
    focal_mm: Floats
    aperture_mm: Floats
    mask_mm: Floats
    obstruction: Floats
    masked_obstruction: Floats
    transmission: Floats
    path_mm: Floats


@dataclass(frozen=True, slots=True)
class _Glass:
    focal_mm: Floats
    apparent_deg: Floats
    apparent_off: Floats
    stop_mm: Floats
    barrel_mm: Floats


@dataclass(frozen=True, slots=True)
class _Chains:
    factor: Floats
    next_factor: Floats
    pieces: Floats
    barlow_mm: Floats
    barlow_off: Floats


def compute(combinations: Sequence[Combination], diagonals: Diagonals) -> Figures:
    """Return the figures of a list of combinations; ``diagonals`` by ``diagonal_id``.

    Source: rules.md#barlow; for each formula see ``powers``.
    """
    tubes, tube_at = _numbered([one.telescope for one in combinations])
    glass, glass_at = _numbered([one.setting for one in combinations])
    chains, chain_at = _numbered([one.amplifiers for one in combinations])
    return _figures(
        _tubes(tubes, diagonals),
        _glass(glass),
        _chains(chains),
        (tube_at, glass_at, chain_at),
        np.array([one.placement == "ahead" for one in combinations], dtype=bool),
        np.array([one.is_masked for one in combinations], dtype=bool),
    )


def amplification_of(one: Combination, diagonal: Diagonal | None) -> tuple[float, float]:
    """Return one combination's amplification and its doubt as a fraction.

    A Barlow ahead of a diagonal of light path L gains L over its own focal length; a telecentric
    one keeps its factor wherever it sits; two in a row multiply, about.

    Source: rules.md#barlow; thin-lens equation.
    """
    figures = compute([one], {one.telescope.diagonal_id: diagonal})
    return float(figures.amplification[0]), float(figures.amplification_off[0])


def transmission_of(telescope: Telescope, diagonal: Diagonal | None) -> float:
    """Return the share of light, 0 to 1, that telescope and diagonal let through.

    The obstruction is counted for an unmasked aperture.  Source: estimates of rules.md#brightness
    """
    clear = 1 - (telescope.obstruction_percent / 100) ** 2
    return glass_transmission_of(telescope, diagonal) * clear


def glass_transmission_of(telescope: Telescope, diagonal: Diagonal | None) -> float:
    """Return the same without the obstruction: what glass and mirrors alone let through.

    A measured share is taken to have the obstruction in it.

    Source: estimates of rules.md#brightness.
    """
    share = telescope.design_traits.transmission
    if telescope.transmission_percent is not None:
        clear = 1 - (telescope.obstruction_percent / 100) ** 2
        share = telescope.transmission_percent / 100 / clear
    return share * (T_DIAGONAL if worn_diagonal(telescope, diagonal) is not None else 1.0)


def mask_obstruction(aperture_mm: float, fraction: float, mask_opening_mm: float) -> float:
    """Return the obstruction, as a share of its diameter, that is left in an opening at the side.

    ``fraction`` is the obstruction of the whole aperture, by diameter.  The opening sits at the
    rim; what it cannot avoid of the secondary stays in it.

    Source: rules.md#barlow; two circles overlapping.
    """
    radius, secondary = mask_opening_mm / 2, fraction * aperture_mm / 2
    apart = aperture_mm / 2 - radius
    if secondary <= 0 or apart >= radius + secondary:
        return 0.0
    if apart <= radius - secondary:
        return secondary / radius
    one = np.arccos((apart**2 + radius**2 - secondary**2) / (2 * apart * radius))
    two = np.arccos((apart**2 + secondary**2 - radius**2) / (2 * apart * secondary))
    overlap = radius**2 * (one - np.sin(2 * one) / 2) + secondary**2 * (two - np.sin(2 * two) / 2)
    return float(np.sqrt(overlap / np.pi) / radius)


def _numbered(things: Sequence[Any]) -> tuple[list[Any], Integers]:
    """Return the different things, and for each place the number of its thing."""
    known: dict[object, int] = {}
    different: list[Any] = []
    at = []
    for thing in things:
        # chains are tuples made anew, so a tuple is known by its members
        key = tuple(map(id, thing)) if isinstance(thing, tuple) else id(thing)
        if key not in known:
            known[key] = len(different)
            different.append(thing)
        at.append(known[key])
    return different, np.array(at, dtype=np.intp)


def _columns(rows: Sequence[tuple[float, ...]], count: int) -> Floats:
    return np.array(rows, dtype=float).reshape(len(rows), count).T


def _tubes(telescopes: Sequence[Telescope], diagonals: Diagonals) -> _Tubes:
    rows = []
    for telescope in telescopes:
        diagonal = diagonals.get(telescope.diagonal_id)
        worn = worn_diagonal(telescope, diagonal)
        rows.append(
            (
                telescope.focal_length_mm,
                telescope.aperture_mm,
                telescope.mask_opening_mm or np.nan,
                telescope.obstruction_percent / 100,
                _masked_obstruction(telescope),
                glass_transmission_of(telescope, diagonal),
                np.nan if worn is None else worn.light_path_mm,
            )
        )
    return _Tubes(*_columns(rows, 7))


def _masked_obstruction(telescope: Telescope) -> float:
    if telescope.mask_opening_mm is None:
        return 0.0
    share = telescope.obstruction_percent / 100
    return mask_obstruction(telescope.aperture_mm, share, telescope.mask_opening_mm)


def _glass(settings: Sequence[Setting]) -> _Glass:
    rows = [
        (
            setting.focal_length_mm,
            setting.apparent_field_deg,
            setting.apparent_off,
            (setting.eyepiece.field_stop_mm or np.nan) if setting.number == 0 else np.nan,
            BARREL_FIELD_STOP_MM[setting.eyepiece.barrel_in],
        )
        for setting in settings
    ]
    return _Glass(*_columns(rows, 5))


def _chains(chains: Sequence[tuple[Amplifier, ...]]) -> _Chains:
    return _Chains(*_columns([_chain(chain) for chain in chains], 5))


def _chain(chain: tuple[Amplifier, ...]) -> tuple[float, ...]:
    """Return a chain's numbers; the Barlow's length is NaN for none, infinite for telecentric."""
    if not chain:
        return (1.0, 1.0, 0.0, np.nan, 0.0)
    first = chain[0]
    own_mm = first.focal_length_mm or UNKNOWN_BARLOW_MM
    off = 0.0 if first.focal_length_mm else UNKNOWN_BARLOW_OFF_MM / UNKNOWN_BARLOW_MM
    return (
        first.factor,
        float(np.prod([one.factor for one in chain[1:]])),
        float(len(chain)),
        np.inf if first.kind == "telecentric" else own_mm,
        off,
    )


def _figures(
    tubes: _Tubes,
    glass: _Glass,
    chains: _Chains,
    at: tuple[Integers, Integers, Integers],
    ahead: Truths,
    masked: Truths,
) -> Figures:
    tube, eye, chain = at
    factor, off = _amplification(tubes.path_mm[tube], chains, chain, ahead)
    focal, eyepiece = tubes.focal_mm[tube], glass.focal_mm[eye]
    aperture = np.where(masked, tubes.mask_mm[tube], tubes.aperture_mm[tube])
    power = powers.magnification(focal, eyepiece, factor)
    by_stop = powers.true_field_from_stop_deg(glass.stop_mm[eye], focal, factor)
    by_label = powers.true_field_from_apparent_deg(glass.apparent_deg[eye], power)
    by_barrel = powers.true_field_from_stop_deg(glass.barrel_mm[eye], focal, factor)
    guessed = np.where(by_barrel < by_label, BARREL_OFF, glass.apparent_off[eye])
    pieces = chains.pieces[chain]
    obstruction = np.where(masked, tubes.masked_obstruction[tube], tubes.obstruction[tube])
    through = tubes.transmission[tube] * (1 - obstruction**2) * T_EYEPIECE * T_AMPLIFIER**pieces
    barlow = chains.barlow_mm[chain]
    return Figures(
        amplification=factor,
        amplification_off=off,
        aperture_mm=aperture,
        obstruction=obstruction,
        magnification=power,
        true_field_deg=np.where(np.isnan(by_stop), np.fmin(by_label, by_barrel), by_stop),
        field_off=np.hypot(np.where(np.isnan(by_stop), guessed, 0.0), off),
        exit_pupil_mm=powers.exit_pupil_mm(aperture, power),
        focal_ratio=powers.effective_focal_ratio(focal, aperture, factor),
        transmission=np.broadcast_to(through, power.shape),
        eye_relief_gain_mm=powers.eye_relief_gain_mm(focal, eyepiece, factor, barlow),
        inward_mm=np.where(
            ahead,
            powers.inward_travel_mm(
                chains.factor[chain], barlow, np.where(ahead, tubes.path_mm[tube], 0.0)
            ),
            0.0,
        ),
    )


def _amplification(
    path_mm: Floats, chains: _Chains, chain: Integers, ahead: Truths
) -> tuple[Floats, Floats]:
    """Return amplifications and their doubts; what a Barlow gains ahead of a diagonal is added."""
    own, more = chains.factor[chain], chains.next_factor[chain]
    pieces = chains.pieces[chain]
    gain = np.nan_to_num(path_mm / chains.barlow_mm[chain]) * ahead
    with np.errstate(invalid="ignore"):
        gain_off = gain * np.hypot(chains.barlow_off[chain], UNKNOWN_PATH_OFF_MM / path_mm)
    first_off = np.hypot(FACTOR_OFF * own, np.nan_to_num(gain_off)) / (own + gain)
    first_off = np.where(pieces > 0, first_off, 0.0)
    next_off = FACTOR_OFF * np.sqrt(np.maximum(pieces - 1, 0))
    return (own + gain) * more, np.hypot(first_off, next_off)
