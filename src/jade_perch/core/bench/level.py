"""Level: from a bubble as seen to the next foot, and how far; then read again and learn."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated

import numpy as np
from pydantic import model_validator

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.advice import Advice, told_turns, turns_words
from jade_perch.core.bench.loop import Learned, Try, learned
from jade_perch.core.bench.response import Place, Response, make_ways
from jade_perch.core.bench.vials import (
    LOOKED_DOUBT_ARCMIN,
    Angle,
    ByEye,
    LevelReading,
    RoundVial,
    StraightVials,
    Tilt,
    TwoAxes,
    Vial,
    read_tilt,
)
from jade_perch.core.constants import ARCMIN_PER_RADIAN
from jade_perch.core.fields import Frozen, Range, UpTo, refused
from jade_perch.core.kit import Levelling, Mount
from jade_perch.core.sums import Sum
from jade_perch.core.units import METRIC, Units

USUAL_PITCH_MM = 1.25  # what one turn of a foot screw lifts where nobody measured; our estimate
CENTRED = 0.14  # of the way to the wall: as near the middle as a bubble is read; our estimate
AT_LEAST = 1.5  # of the way to the wall is put right while the bubble touches it; our estimate
WALL_TIMES = 4  # rounds at the wall after which numbers are left aside and feet are looked at
TOWARD_DEG = 25.0  # so near the line to a foot a bubble stands toward it; our choice
MOST_FEET = 12  # at 30° apart no more stand on a circle
LEAST_BETWEEN_FEET_DEG = 30.0  # nearer feet do not hold a base up
LEAST_MM, MOST_MM, MOST_TURNS = 0.5, 40.0, 8.0  # what hands do at one go; our estimates
# Feet are numbered the wrong way round, or begun at another one, more than anything else.
WAYS = make_ways({0: 0.0, 120: 1.5, 240: 1.5, 180: 1.5, 60: 3.0, 300: 3.0}, 4.0, 1.0)


class LevelInput(Frozen):
    """A level read, and where the feet stand on their circle: evenly, unless bearings are given.

    Without bearings directions count clockwise from foot 1.
    """

    reading: LevelReading
    foot_azimuths_deg: Annotated[list[Angle], UpTo(MOST_FEET, "feet")] | None = None
    foot_radius_mm: (
        Annotated[float, Range(50, 2000, "mm", "Measure from the middle to a foot.")] | None
    ) = None
    screw_pitch_mm: Annotated[float, Range(0.2, 10, "mm", "Height gained by one turn.")] | None = (
        None
    )

    @property
    def is_live(self) -> bool:
        """Whether a level was read live rather than typed.  Source: rules.md#simulated."""
        return isinstance(self.reading, TwoAxes) and self.reading.source == "live"

    @model_validator(mode="after")
    def _feet_hold(self) -> "LevelInput":
        if self.foot_azimuths_deg is None:
            return self
        feet = sorted(self.foot_azimuths_deg)
        gaps = [b - a for a, b in pairwise([*feet, *(foot + 360 for foot in feet[:1])])]
        if len(feet) < 3 or max(gaps) >= 180 or min(gaps) < LEAST_BETWEEN_FEET_DEG:
            raise refused(
                "foot_azimuths_deg",
                ", ".join(f"{foot:g}" for foot in feet) or "(none)",
                f"three feet or more, {LEAST_BETWEEN_FEET_DEG:g}° or more apart, all around the "
                "middle",
                "Say where each foot stands, or leave it out.",
            )
        return self


class Foot(Frozen):
    """One foot of the drawing: its number and where it stands, clockwise in degrees."""

    number: int
    azimuth_deg: float


class LevelAdvice(Advice):
    """The tilt, the foot that is next and by how much, and what the turns before have taught.

    ``next_foot`` counts from 0; ``asked`` is the turn in words beside that foot.
    """

    tilt: Tilt
    feet: list[Foot]
    next_foot: int | None
    asked: str
    learned: Learned
    round_: Try

    def noted(self) -> str:
        """Return the tilt in words.  Source: rules.md#level."""
        if self.note:
            return self.note
        low = self.tilt.low_azimuth_deg
        nearest = min(self.feet, key=lambda foot: abs((foot.azimuth_deg - low + 180) % 360 - 180))
        return f"Leans {self.tilt.tilt_arcmin:.0f}′, low toward foot {nearest.number}."

    def figures(self) -> dict[str, float]:
        """Return the tilt for the tracking budget: toward any side where no bearing is known.

        Source: rules.md#level.
        """
        tilt = self.tilt
        known = tilt.tilt_arcmin if tilt.by_bearing else 0.0
        unknown = 0.0 if tilt.by_bearing else tilt.tilt_arcmin
        return {
            "tilt_arcmin": known,
            "low_azimuth_deg": tilt.low_azimuth_deg,
            "tilt_doubt_arcmin": tilt.doubt_arcmin + unknown,
        }


@dataclass(frozen=True, slots=True)
class Feet:
    """The feet of a base and how they are moved."""

    azimuths_deg: Floats
    levelling: Levelling

    @property
    def in_pairs(self) -> bool:
        """Whether a foot goes up while the one across goes down.  Source: rules.md#level."""
        return len(self.azimuths_deg) == 4 and self.levelling == "screws"

    @property
    def toward(self) -> Floats:
        """The unit vectors (N, 2) toward the feet.  Source: rules.md#level."""
        angles = np.radians(self.azimuths_deg)
        return np.stack([np.sin(angles), np.cos(angles)], axis=1)

    def amount(self, wanted: float) -> float:
        """Return an amount as hands make it, in turns or mm.  Source: rules.md#level."""
        if self.levelling == "screws":
            return told_turns(min(wanted, MOST_TURNS))
        return max(LEAST_MM, min(MOST_MM, round(wanted * 2) / 2 if wanted < 5 else round(wanted)))


def foot_raises(turn: Floats, toward: Floats) -> Floats:
    """Return how far each foot has to come up for a plane turn, none lowered.

    ``toward`` (N, 2) are unit vectors from the middle to each foot.

    Source: rules.md#level: R·tan τ·cos(A - Aτ), shifted so that the smallest is zero.
    """
    heights = 2 / len(toward) * (toward @ turn)
    return np.asarray(heights - heights.min())


def advise_level(
    given: LevelInput, mount: Mount, tries: Sequence[Try] = (), units: Units = METRIC
) -> LevelAdvice:
    """Return the next foot to move so that a base comes level, after what ``tries`` have taught.

    Source: rules.md#level; how level each mount has to be is our estimate.
    """
    reading = given.reading
    if isinstance(reading, ByEye):
        return _by_eye(reading, mount)
    tilt = read_tilt(reading, by_bearing=given.foot_azimuths_deg is not None)
    azimuths = given.foot_azimuths_deg or [n * 360 / mount.feet for n in range(mount.feet)]
    feet = Feet(np.array(azimuths), mount.levelling)
    usual = _usual_response(given, mount, feet, reading.wall_arcmin)
    here = _place(tilt, reading)
    response, taught = learned(usual, tries, here, WAYS, "bubble", "that foot")
    need = mount.traits.level_need_arcmin
    is_done = not tilt.is_at_least and (tilt.tilt_arcmin <= need or here.out <= CENTRED)
    asked, number, words, instruction = _next(feet, response, here, tries, taught, units)
    if is_done:
        asked, number, words = None, None, ""
        instruction = "Level enough for this mount."
    return LevelAdvice(
        instruction=instruction,
        detail=_detail(tilt, mount, taught, "" if is_done else _stands_words(feet, here)),
        is_done=is_done,
        sums=[_tilt_sum(reading, tilt), _turn_sum(given, feet, response, mount)],
        tilt=tilt,
        feet=_drawn(feet),
        next_foot=number,
        asked=words,
        learned=taught,
        round_=Try(
            right=here.right, up=here.up, at_wall=here.at_wall, asked=asked, words=instruction
        ),
    )


def _by_eye(reading: ByEye, mount: Mount) -> LevelAdvice:
    """Answer one look without a vial: enough where nothing is read off the base."""
    is_enough = reading.looks_level and mount.traits.drive == "hand"
    instruction = "Level enough for this mount." if is_enough else "Raise the side that looks low."
    if reading.looks_level and not is_enough:
        instruction = "For this mount read a bubble."
    tilt = Tilt(
        tilt_arcmin=0.0, low_azimuth_deg=0.0, doubt_arcmin=LOOKED_DOUBT_ARCMIN, is_at_least=False
    )
    return LevelAdvice(
        instruction=instruction,
        detail=mount.traits.level_words,
        is_done=is_enough,
        note="Looked level." if reading.looks_level else "Did not look level.",
        sums=[],
        tilt=tilt,
        feet=[],
        next_foot=None,
        asked="",
        learned=Learned(verdict="first", rounds=0, unmoved=0, words=""),
        round_=Try(),
    )


def _usual_response(given: LevelInput, mount: Mount, feet: Feet, wall_arcmin: float) -> Floats:
    """Return how far the bubble usually goes for one turn or millimetre, as a matrix."""
    radius_mm = given.foot_radius_mm or mount.foot_radius_mm or mount.traits.foot_radius_mm
    per_unit_mm = 1.0
    if feet.levelling == "screws":
        per_unit_mm = given.screw_pitch_mm or mount.screw_pitch_mm or USUAL_PITCH_MM
    # one foot of three tips about the other two, 1.5 radii away; a pair about the middle
    arm_mm = radius_mm * (1.0 if feet.in_pairs else len(feet.azimuths_deg) / 2)
    return per_unit_mm / arm_mm * ARCMIN_PER_RADIAN / wall_arcmin * np.eye(2)


def _place(tilt: Tilt, reading: Vial) -> Place:
    """Return where the bubble stands, in shares of the way to its wall."""
    high = np.radians(tilt.low_azimuth_deg + 180)
    out = tilt.tilt_arcmin / reading.wall_arcmin
    out = min(1.0, out) if tilt.is_at_least else out
    return Place(float(out * np.sin(high)), float(out * np.cos(high)), tilt.is_at_least)


Next = tuple[tuple[float, float] | None, int | None, str, str]


def _next(
    feet: Feet,
    response: Response,
    here: Place,
    tries: Sequence[Try],
    taught: Learned,
    units: Units,
) -> Next:
    """Return the turn asked for, the foot, and both in words."""
    if _is_stuck_at_wall(tries, here):
        how = "screw" if feet.levelling == "screws" else "lift"
        words = f"Now {how} up the foot farthest from the bubble until it leaves the wall."
        return None, None, "", words
    turn = response.turn_for(here, -here.vector * (AT_LEAST if here.at_wall else 1.0))
    back = _turned_back(feet, turn, tries, taught)
    number, amount = back or _up(feet, turn)
    told = feet.amount(abs(amount))
    said = _amount_words(feet, told, units)
    asked = np.sign(amount) * told * feet.toward[number]
    at_least = "at least " if here.at_wall else ""
    instruction = _instruction(feet, number, f"{at_least}{said}", is_back=amount < 0)
    sign = "−" if amount < 0 else "+"
    return (float(asked[0]), float(asked[1])), number, f"{sign}{said}", instruction


def _is_stuck_at_wall(tries: Sequence[Try], here: Place) -> bool:
    """Whether the bubble has touched the wall round after round: numbers seem not to help."""
    last = [one for one in tries if not one.is_broken][-WALL_TIMES:]
    return here.at_wall and len(last) == WALL_TIMES and all(one.at_wall for one in last)


def _turned_back(
    feet: Feet, turn: Floats, tries: Sequence[Try], taught: Learned
) -> tuple[int, float] | None:
    """Return the last foot and how far it goes back, where its turn went the wrong way."""
    if taught.verdict != "other_way" or not tries or tries[-1].asked is None:
        return None
    last = np.array(tries[-1].asked)
    number = int(np.argmax(feet.toward @ last))
    amount = float(turn @ feet.toward[number])
    return (number, amount) if amount < 0 else None


def _up(feet: Feet, turn: Floats) -> tuple[int, float]:
    """Return the foot that comes up most, and by how much."""
    raises = feet.toward @ turn if feet.in_pairs else foot_raises(turn, feet.toward)
    number = int(np.argmax(raises))
    return number, float(raises[number])


def _amount_words(feet: Feet, amount: float, units: Units) -> str:
    return turns_words(amount) if feet.levelling == "screws" else units.small(amount)


def _instruction(feet: Feet, number: int, said: str, *, is_back: bool) -> str:
    foot = number + 1
    if is_back:
        return f"The other way: lower foot {foot} by {said}."
    if feet.in_pairs:
        across = (number + 2) % 4 + 1
        return f"Raise foot {foot} and lower foot {across} across, {said} each."
    if feet.levelling == "clamps":
        return f"Lengthen leg {foot} by {said}."
    if feet.levelling == "screws":
        return f"Raise foot {foot} by {said}."
    return f"Put {said} under foot {foot}."


def _drawn(feet: Feet) -> list[Foot]:
    return [Foot(number=n + 1, azimuth_deg=a) for n, a in enumerate(feet.azimuths_deg.tolist())]


def _stands_words(feet: Feet, here: Place) -> str:
    """Return toward which foot, or between which two, the bubble stands."""
    near = feet.toward @ here.vector
    first, second = (int(n) + 1 for n in np.argsort(-near)[:2])
    if near[first - 1] > np.cos(np.radians(TOWARD_DEG)) * here.out:
        return f"The bubble stands toward foot {first}. "
    return f"The bubble stands between feet {min(first, second)} and {max(first, second)}. "


def _detail(tilt: Tilt, mount: Mount, taught: Learned, stands: str) -> str:
    wall = "The bubble touches the wall: it may lean more. " if tilt.is_at_least else ""
    loose = "Tap the vial: a bubble may stick. " if taught.unmoved > 1 else ""
    said = f"{taught.words} " if taught.words else ""
    return f"{said}{loose}{stands}{wall}{mount.traits.level_words}"


def _tilt_sum(reading: Vial, tilt: Tilt) -> Sum:
    if isinstance(reading, RoundVial):
        worked = f"{reading.bubble_divisions:g} divisions × {reading.sensitivity_arcmin:g}′"
    elif isinstance(reading, StraightVials):
        worked = (
            f"plane through {reading.first_divisions:g} and {reading.second_divisions:g} "
            f"divisions × {reading.sensitivity_arcmin:g}′"
        )
    else:
        worked = f"plane through {reading.along_deg:.2f}° and {reading.across_deg:.2f}°"
    usual = "" if reading.is_measured else "Nobody measured this vial: a usual one is taken. "
    at = "at least " if tilt.is_at_least else ""
    return Sum(
        title="Tilt",
        formula="bubble × sensitivity; the low side is opposite the bubble",
        worked=worked,
        result=f"{at}{tilt.tilt_arcmin:.1f}′",
        source="Plane geometry",
        rule="level",
        sureness="about" if reading.is_measured else "estimate",
        note=f"{usual}It may be off by {tilt.doubt_arcmin:.0f}′, as well as a bubble can be read. "
        "How level a mount has to be is our estimate.",
    )


def _turn_sum(given: LevelInput, feet: Feet, response: Response, mount: Mount) -> Sum:
    """Return what one turn or millimetre does: as reckoned, or as the last turns have shown."""
    unit = "turn" if feet.levelling == "screws" else "mm"
    gain = float(np.sqrt(abs(np.linalg.det(response.matrix))))
    is_learned = response.verdict != "first"
    radius = given.foot_radius_mm or mount.foot_radius_mm
    radius_words = f"{radius:g} mm" if radius else f"{mount.traits.foot_radius_mm:g} mm, as usual"
    return Sum(
        title=f"What one {unit} does",
        formula="bubble moved ÷ turn, over the last turns",
        worked="as the last turns have shown"
        if is_learned
        else f"reckoned from a foot circle of {radius_words}",
        result=f"{100 * gain:.0f} % of the way to the wall",
        source="Least squares over what was seen" if is_learned else "Plane geometry",
        rule="learning",
        sureness="about" if is_learned else "estimate",
        note="Whatever was taken for granted, the first turn corrects it.",
    )
