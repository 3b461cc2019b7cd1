"""Every way to put the glass together, and its figures, computed for all of them at once."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations_with_replacement, pairwise, product
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from jade_perch.core.constants import BARREL_FIELD_STOP_MM, BARREL_INCHES
from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Amplifier, Diagonal, Eyepiece, Telescope
from jade_perch.core.optics import powers

Floats = NDArray[np.float64]
Placement = Literal["after", "ahead"]

UNKNOWN_BARLOW_MM, UNKNOWN_BARLOW_OFF_MM = 67.5, 7.5  # 60 to 75 mm for a short one; handbook 2
UNKNOWN_PATH_MM = {"0.965": 60.0, "1.25": 70.0, "2": 110.0}  # usual star diagonals; handbook 2
UNKNOWN_PATH_OFF_MM = 5.0  # 65 to 75 mm for 1.25 in; handbook 2
FACTOR_OFF = 0.05  # a printed Barlow factor against the measured one; our estimate
APPARENT_OFF = 0.05  # apparent field over power, for edge distortion; our estimate
BARREL_OFF = 0.03  # inner diameters of barrels differ by about a millimetre; our estimate

T_LENS, T_MIRROR_PAIR = 0.95, 0.80  # transmission, estimates of handbook section 2
T_DIAGONAL, T_EYEPIECE, T_AMPLIFIER = 0.95, 0.95, 0.97  # the same


@dataclass(frozen=True, slots=True)
class Setting:
    """An eyepiece at one focal length; a zoom has several settings, everything else one."""

    eyepiece: Eyepiece
    focal_length_mm: float
    apparent_field_deg: float
    number: int = 0

    @property
    def label(self) -> str:
        """Short name: the focal length, and for a zoom that it is one."""
        zoom = "" if self.eyepiece.zoom_to_focal_length_mm is None else " zoom"
        return f"{self.focal_length_mm:.3g} mm{zoom}"


@dataclass(frozen=True, slots=True)
class Combination:
    """One way to put the pieces together; amplifiers are counted from the telescope outwards."""

    telescope: Telescope
    setting: Setting
    amplifiers: tuple[Amplifier, ...] = ()
    placement: Placement = "after"
    is_masked: bool = False

    @property
    def key(self) -> str:
        """Name inside one telescope's ladder, such as ``e3+a1``, ``e3+a1!`` (ahead), ``e3#``."""
        zoom = f".{self.setting.number}" if self.setting.number else ""
        glass = "".join(f"+a{amplifier.id}" for amplifier in self.amplifiers)
        ahead = "!" if self.placement == "ahead" else ""
        return f"e{self.setting.eyepiece.id}{zoom}{glass}{ahead}{'#' if self.is_masked else ''}"

    @property
    def label(self) -> str:
        """Short name such as ``18 mm + 1.8×``, with where it differs from the plain way."""
        parts = [self.setting.label, *(f"{a.factor:g}×" for a in self.amplifiers)]
        ahead = " ahead" if self.placement == "ahead" else ""
        return " + ".join(parts) + ahead + (", mask" if self.is_masked else "")


@dataclass(frozen=True, slots=True)
class Figures:
    """What combinations give, one entry each; ``_off`` is a fraction (one standard doubt)."""

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


def settings_of(eyepiece: Eyepiece) -> list[Setting]:
    """Return the focal lengths an eyepiece can stand at: one, or long end, middle, short end."""
    long = Setting(eyepiece, eyepiece.focal_length_mm, eyepiece.apparent_field_deg)
    short_mm = eyepiece.zoom_to_focal_length_mm
    short_deg = eyepiece.zoom_to_apparent_field_deg
    if short_mm is None or short_deg is None:
        return [long]
    middle_mm = (long.focal_length_mm * short_mm) ** 0.5
    share = (long.focal_length_mm - middle_mm) / (long.focal_length_mm - short_mm)
    middle_deg = long.apparent_field_deg + share * (short_deg - long.apparent_field_deg)
    return [
        long,
        Setting(eyepiece, middle_mm, middle_deg, 1),
        Setting(eyepiece, short_mm, short_deg, 2),
    ]


def why_not(
    telescope: Telescope,
    eyepiece: Eyepiece,
    amplifiers: Sequence[Amplifier] = (),
    diagonal: Diagonal | None = None,
) -> str | None:
    """Return why the pieces cannot be joined, or None when they can.

    A smaller barrel fits a bigger one by an adapter, never the other way round.
    """
    chain = [(f"the focuser of {telescope.name}", telescope.focuser_barrel_in)]
    if diagonal is not None and BARREL_INCHES[diagonal.barrel_in] <= BARREL_INCHES[chain[0][1]]:
        chain.append((diagonal.name, diagonal.barrel_in))
    chain.extend((amplifier.name, amplifier.barrel_in) for amplifier in amplifiers)
    chain.append((eyepiece.name, eyepiece.barrel_in))
    for (holder, opening), (piece, barrel) in pairwise(chain):
        if BARREL_INCHES[barrel] > BARREL_INCHES[opening]:
            return f"{piece} has a {barrel} in barrel; {holder} takes up to {opening} in."
    return None


def every_way(
    telescope: Telescope,
    eyepieces: Sequence[Eyepiece],
    amplifiers: Sequence[Amplifier],
    diagonal: Diagonal | None,
    *,
    ahead: bool = False,
    masked: bool = False,
    stacked: bool = False,
) -> Iterator[tuple[Combination, str | None]]:
    """Yield every combination with the reason why it cannot be joined, or None.

    ``ahead`` adds Barlows ahead of the diagonal, ``masked`` the small cap opening, ``stacked``
    two amplifiers in a row.
    """
    chains: list[tuple[Amplifier, ...]] = [(), *((one,) for one in amplifiers)]
    if stacked:
        pairs = combinations_with_replacement(amplifiers, 2)
        chains.extend((a, b) for a, b in pairs if a is not b)
    masks = (False, True) if masked and telescope.mask_opening_mm is not None else (False,)
    for eyepiece, chain in product(eyepieces, chains):
        reason = why_not(telescope, eyepiece, chain, diagonal)
        placements: tuple[Placement, ...] = ("after",)
        if ahead and diagonal is not None and chain and chain[0].kind == "barlow":
            placements = ("after", "ahead")
        for setting, placement, mask in product(settings_of(eyepiece), placements, masks):
            yield Combination(telescope, setting, chain, placement, mask), reason


def amplification_of(combination: Combination, diagonal: Diagonal | None) -> tuple[float, float]:
    """Return the amplification and its doubt as a fraction.

    A Barlow ahead of a diagonal of light path L gains L over its own focal length; a telecentric
    one keeps its factor wherever it sits; two in a row multiply, about.

    Source: handbook of the work, section 2; thin-lens equation.
    """
    total, doubt = 1.0, 0.0
    for number, amplifier in enumerate(combination.amplifiers):
        factor, off = amplifier.factor, FACTOR_OFF
        if combination.placement == "ahead" and number == 0 and diagonal is not None:
            gain, gain_off = _gain_ahead(amplifier, diagonal)
            off = float(np.hypot(off * factor, gain_off) / (factor + gain))
            factor += gain
        total, doubt = total * factor, float(np.hypot(doubt, off))
    return total, doubt


def _gain_ahead(amplifier: Amplifier, diagonal: Diagonal) -> tuple[float, float]:
    if amplifier.kind == "telecentric":
        return 0.0, 0.0
    known = amplifier.focal_length_mm
    focal_mm = UNKNOWN_BARLOW_MM if known is None else known
    focal_off = 0.0 if known is not None else UNKNOWN_BARLOW_OFF_MM / UNKNOWN_BARLOW_MM
    gain = diagonal.light_path_mm / focal_mm
    return gain, float(gain * np.hypot(focal_off, UNKNOWN_PATH_OFF_MM / diagonal.light_path_mm))


def transmission_of(telescope: Telescope, diagonal: Diagonal | None) -> float:
    """Return the share of light, 0 to 1, that telescope and diagonal let through.

    The obstruction is counted for an unmasked aperture.  Source: estimates of handbook 2.
    """
    base = telescope.transmission_percent
    own = (T_LENS if telescope.design == "refractor" else T_MIRROR_PAIR) if base is None else 0.0
    share = own if base is None else base / 100
    if base is None and telescope.design != "refractor":
        share *= 1 - (telescope.obstruction_percent / 100) ** 2
    return share * (T_DIAGONAL if diagonal is not None else 1.0)


def compute(
    combinations: Sequence[Combination], diagonals: dict[int | None, Diagonal | None]
) -> Figures:
    """Return the figures of many combinations; ``diagonals`` by the telescope's ``diagonal_id``.

    Source: handbook of the work, section 2; for each formula see ``powers``.
    """
    parts = [_numbers(one, diagonals.get(one.telescope.diagonal_id)) for one in combinations]
    columns = np.array(parts, dtype=float).reshape(len(parts), _COLUMNS).T
    return _figures(columns)


_COLUMNS = 11


def _numbers(one: Combination, diagonal: Diagonal | None) -> tuple[float, ...]:
    telescope, setting = one.telescope, one.setting
    amplification, off = amplification_of(one, diagonal)
    masked = one.is_masked and telescope.mask_opening_mm is not None
    stop = setting.eyepiece.field_stop_mm
    is_fixed = stop is not None and setting.number == 0
    first = one.amplifiers[0] if one.amplifiers else None
    return (
        telescope.focal_length_mm,
        float(telescope.mask_opening_mm or 0) if masked else telescope.aperture_mm,
        0.0 if masked else telescope.obstruction_percent / 100,
        setting.focal_length_mm,
        setting.apparent_field_deg,
        float(stop) if stop is not None and is_fixed else np.nan,
        BARREL_FIELD_STOP_MM[setting.eyepiece.barrel_in],
        amplification,
        off,
        transmission_of(telescope, diagonal) * T_EYEPIECE * T_AMPLIFIER ** len(one.amplifiers),
        _barlow_mm(first),
    )


def _barlow_mm(amplifier: Amplifier | None) -> float:
    """Return the Barlow's focal length in mm, infinite for a telecentric one, NaN for none."""
    if amplifier is None:
        return np.nan
    if amplifier.kind == "telecentric":
        return np.inf
    return amplifier.focal_length_mm or UNKNOWN_BARLOW_MM


def _figures(columns: Floats) -> Figures:
    focal, aperture, blocked, eyepiece, apparent, stop, barrel, factor, off, through, barlow = (
        columns
    )
    power = powers.magnification(focal, eyepiece, factor)
    by_stop = powers.true_field_from_stop_deg(stop, focal, factor)
    by_label = powers.true_field_from_apparent_deg(apparent, power)
    by_barrel = powers.true_field_from_stop_deg(barrel, focal, factor)
    field_deg = np.where(np.isnan(by_stop), np.fmin(by_label, by_barrel), by_stop)
    field_off = np.where(by_barrel < by_label, BARREL_OFF, APPARENT_OFF)
    return Figures(
        amplification=factor,
        amplification_off=off,
        aperture_mm=aperture,
        obstruction=blocked,
        magnification=power,
        true_field_deg=field_deg,
        field_off=np.hypot(np.where(np.isnan(by_stop), field_off, 0.0), off),
        exit_pupil_mm=powers.exit_pupil_mm(aperture, power),
        focal_ratio=powers.effective_focal_ratio(focal, aperture, factor),
        transmission=through,
        eye_relief_gain_mm=powers.eye_relief_gain_mm(focal, eyepiece, factor, barlow),
    )


def find_way(
    telescope: Telescope,
    eyepieces: Sequence[Eyepiece],
    amplifiers: Sequence[Amplifier],
    diagonal: Diagonal | None,
    key: str,
) -> Combination:
    """Return the combination a key names; raises ``OutOfRange`` where nothing fits it."""
    ways = every_way(
        telescope, eyepieces, amplifiers, diagonal, ahead=True, masked=True, stacked=True
    )
    for combination, reason in ways:
        if combination.key == key and reason is None:
            return combination
    raise OutOfRange("rung", key, "a rung of this telescope's ladder", "Choose a rung again.")
