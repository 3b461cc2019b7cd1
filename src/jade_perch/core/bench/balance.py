"""Balance and fit: how far the tube slides for another load, and which clamp does what."""

from typing import Annotated, Literal

import numpy as np
from numpy.typing import ArrayLike

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.advice import Advice
from jade_perch.core.bench.landmark import Aim
from jade_perch.core.bench.seat import Tube, tube_of
from jade_perch.core.bench.sunguard import LandmarkCheck
from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.kit import Mount, Telescope
from jade_perch.core.sums import Sum
from jade_perch.core.units import METRIC, Units

BALANCE_MINUTES = 10.0  # the tube is swung about for so long; our estimate
SLIDE_FELT_MM = 2.0  # friction holds less than this; our estimate


Sinks = Literal["front", "back", "stays"]


class BalanceInput(Frozen):
    """What the tube does when it is let go, or a load added to the eyepiece end, and the caps.

    A negative load was taken off.

    ``behind_pivot_mm`` None means the eyepiece's own place; ``caps_on`` None is not said: by day
    tube and finder are capped while the tube is swung about.
    """

    sinks: Sinks | None = None
    extra_g: Annotated[float, Range(-5000, 5000, "g", "Weigh the new load less the old one.")] = 0.0
    behind_pivot_mm: (
        Annotated[float, Range(-5000, 5000, "mm", "Negative when it sits ahead of the pivot.")]
        | None
    ) = None
    caps_counted: Annotated[int, Range(0, 30, "caps", "Count what lies in the case.")] = 0
    caps_on: bool | None = None

    def aim(self) -> Aim:
        """Return that the tube is swung about, with its caps on or not.

        Source: rules.md#balance.
        """
        return Aim(at="capped" if self.caps_on else "open", job_minutes=BALANCE_MINUTES)


class BalanceAdvice(Advice):
    """How far to slide the tube: forward is positive, toward the sky."""

    slide_forward_mm: float
    behind_pivot_mm: float
    clamps: str
    sinks: Sinks | None
    sun: LandmarkCheck

    def holds(self) -> bool:
        """Return whether it stays where it is left: seen, not computed.

        Source: rules.md#balance.
        """
        return self.sinks in (None, "stays")


def slide_forward_mm(extra_kg: ArrayLike, behind_pivot_mm: ArrayLike, tube_kg: ArrayLike) -> Floats:
    """Return how far in mm a balanced tube has to slide forward for a load behind its pivot.

    Loads and masses in kg; a load that takes all the mass away gives NaN.

    Source: rules.md#balance: Δm·l/(m + Δm), the lever law.
    """
    extra, tube = np.asarray(extra_kg, dtype=float), np.asarray(tube_kg, dtype=float)
    whole = np.where(tube + extra > 0, tube + extra, np.nan)
    return np.asarray(extra * np.asarray(behind_pivot_mm) / whole)


def advise_balance(
    given: BalanceInput,
    telescope: Telescope,
    mount: Mount,
    sun: LandmarkCheck,
    units: Units = METRIC,
) -> BalanceAdvice:
    """Return how far to slide the tube, which clamp to set how, and what not to unscrew.

    Raises ``OutOfRange`` for a load taken off that weighs as much as the tube, or more.

    Source: rules.md#balance.
    """
    tube = tube_of(telescope)
    behind_mm = tube.eyepiece_behind_pivot_mm
    if given.behind_pivot_mm is not None:
        behind_mm = given.behind_pivot_mm
    slide_mm = float(slide_forward_mm(given.extra_g / 1000, behind_mm, tube.mass_kg))
    if np.isnan(slide_mm):
        allowed = f"less taken off than the tube's own {tube.mass_kg:.1f} kg"
        raise OutOfRange(
            "extra_g", given.extra_g, allowed, "Weigh it again, or give the tube's mass in the kit."
        )
    is_small = abs(slide_mm) < SLIDE_FELT_MM
    way = "forward" if slide_mm >= 0 else "back"
    if given.sinks is not None:
        return _by_look(given.sinks, mount, _caps_words(given), sun)
    instruction = f"Hold the tube, open the clamp, slide it {units.small(abs(slide_mm))} {way}."
    if is_small:
        instruction = "Let go gently and watch: it should stay where you leave it."
    elif abs(slide_mm) > abs(tube.eyepiece_behind_pivot_mm):
        instruction = "No sliding balances such a load: put a counterweight on the tube."
    return BalanceAdvice(
        instruction=instruction,
        detail=f"{mount.traits.clamps} Loosen an eyepiece by its set screw, never by its barrel. "
        f"One hand stays on the tube while a clamp is open.{_caps_words(given)}",
        is_done=is_small,
        note=f"Slide {units.small(abs(slide_mm))} {way}.",
        sums=[_sum(given, slide_mm, behind_mm, tube, units)],
        slide_forward_mm=slide_mm,
        behind_pivot_mm=behind_mm,
        clamps=mount.traits.clamps,
        sinks=None,
        sun=sun,
    )


def _caps_words(given: BalanceInput) -> str:
    if not given.caps_counted:
        return ""
    return f" {given.caps_counted} caps counted: the same number goes home."


def _by_look(sinks: Sinks, mount: Mount, caps: str, sun: LandmarkCheck) -> BalanceAdvice:
    """Answer what was seen when the tube was let go: slide it, or set its friction."""
    instruction = "It stays where you leave it."
    if sinks != "stays" and mount.traits.tube_slides:
        way = "back" if sinks == "front" else "forward"
        instruction = f"Hold the tube, open its clamp, slide it a finger's breadth {way}."
    elif sinks != "stays":
        instruction = "Tighten the friction a little, until it stays and still moves."
    return BalanceAdvice(
        instruction=instruction,
        detail=f"{mount.traits.clamps} One hand stays on the tube while a clamp is open.{caps}",
        is_done=sinks == "stays",
        note="It stays put." if sinks == "stays" else f"Its {sinks} sinks.",
        sums=[],
        slide_forward_mm=0.0,
        behind_pivot_mm=0.0,
        clamps=mount.traits.clamps,
        sinks=sinks,
        sun=sun,
    )


def _sum(given: BalanceInput, slide_mm: float, behind_mm: float, tube: Tube, units: Units) -> Sum:
    extra_kg, tube_kg, is_weighed = given.extra_g / 1000, tube.mass_kg, tube.is_weighed
    return Sum(
        title="Slide of the tube",
        formula="Δm · l ÷ (m + Δm)",
        worked=f"{extra_kg:.2f} kg · {behind_mm:.0f} mm ÷ ({tube_kg:.1f} + {extra_kg:.2f}) kg",
        result=f"{units.small(abs(slide_mm))} {'forward' if slide_mm >= 0 else 'back'}",
        source="Lever law",
        rule="balance",
        sureness="exact" if is_weighed else "estimate",
        note="" if is_weighed else "The tube's mass is guessed from its aperture; weigh it once.",
    )
