"""Every way to put the glass together: settings, chains, what fits and what does not."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations_with_replacement, pairwise, product
from typing import Literal

from jade_perch.core.constants import BARREL_INCHES
from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Amplifier, Barrel, Diagonal, Eyepiece, Telescope

Placement = Literal["after", "ahead"]


@dataclass(frozen=True, slots=True)
class Setting:
    """An eyepiece at one focal length; a zoom has several settings, everything else one."""

    eyepiece: Eyepiece
    focal_length_mm: float
    apparent_field_deg: float
    number: int = 0

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


def settings_of(eyepiece: Eyepiece) -> list[Setting]:
    """Return the focal lengths an eyepiece can stand at: one, or long end, middle, short end.

    Source: rules.md#ladder.
    """
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


@dataclass(frozen=True, slots=True)
class Fit:
    """Whether pieces can be joined: why not, or through which adapters, front to back."""

    why_not: str | None
    adapters: tuple[str, ...]


def fit_together(
    telescope: Telescope,
    eyepiece: Eyepiece,
    amplifiers: Sequence[Amplifier] = (),
    diagonal: Diagonal | None = None,
) -> Fit:
    """Return why the pieces cannot be joined, or the adapters, such as ``2 to 1.25 in``.

    A smaller barrel fits a bigger one by an adapter, never the other way round.

    Source: rules.md#ladder.
    """
    adapters = []
    for (holder, opening), (piece, barrel) in pairwise(
        _joints(telescope, eyepiece, amplifiers, diagonal)
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
) -> list[tuple[str, Barrel]]:
    """Return every piece with its barrel, in the order the light meets them."""
    chain = [(f"the focuser of {telescope.name}", telescope.focuser_barrel_in)]
    if diagonal is not None and BARREL_INCHES[diagonal.barrel_in] <= BARREL_INCHES[chain[0][1]]:
        chain.append((diagonal.name, diagonal.barrel_in))
    chain.extend((amplifier.name, amplifier.barrel_in) for amplifier in amplifiers)
    return [*chain, (eyepiece.name, eyepiece.barrel_in)]


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

    Source: rules.md#ladder.
    """
    chains: list[tuple[Amplifier, ...]] = [(), *((one,) for one in amplifiers)]
    if stacked:
        pairs = combinations_with_replacement(amplifiers, 2)
        chains.extend((a, b) for a, b in pairs if a is not b)
    masks = (False, True) if masked and telescope.mask_opening_mm is not None else (False,)
    for eyepiece, chain in product(eyepieces, chains):
        fit = fit_together(telescope, eyepiece, chain, diagonal)
        placements: tuple[Placement, ...] = ("after",)
        if ahead and diagonal is not None and chain and chain[0].kind == "barlow":
            placements = ("after", "ahead")
        for setting, placement, mask in product(settings_of(eyepiece), placements, masks):
            one = Combination(telescope, setting, chain, placement, mask, fit.adapters)
            yield one, fit.why_not


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
