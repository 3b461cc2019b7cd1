"""Focus: which way, how far from person to person, from landmark to star, from glass to glass."""

from collections.abc import Sequence
from typing import Annotated, Literal, Self

import numpy as np
from numpy.typing import ArrayLike
from pydantic import model_validator

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.advice import Advice
from jade_perch.core.bench.landmark import Aim, Landmark
from jade_perch.core.bench.sunguard import LandmarkCheck
from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen, Id, Item, Label, Range, refused
from jade_perch.core.kit import Eyepiece, Observer, Telescope
from jade_perch.core.optics.powers import refocus_shift_mm
from jade_perch.core.sums import Sum
from jade_perch.core.units import METRIC, Units

DEPTH_WAVES_MM = 2.2e-3  # depth of focus = 4 · 0.55 µm · N²: a quarter wave either way; Rayleigh
FOCUS_MINUTES = 10.0  # focusing takes no longer; our estimate
FELT_MM = 0.05  # a focuser is not turned finer than this by hand; our estimate


class FocusInput(Frozen):
    """Focused on a landmark by day or a star at night, through which eyepiece."""

    on: Literal["landmark", "star"] = "star"
    eyepiece_id: Id
    landmark: Landmark | None = None

    def aim(self) -> Aim:
        """Return what it has the tube look at; raises ``OutOfRange`` for a landmark not told.

        Source: rules.md#focus.
        """
        if self.on == "star":
            return Aim(at="stars", job_minutes=FOCUS_MINUTES)
        if self.landmark is None:
            cure = "Give its bearing and distance at the Sun guard."
            raise OutOfRange("landmark", "(nothing)", "a landmark to focus on", cure)
        return self.landmark.aim()


class Parfocal(Item):
    """How far focus moved from one eyepiece to another in mm, outwards positive, as measured."""

    telescope_id: Id
    from_eyepiece_id: Id
    to_eyepiece_id: Id
    shift_mm: Annotated[float, Range(-100, 100, "mm", "Outwards is positive.")]
    note: Label = ""

    @model_validator(mode="after")
    def _between_two(self) -> Self:
        if self.to_eyepiece_id == self.from_eyepiece_id:
            cure = "Choose the eyepiece you changed to."
            raise refused("to_eyepiece_id", self.to_eyepiece_id, "another eyepiece", cure)
        return self


class PersonShift(Frozen):
    """How far one person's focus lies from a good eye's, without glasses."""

    name: str
    shift_mm: float
    words: str


class FocusAdvice(Advice):
    """What to turn, and each person's own shift in mm (outwards +)."""

    people: list[PersonShift]
    sun: LandmarkCheck


def landmark_shift_mm(focal_length_mm: ArrayLike, distance_m: ArrayLike) -> Floats:
    """Return how much farther out in mm a landmark comes to focus than a star.

    Nearer than the focal length there is no image: NaN.

    Source: Newton's lens equation, F²/(d - F).
    """
    focal = np.asarray(focal_length_mm, dtype=float)
    beyond = np.asarray(distance_m, dtype=float) * 1000 - focal
    return np.asarray(focal**2 / np.where(beyond > 0, beyond, np.nan))


def depth_of_focus_mm(focal_ratio: ArrayLike) -> Floats:
    """Return how far focus may be off either way before a quarter wave is lost, in mm.

    Source: Rayleigh's quarter wave, 4 λ N² at 550 nm.
    """
    return np.asarray(DEPTH_WAVES_MM * np.asarray(focal_ratio, dtype=float) ** 2)


def advise_focus(
    given: FocusInput,
    telescope: Telescope,
    eyepiece: Eyepiece,
    people: Sequence[Observer],
    sun: LandmarkCheck,
    units: Units = METRIC,
) -> FocusAdvice:
    """Return the direction rule and the shifts for people and for the night.

    Source: rules.md#focus.
    """
    shift = None
    if given.on == "landmark" and given.landmark is not None:
        shift = float(landmark_shift_mm(telescope.focal_length_mm, given.landmark.metres))
    depth = float(depth_of_focus_mm(telescope.focal_ratio))
    persons = [_person(one, eyepiece, units) for one in people if one.sight_diopters is not None]
    target = "the smallest star" if given.on == "star" else "the sharpest edge"
    night = ""
    if shift is not None:
        is_paced = given.landmark is not None and given.landmark.is_paced
        night = (
            f" For stars turn inwards by {'' if is_paced else 'up to '}{units.small(shift)}."
            if shift > depth
            else (" For stars the same focus will do.")
        )
    return FocusAdvice(
        instruction=f"Turn slowly to {target}; if it grows, turn the other way.",
        detail="Loosen the focus lock first. Go through the best point and back. Every eyepiece "
        f"and every person wants it anew.{night}",
        is_done=True,
        note="In focus.",
        sums=_sums(given, telescope, eyepiece, shift, depth),
        people=persons,
        sun=sun,
    )


def _person(person: Observer, eyepiece: Eyepiece, units: Units) -> PersonShift:
    shift = float(refocus_shift_mm(eyepiece.focal_length_mm, person.sight_diopters or 0.0))
    way = "inwards" if shift < 0 else "outwards"
    words = f"{units.small(abs(shift))} {way} without glasses"
    if abs(shift) < FELT_MM:
        words = "no change worth turning"
    if person.glasses == "astigmatism":
        words += "; keeps the glasses on at low power"
    return PersonShift(name=person.name, shift_mm=shift, words=words)


def _sums(
    given: FocusInput, telescope: Telescope, eyepiece: Eyepiece, shift: float | None, depth: float
) -> list[Sum]:
    sums = [
        Sum(
            title="Play of focus",
            formula="4 λ N²",
            worked=f"4 · 0.00055 mm · {telescope.focal_ratio:.1f}²",
            result=f"{depth:.2f} mm",
            source="Rayleigh's quarter wave",
            rule="focus",
            sureness="exact",
            note=f"A person's shift is f² · dpt ÷ 1000 with f = {eyepiece.focal_length_mm:g} mm.",
        )
    ]
    if shift is not None and given.landmark is not None:
        sums.append(
            Sum(
                title="From landmark to star",
                formula="F² ÷ (d − F)",
                worked=f"{telescope.focal_length_mm:g}² ÷ ({given.landmark.metres:g} m − F)",
                result=f"{shift:.1f} mm inwards",
                source="Newton's lens equation",
                rule="focus",
                sureness="exact" if given.landmark.is_paced else "estimate",
            )
        )
    return sums
