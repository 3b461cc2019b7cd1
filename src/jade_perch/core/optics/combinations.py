"""Every way to put the glass together: settings, chains, what fits and what does not."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations as two_of
from itertools import pairwise, product
from math import degrees, radians
from typing import Literal

from jade_perch.core.constants import BARREL_INCHES
from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Amplifier, Barrel, Diagonal, Eyepiece, Telescope

Placement = Literal["after", "ahead"]
APPARENT_OFF = 0.05  # apparent field over power, for edge distortion; our estimate
# A plain eyepiece nobody measured shows 40 to 60 degrees; our estimate
USUAL_APPARENT_DEG, USUAL_APPARENT_OFF = 50.0, 0.2
WIDEST_APPARENT_DEG = 125.0  # no eyepiece shows more; our choice
STOP_AGREES = 0.25  # stop over focal length against the field that is printed; our choice
ROUND_MM = 0.05  # stops are given in tenths


@dataclass(frozen=True, slots=True)
class Setting:
    """An eyepiece at one focal length; a zoom has several settings, everything else one.

    ``apparent_off`` is the share by which the true field from the apparent one may be off.
    """

    eyepiece: Eyepiece
    focal_length_mm: float
    apparent_field_deg: float
    number: int = 0
    apparent_off: float = APPARENT_OFF

    @property
    def label(self) -> str:
        """Short name: the focal length, and for a zoom that it is one.  Source: rules.md#ladder."""
        zoom = "" if self.eyepiece.zoom_to_focal_length_mm is None else " zoom"
        return f"{self.focal_length_mm:.3g} mm{zoom}"


@dataclass(frozen=True)
class Combination:
    """One way to put the pieces together; amplifiers are counted from the telescope outwards."""

    telescope: Telescope
    setting: Setting
    amplifiers: tuple[Amplifier, ...] = ()
    placement: Placement = "after"
    is_masked: bool = False
    adapters: tuple[str, ...] = ()

    @cached_property
    def key(self) -> str:
        """Name inside one telescope's ladder, such as ``e3+a1``, ``e3+a1!`` (ahead), ``e3#``.

        Source: rules.md#ladder.
        """
        zoom = f".{self.setting.number}" if self.setting.number else ""
        glass = "".join(f"+a{amplifier.id}" for amplifier in self.amplifiers)
        ahead = "!" if self.placement == "ahead" else ""
        return f"e{self.setting.eyepiece.id}{zoom}{glass}{ahead}{'#' if self.is_masked else ''}"

    @cached_property
    def label(self) -> str:
        """Short name such as ``18 mm + 1.8×``, with where it differs from the plain way.

        Source: rules.md#ladder.
        """
        parts = [self.setting.label, *(f"{a.factor:g}×" for a in self.amplifiers)]
        ahead = " ahead" if self.placement == "ahead" else ""
        return " + ".join(parts) + ahead + (", mask" if self.is_masked else "")


def apparent_of(eyepiece: Eyepiece) -> tuple[float, float]:
    """Return an eyepiece's apparent field in degrees and the share by which it may be off.

    Where nobody gave it, it follows from the field stop, or is a plain one's.

    Source: rules.md#field.
    """
    if eyepiece.apparent_field_deg is not None:
        return eyepiece.apparent_field_deg, APPARENT_OFF
    if eyepiece.field_stop_mm is not None:
        return degrees(eyepiece.field_stop_mm / eyepiece.focal_length_mm), APPARENT_OFF
    return USUAL_APPARENT_DEG, USUAL_APPARENT_OFF


def require_possible_stop(eyepiece: Eyepiece) -> None:
    """Raise ``OutOfRange`` for a field stop that no eyepiece of that focal length can have.

    Source: rules.md#field; apparent field in radians is about stop over focal length.
    """
    stop_mm = eyepiece.field_stop_mm
    if stop_mm is None:
        return
    low_deg, high_deg = 0.0, WIDEST_APPARENT_DEG
    if eyepiece.apparent_field_deg is not None:
        low_deg = eyepiece.apparent_field_deg * (1 - STOP_AGREES)
        high_deg = min(high_deg, eyepiece.apparent_field_deg * (1 + STOP_AGREES))
    low_mm, high_mm = (radians(d) * eyepiece.focal_length_mm for d in (low_deg, high_deg))
    if not low_mm - ROUND_MM <= stop_mm <= high_mm + ROUND_MM:
        field = f" and {eyepiece.apparent_field_deg:g}°" if eyepiece.apparent_field_deg else ""
        allowed = f"{low_mm:.1f} to {high_mm:.1f} mm for {eyepiece.focal_length_mm:g} mm{field}"
        cure = "Measure it again, correct the field, or leave it empty and time a star."
        raise OutOfRange("field_stop_mm", stop_mm, allowed, cure)


def settings_of(eyepiece: Eyepiece) -> list[Setting]:
    """Return the focal lengths an eyepiece can stand at: one, or long end, middle, short end.

    Source: rules.md#ladder.
    """
    apparent_deg, off = apparent_of(eyepiece)
    long = Setting(eyepiece, eyepiece.focal_length_mm, apparent_deg, apparent_off=off)
    short_mm = eyepiece.zoom_to_focal_length_mm
    short_deg = eyepiece.zoom_to_apparent_field_deg
    if short_mm is None or short_deg is None:
        return [long]
    middle_mm = (long.focal_length_mm * short_mm) ** 0.5
    share = (long.focal_length_mm - middle_mm) / (long.focal_length_mm - short_mm)
    middle_deg = long.apparent_field_deg + share * (short_deg - long.apparent_field_deg)
    return [
        long,
        Setting(eyepiece, middle_mm, middle_deg, 1, off),
        Setting(eyepiece, short_mm, short_deg, 2),
    ]


@dataclass(frozen=True, slots=True)
class Fit:
    """Whether pieces can be joined: why not, or through which adapters, front to back."""

    why_not: str | None
    adapters: tuple[str, ...]


def worn_diagonal(telescope: Telescope, diagonal: Diagonal | None) -> Diagonal | None:
    """Return the diagonal a telescope really wears: none where the eyepiece sits at the side.

    Source: rules.md#ladder.
    """
    return None if telescope.design_traits.eyepiece_at_side else diagonal


def require_diagonal_fits(telescope: Telescope, diagonal: Diagonal | None) -> None:
    """Raise ``OutOfRange`` for a diagonal that a telescope cannot wear.

    Source: rules.md#ladder.
    """
    if diagonal is None:
        return
    if telescope.design_traits.eyepiece_at_side:
        cure = "Its eyepiece sits at the side already: leave the diagonal empty."
        raise OutOfRange("diagonal_id", diagonal.name, "none for this design", cure)
    if BARREL_INCHES[diagonal.barrel_in] > BARREL_INCHES[telescope.focuser_barrel_in]:
        allowed = f"up to {telescope.focuser_barrel_in} in, what the focuser takes"
        given = f"{diagonal.name} ({diagonal.barrel_in} in)"
        raise OutOfRange("diagonal_id", given, allowed, "Choose a smaller one, or none.")


def fit_together(
    telescope: Telescope,
    eyepiece: Eyepiece,
    amplifiers: Sequence[Amplifier] = (),
    diagonal: Diagonal | None = None,
    placement: Placement = "after",
) -> Fit:
    """Return why the pieces cannot be joined, or the adapters, such as ``2 to 1.25 in``.

    A smaller barrel fits a bigger one by an adapter, never the other way round.  Ahead of the
    diagonal, the first amplifier sits in the focuser and the diagonal in it.

    Source: rules.md#ladder.
    """
    adapters = []
    for (holder, opening), (piece, barrel) in pairwise(
        _joints(telescope, eyepiece, amplifiers, diagonal, placement)
    ):
        if barrel == opening:
            continue
        if BARREL_INCHES[barrel] > BARREL_INCHES[opening]:
            reason = f"{piece} has a {barrel} in barrel; {holder} takes up to {opening} in."
            return Fit(reason, ())
        adapters.append(f"{opening} to {barrel} in")
    return Fit(None, tuple(adapters))


def _joints(
    telescope: Telescope,
    eyepiece: Eyepiece,
    amplifiers: Sequence[Amplifier],
    diagonal: Diagonal | None,
    placement: Placement,
) -> list[tuple[str, Barrel]]:
    """Return every piece with its barrel, in the order the light meets them."""
    worn = worn_diagonal(telescope, diagonal)
    pieces: list[Amplifier | Diagonal | Eyepiece] = [*amplifiers, eyepiece]
    if worn is not None:
        pieces.insert(1 if placement == "ahead" and amplifiers else 0, worn)
    focuser = (f"the focuser of {telescope.name}", telescope.focuser_barrel_in)
    return [focuser, *((piece.name, piece.barrel_in) for piece in pieces)]


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
    two amplifiers in a row, in whichever order they fit.

    Source: rules.md#ladder.
    """
    chains: list[tuple[Amplifier, ...]] = [(), *((one,) for one in amplifiers)]
    if stacked:
        chains.extend(two_of(amplifiers, 2))
    masks = (False, True) if masked and telescope.mask_opening_mm is not None else (False,)
    placements: tuple[Placement, ...] = ("after",)
    if ahead and worn_diagonal(telescope, diagonal) is not None:
        placements = ("after", "ahead")
    for eyepiece, chain, placement in product(eyepieces, chains, placements):
        if placement == "ahead" and not any(one.kind == "barlow" for one in chain):
            continue
        ordered, fit = _in_order(telescope, eyepiece, chain, diagonal, placement)
        for setting, mask in product(settings_of(eyepiece), masks):
            one = Combination(telescope, setting, ordered, placement, mask, fit.adapters)
            yield one, fit.why_not


def _in_order(
    telescope: Telescope,
    eyepiece: Eyepiece,
    chain: tuple[Amplifier, ...],
    diagonal: Diagonal | None,
    placement: Placement,
) -> tuple[tuple[Amplifier, ...], Fit]:
    """Return a chain in the order in which it fits, as given where both do; a Barlow goes ahead."""
    tried = []
    for ordered in dict.fromkeys((chain, chain[::-1])):
        if placement == "ahead" and ordered[0].kind != "barlow":
            continue
        fit = fit_together(telescope, eyepiece, ordered, diagonal, placement)
        if fit.why_not is None:
            return ordered, fit
        tried.append((ordered, fit))
    return tried[0]


def pieces_of(keys: Sequence[str]) -> tuple[set[int], set[int]]:
    """Return the ids of the eyepieces and of the amplifiers that rungs are made of, by their keys.

    Source: rules.md#ladder; see ``Combination.key``.
    """
    pieces = [re.findall(r"([ea])(\d+)", re.sub(r"\.\d+", "", key)) for key in keys]
    found = [(kind, int(number)) for one in pieces for kind, number in one]
    return {n for kind, n in found if kind == "e"}, {n for kind, n in found if kind == "a"}


def find_way(
    telescope: Telescope,
    eyepieces: Sequence[Eyepiece],
    amplifiers: Sequence[Amplifier],
    diagonal: Diagonal | None,
    key: str,
) -> Combination:
    """Return the combination a key names; raises ``OutOfRange`` where nothing fits it.

    Source: rules.md#ladder.
    """
    ways = every_way(
        telescope, eyepieces, amplifiers, diagonal, ahead=True, masked=True, stacked=True
    )
    for combination, reason in ways:
        if combination.key == key and reason is None:
            return combination
    raise OutOfRange("rung", key, "a rung of this telescope's ladder", "Choose a rung again.")
