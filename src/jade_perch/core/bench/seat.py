"""Stand: how high the eyepiece comes over a night, for whom, and when it tips."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Literal, Self

import numpy as np
from numpy.typing import ArrayLike
from pydantic import model_validator

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.advice import Advice
from jade_perch.core.fields import Frozen, Id, Range, UpTo, refused
from jade_perch.core.kit import Diagonal, Mount, Observer, Telescope
from jade_perch.core.sums import OWN_RULE, Sum
from jade_perch.core.units import METRIC, Units

Ground = Literal["grass", "soil", "gravel", "paving", "deck", "indoors"]
GROUND_WORDS: dict[Ground, str] = {
    "grass": "Grass is good: soft to the feet, cool early. Press each foot in.",
    "soil": "Soil is good; press each foot in so that none sinks later.",
    "gravel": "Gravel shifts under a foot: put a flat stone or board under each.",
    "paving": "Paving gives its warmth back and shakes a little; grass beside it is better.",
    "deck": "A deck shakes with every step: move to solid ground.",
    "indoors": "Through a window the image is ruined: take it outside.",
}
Posture = Literal["stands", "sits", "sits_and_stands", "kneels", "needs_step"]
HARD: tuple[Posture, ...] = ("kneels", "needs_step")
BAD_GROUND: tuple[Ground, ...] = ("deck", "indoors")

SITTING_SHARE = 0.485  # eye over the seat / eye over the ground; body proportions, our estimate
STOOP_SHARE = 0.85  # lower than this share of it nobody bows for long; our estimate
SEAT_LOW_MM, SEAT_HIGH_MM = 250.0, 800.0  # a folding stool to an observing chair; our estimate
USUAL_EYE_MM = 1550.0  # when nobody's eye height is known; an adult, our estimate
HALF_FOCUSER_MM = 90.0  # from the middle of a Newtonian's tube wall to the eye lens; our estimate
FULL_SHARE = 0.9  # legs are left a tenth short of fully extended; rules.md#stand
LIGHT_PATH_MM = 70.0  # of a 1.25 in diagonal; rules.md#stand
KG_PER_MM2 = 2.4e-4  # tube mass over aperture squared, from the made-up kit; our estimate


MOST_PEOPLE = 200  # more than any club brings; our choice
People = Annotated[list[Id], UpTo(MOST_PEOPLE, "people")]


class StandInput(Frozen):
    """Where it stands and between which altitudes one will look; pivot height None: choose.

    ``people_ids`` are those present, None for everybody known.
    """

    ground: Ground = "grass"
    lowest_altitude_deg: Annotated[float, Range(0, 90, "°", "Where you look lowest.")] = 20.0
    highest_altitude_deg: Annotated[float, Range(0, 90, "°", "Where you look highest.")] = 75.0
    pivot_height_mm: (
        Annotated[float, Range(50, 3000, "mm", "From the ground to the pivot.")] | None
    ) = None
    people_ids: People | None = None

    @model_validator(mode="after")
    def _low_before_high(self) -> Self:
        if self.highest_altitude_deg < self.lowest_altitude_deg:
            raise refused(
                "highest_altitude_deg",
                self.highest_altitude_deg,
                f"{self.lowest_altitude_deg:g} to 90 °, above the lowest",
                "Swap the two altitudes.",
            )
        return self


@dataclass(frozen=True, slots=True)
class Tube:
    """What of a tube decides where its eyepiece is; guessed where nobody measured."""

    eyepiece_behind_pivot_mm: float
    eyepiece_over_axis_mm: float
    mass_kg: float
    length_mm: float
    is_about: bool
    is_weighed: bool


class PersonFit(Frozen):
    """How one person comes to the eyepiece over the span of altitudes."""

    name: str
    posture: Posture
    eye_height_mm: float
    seat_low_mm: float | None
    seat_high_mm: float | None
    words: str
    warns: bool


class StandAdvice(Advice):
    """The span of eyepiece heights, the pivot height to set, and how each person fits."""

    pivot_height_mm: float
    eyepiece_low_mm: float
    eyepiece_high_mm: float
    people: list[PersonFit]
    tipping_deg: float | None
    edge_mm: float | None
    warnings: list[str]

    def figures(self) -> dict[str, float]:
        """Return how high the pivot was set.  Source: rules.md#stand."""
        return {"pivot_height_mm": self.pivot_height_mm}


def tube_of(telescope: Telescope, diagonal: Diagonal | None = None) -> Tube:
    """Return where a telescope's eyepiece sits, from its numbers or guessed by its design.

    Source: rules.md#stand; the guesses are ours.
    """
    traits = telescope.design_traits
    length = telescope.tube_length_mm or telescope.focal_length_mm * traits.tube_share
    front = telescope.pivot_from_front_mm
    front = length / 2 if front is None else front
    own = telescope.eyepiece_angle_deg
    angle = traits.usual_angle_deg if own is None else own
    half_mm = telescope.aperture_mm * 0.55
    if traits.eyepiece_at_side:
        behind, over = half_mm - front, half_mm + HALF_FOCUSER_MM
    else:
        behind = length - front
        path = LIGHT_PATH_MM if diagonal is None else diagonal.light_path_mm
        over = path
    return Tube(
        eyepiece_behind_pivot_mm=behind,
        eyepiece_over_axis_mm=over * float(np.cos(np.radians(angle))),
        mass_kg=telescope.mass_kg or KG_PER_MM2 * telescope.aperture_mm**2,
        length_mm=length,
        is_about=telescope.tube_length_mm is None or telescope.pivot_from_front_mm is None,
        is_weighed=telescope.mass_kg is not None,
    )


class TubeShape(Frozen):
    """How long a telescope's tube is and where its eyepiece sits along it, from the front end."""

    telescope_id: int | None
    length_mm: float
    eyepiece_from_front_mm: float


def tube_shape(telescope: Telescope) -> TubeShape:
    """Return what a drawing of a telescope needs, guessed where nobody measured.

    Source: see ``tube_of``.
    """
    tube = tube_of(telescope)
    front_mm = telescope.pivot_from_front_mm
    pivot_mm = tube.length_mm / 2 if front_mm is None else front_mm
    return TubeShape(
        telescope_id=telescope.id,
        length_mm=tube.length_mm,
        eyepiece_from_front_mm=pivot_mm + tube.eyepiece_behind_pivot_mm,
    )


def eyepiece_heights_mm(tube: Tube, pivot_height_mm: float, altitude_deg: ArrayLike) -> Floats:
    """Return the eyepiece's height over the ground in mm for altitudes in degrees.

    Source: rules.md#stand: pivot - L·sin(alt) for an eyepiece L behind the pivot, plus what
    it stands off the axis, which counts in full only for a level tube, so times cos(alt).
    """
    altitude = np.radians(np.asarray(altitude_deg, dtype=float))
    return np.asarray(
        pivot_height_mm
        - tube.eyepiece_behind_pivot_mm * np.sin(altitude)
        + tube.eyepiece_over_axis_mm * np.cos(altitude)
    )


def advise_stand(
    given: StandInput,
    telescope: Telescope,
    mount: Mount,
    diagonal: Diagonal | None,
    people: Sequence[Observer],
    units: Units = METRIC,
) -> StandAdvice:
    """Return where the eyepiece will be, how high to set the pivot, and how each person fits.

    Source: rules.md#stand; body proportions and seats are our estimates.
    """
    tube = tube_of(telescope, diagonal)
    altitudes = np.linspace(given.lowest_altitude_deg, given.highest_altitude_deg, 91)
    rise = eyepiece_heights_mm(tube, 0.0, altitudes)
    persons = list(people) or [Observer(name="Somebody tall", eye_height_mm=USUAL_EYE_MM)]
    eyes = [(one.name, one.eye_height_mm or USUAL_EYE_MM) for one in persons]
    pivot = given.pivot_height_mm or _pivot_mm(mount, rise, min(mm for _, mm in eyes))
    low, high = float(pivot + rise.min()), float(pivot + rise.max())
    fits = [_fit(name, eye_mm, low, high, units) for name, eye_mm in eyes]
    edge_mm, tipping_deg = _tipping(mount, pivot)
    warnings = _warnings(given, mount, pivot, low, fits, units)
    verb = "Set the pivot" if mount.lowest_mm != mount.highest_mm else "The pivot stands"
    span = f"{units.height_number(low)} {{}} {units.height(high)}"
    instruction = f"{verb} {units.height(pivot)} high; spread and lock the tray."
    if given.ground in BAD_GROUND:
        instruction = GROUND_WORDS[given.ground]
    return StandAdvice(
        instruction=instruction,
        detail=f"The eyepiece moves between {span.format('and')} over the ground. "
        + (GROUND_WORDS[given.ground] if given.ground not in BAD_GROUND else ""),
        is_done=given.ground not in BAD_GROUND,
        note=f"Pivot {units.height(pivot)}, eyepiece {span.format('to')}.",
        sums=[_height_sum(tube, pivot, given, span.format("to"))],
        pivot_height_mm=pivot,
        eyepiece_low_mm=low,
        eyepiece_high_mm=high,
        people=fits,
        tipping_deg=tipping_deg,
        edge_mm=edge_mm,
        warnings=warnings,
    )


def _pivot_mm(mount: Mount, rise: Floats, smallest_eye_mm: float) -> float:
    """Return the pivot height that brings the highest eyepiece to the smallest eye, in reach."""
    wished = smallest_eye_mm - float(rise.max())
    low = mount.lowest_mm
    high = mount.highest_mm
    if low is None or high is None:
        return max(wished, 300.0)
    return float(np.clip(wished, low, low + FULL_SHARE * (high - low)))


def _fit(name: str, eye_mm: float, low_mm: float, high_mm: float, units: Units) -> PersonFit:
    over_seat = SITTING_SHARE * eye_mm
    if high_mm > eye_mm:
        words = f"needs a firm step of {units.height(high_mm - eye_mm)} at the highest position"
        return _person(name, eye_mm, None, words, "needs_step")
    if low_mm >= STOOP_SHARE * eye_mm:
        return _person(name, eye_mm, None, "stands at every position", "stands")
    seats = (max(low_mm - over_seat, SEAT_LOW_MM), high_mm - over_seat)
    if low_mm < SEAT_LOW_MM + STOOP_SHARE * over_seat:
        words = f"has to kneel at the lowest position ({units.height(low_mm)})"
        found = seats if seats[1] >= SEAT_LOW_MM else None
        return _person(name, eye_mm, found, words, "kneels")
    if seats[1] > SEAT_HIGH_MM:
        words = "sits while it is low, stands while it is high"
        return _person(name, eye_mm, (seats[0], SEAT_HIGH_MM), words, "sits_and_stands")
    words = f"sits: seat between {units.height_number(seats[0])} and {units.height(seats[1])}"
    return _person(name, eye_mm, seats, words, "sits")


def _person(
    name: str, eye_mm: float, seats: tuple[float, float] | None, words: str, posture: Posture
) -> PersonFit:
    low, high = (None, None) if seats is None else (seats[0], max(seats))
    return PersonFit(
        name=name,
        posture=posture,
        eye_height_mm=eye_mm,
        seat_low_mm=low,
        seat_high_mm=high,
        words=words,
        warns=posture in HARD,
    )


def _tipping(mount: Mount, pivot_mm: float) -> tuple[float | None, float | None]:
    """Return the distance to the nearest tipping edge in mm and the lean in degrees at it."""
    if mount.foot_radius_mm is None:
        return None, None
    edge = mount.foot_radius_mm * float(np.cos(np.pi / mount.feet))
    return edge, float(np.degrees(np.arctan2(edge, pivot_mm)))


def _warnings(
    given: StandInput,
    mount: Mount,
    pivot_mm: float,
    low_mm: float,
    fits: list[PersonFit],
    units: Units,
) -> list[str]:
    """Return what stands against it, besides what each person's own words say."""
    warnings = []
    if mount.highest_mm is not None and mount.lowest_mm is not None:
        full = mount.lowest_mm + FULL_SHARE * (mount.highest_mm - mount.lowest_mm)
        if pivot_mm > mount.highest_mm:
            warnings.append(f"This mount ends at {units.height(mount.highest_mm)}.")
        elif pivot_mm > full and mount.highest_mm > mount.lowest_mm:
            warnings.append("Legs nearly fully out shake: leave the last tenth in.")
    lift_mm = max(
        (SEAT_LOW_MM + STOOP_SHARE * SITTING_SHARE * one.eye_height_mm - low_mm for one in fits),
        default=0.0,
    )
    is_fixed = mount.lowest_mm is not None and mount.lowest_mm == mount.highest_mm
    if is_fixed and lift_mm > 0 and any(one.posture == "kneels" for one in fits):
        warnings.append(f"On a firm stand {units.height(lift_mm)} high everybody could sit.")
    if given.ground in BAD_GROUND:
        warnings.append(GROUND_WORDS[given.ground])
    return warnings


def _height_sum(tube: Tube, pivot_mm: float, given: StandInput, span: str) -> Sum:
    behind, over = tube.eyepiece_behind_pivot_mm, tube.eyepiece_over_axis_mm
    sign = "−" if behind >= 0 else "+"
    return Sum(
        title="Height of the eyepiece",
        formula="pivot − L · sin(altitude) + offset · cos(altitude)",
        worked=f"{pivot_mm:.0f} mm {sign} {abs(behind):.0f} mm · sin a + {over:.0f} mm · cos a, "
        f"a = {given.lowest_altitude_deg:g}° to {given.highest_altitude_deg:g}°",
        result=span,
        source=OWN_RULE,
        rule="stand",
        sureness="estimate" if tube.is_about else "about",
        note="The tube's length or pivot is guessed from its design. " * tube.is_about
        + "Seats and how far people bow are our estimates.",
    )
