"""Level: from a bubble as seen to the next foot, how far and how many turns; then read again."""

from itertools import pairwise
from typing import Annotated, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.advice import Advice, compass_word, turns_words
from jade_perch.core.fields import Frozen, Range, refused
from jade_perch.core.kit import VIAL_CURE, Levelling, Mount
from jade_perch.core.mounts import MountTraits
from jade_perch.core.sums import OWN_RULE, Sum
from jade_perch.core.units import METRIC, Units

USUAL_VIAL_ARCMIN = 30.0  # one division of a round vial nobody measured; our estimate
USUAL_FOOT_RADIUS_MM = 400.0  # feet from the middle, nobody having measured; our estimate
VIAL_READ_DIVISIONS = 0.2  # how well a bubble is read against its marks; our estimate
USUAL_DIGITAL_DOUBT_ARCMIN = 12.0  # a phone laid on the base, typed in; our estimate
SMALLEST_RAISE_MM = 0.1  # nobody sets a foot finer than this
LEAST_BETWEEN_FEET_DEG = 30.0  # nearer feet do not hold a base up

Angle = Annotated[float, Range(0, 360, "°", "Count from north through east.")]
Sensitivity = Annotated[float, Range(0.1, 240, "arcmin a division", VIAL_CURE)]
Divisions = Annotated[float, Range(-10, 10, "divisions", "Count marks from the middle.")]
Slope = Annotated[float, Range(-30, 30, "°", "A base this steep tips: stand it anew first.")]


class RoundVial(Frozen):
    """A bubble under a round glass: where it stands, and where the glass ends.

    ``vial_divisions`` is the mark at which the bubble touches the wall.
    """

    kind: Literal["round"] = "round"
    bubble_divisions: Annotated[float, Range(0, 10, "divisions", "Count marks from the middle.")]
    bubble_azimuth_deg: Angle
    sensitivity_arcmin: Sensitivity = USUAL_VIAL_ARCMIN
    vial_divisions: Annotated[float, Range(1, 10, "divisions", "Count the rings.")] = 3.0

    @model_validator(mode="after")
    def _inside_the_glass(self) -> Self:
        if self.bubble_divisions > self.vial_divisions:
            raise refused(
                "bubble_divisions",
                self.bubble_divisions,
                f"0 to {self.vial_divisions:g} divisions, the wall of this vial",
                "If it touches the wall, point at the wall: the answer then says at least.",
            )
        return self

    def slope(self) -> Floats:
        """Return the uphill slope (east, north): a bubble goes to the high side.

        Source: rules.md#level.
        """
        rise = np.tan(np.radians(self.bubble_divisions * self.sensitivity_arcmin / 60))
        return np.asarray(rise * _toward(self.bubble_azimuth_deg))

    @property
    def doubt_arcmin(self) -> float:
        """How far the reading may be off.  Source: rules.md#level."""
        return VIAL_READ_DIVISIONS * self.sensitivity_arcmin

    @property
    def is_at_wall(self) -> bool:
        """Whether the bubble touches the wall, so that the tilt may be larger.

        Source: rules.md#level.
        """
        return self.bubble_divisions >= self.vial_divisions - 1e-9


class StraightVials(Frozen):
    """Two straight vials; each is read toward its own azimuth, negative the other way."""

    kind: Literal["straight"] = "straight"
    first_divisions: Divisions
    second_divisions: Divisions
    first_azimuth_deg: Angle = 0.0
    second_azimuth_deg: Angle = 90.0
    sensitivity_arcmin: Sensitivity = USUAL_VIAL_ARCMIN

    @model_validator(mode="after")
    def _not_along_one_line(self) -> Self:
        across = np.sin(np.radians(self.second_azimuth_deg - self.first_azimuth_deg))
        if abs(across) < np.sin(np.radians(LEAST_BETWEEN_FEET_DEG)):
            raise refused(
                "second_azimuth_deg",
                self.second_azimuth_deg,
                f"{LEAST_BETWEEN_FEET_DEG:g}° or more across {self.first_azimuth_deg:g}°",
                "Turn the second vial across the first.",
            )
        return self

    def slope(self) -> Floats:
        """Return the uphill slope (east, north) that both readings ask for, exactly.

        Source: rules.md#level.
        """
        lines = np.array([_toward(self.first_azimuth_deg), _toward(self.second_azimuth_deg)])
        divisions = np.array([self.first_divisions, self.second_divisions])
        rises = np.tan(np.radians(divisions * self.sensitivity_arcmin / 60))
        return np.linalg.solve(lines, rises)

    @property
    def doubt_arcmin(self) -> float:
        """How far the reading may be off.  Source: rules.md#level."""
        return VIAL_READ_DIVISIONS * self.sensitivity_arcmin

    is_at_wall: bool = False


class TwoAxes(Frozen):
    """A digital level: the rise along its own axis, and along the one 90° clockwise of it.

    ``source`` says whether somebody typed it or it was read live; nobody having said how the
    display dances, a usual doubt is taken.
    """

    kind: Literal["axes"] = "axes"
    along_deg: Slope
    across_deg: Slope
    axis_azimuth_deg: Angle = 0.0
    noise_arcmin: (
        Annotated[float, Range(0, 120, "arcmin", "What the display dances by.")] | None
    ) = None
    source: Literal["typed", "live"] = "typed"

    def slope(self) -> Floats:
        """Return the uphill slope (east, north).  Source: rules.md#level."""
        along = np.tan(np.radians(self.along_deg)) * _toward(self.axis_azimuth_deg)
        across = np.tan(np.radians(self.across_deg)) * _toward(self.axis_azimuth_deg + 90)
        return np.asarray(along + across)

    @property
    def doubt_arcmin(self) -> float:
        """How far the reading may be off.  Source: rules.md#level."""
        return USUAL_DIGITAL_DOUBT_ARCMIN if self.noise_arcmin is None else self.noise_arcmin

    is_at_wall: bool = False


LevelReading = Annotated[RoundVial | StraightVials | TwoAxes, Field(discriminator="kind")]


class LevelInput(Frozen):
    """A level read, and where the feet stand: azimuths from the middle, on one circle."""

    reading: LevelReading
    foot_azimuths_deg: list[Angle]
    foot_radius_mm: Annotated[
        float, Range(50, 2000, "mm", "Measure from the middle to a foot.")
    ] = USUAL_FOOT_RADIUS_MM
    screw_pitch_mm: Annotated[float, Range(0.2, 10, "mm", "Height gained by one turn.")] | None = (
        None
    )

    @property
    def is_live(self) -> bool:
        """Whether a level was read live rather than typed.  Source: rules.md#simulated."""
        return isinstance(self.reading, TwoAxes) and self.reading.source == "live"

    @model_validator(mode="after")
    def _feet_hold(self) -> Self:
        feet = sorted(self.foot_azimuths_deg)
        gaps = [b - a for a, b in pairwise([*feet, *(foot + 360 for foot in feet[:1])])]
        if len(feet) < 3 or max(gaps) >= 180 or min(gaps) < LEAST_BETWEEN_FEET_DEG:
            raise refused(
                "foot_azimuths_deg",
                ", ".join(f"{foot:g}" for foot in feet) or "(none)",
                f"three feet or more, {LEAST_BETWEEN_FEET_DEG:g}° or more apart, all around the "
                "middle",
                "Say where each foot stands.",
            )
        return self


class Tilt(Frozen):
    """How a base leans: by how much, toward which azimuth it is low, and how sure that is."""

    tilt_arcmin: float
    low_azimuth_deg: float
    doubt_arcmin: float
    is_at_least: bool


class Foot(Frozen):
    """One foot: where it stands, how far it has to come up, in turns where it has a screw."""

    name: str
    azimuth_deg: float
    raise_mm: float
    turns: float | None


class LevelAdvice(Advice):
    """The tilt, every foot's share of the correction, and which foot is next."""

    tilt: Tilt
    feet: list[Foot]
    next_foot: int | None

    def noted(self) -> str:
        """Return the tilt in words.  Source: rules.md#level."""
        low = compass_word(self.tilt.low_azimuth_deg)
        return f"Leans {self.tilt.tilt_arcmin:.0f}′, low in the {low}."

    def figures(self) -> dict[str, float]:
        """Return the tilt for the tracking budget.  Source: rules.md#level."""
        return {
            "tilt_arcmin": self.tilt.tilt_arcmin,
            "low_azimuth_deg": self.tilt.low_azimuth_deg,
            "tilt_doubt_arcmin": self.tilt.doubt_arcmin,
        }


def _toward(azimuth_deg: float) -> Floats:
    """Return the unit vector (east, north) of an azimuth in degrees."""
    return np.array([np.sin(np.radians(azimuth_deg)), np.cos(np.radians(azimuth_deg))])


def read_tilt(reading: RoundVial | StraightVials | TwoAxes) -> Tilt:
    """Return the tilt of a base in arcmin and the azimuth of its low side, from a reading.

    Source: plane geometry; rules.md#level: the low side is opposite the bubble.
    """
    east, north = reading.slope()
    return Tilt(
        tilt_arcmin=float(np.degrees(np.arctan(np.hypot(east, north))) * 60),
        low_azimuth_deg=float(np.degrees(np.arctan2(-east, -north))) % 360,
        doubt_arcmin=reading.doubt_arcmin,
        is_at_least=reading.is_at_wall,
    )


def foot_raises_mm(
    tilt_arcmin: float, low_azimuth_deg: float, foot_azimuths_deg: Floats, foot_radius_mm: float
) -> Floats:
    """Return how far each foot has to be raised in mm, none lowered, the highest one left alone.

    Source: rules.md#level: R·tan τ·cos(A - Aτ), shifted so that the smallest is zero.
    """
    away = np.radians(np.asarray(foot_azimuths_deg) - low_azimuth_deg)
    heights = foot_radius_mm * np.tan(np.radians(tilt_arcmin / 60)) * np.cos(away)
    return np.asarray(heights - heights.min())


def advise_level(given: LevelInput, mount: Mount, units: Units = METRIC) -> LevelAdvice:
    """Return the next foot to raise so that a base comes level; read again after each.

    Source: rules.md#level; how level each mount has to be is our estimate.
    """
    tilt = read_tilt(given.reading)
    raises = foot_raises_mm(
        tilt.tilt_arcmin,
        tilt.low_azimuth_deg,
        np.array(given.foot_azimuths_deg),
        given.foot_radius_mm,
    )
    feet = [
        Foot(
            name=f"{compass_word(azimuth)} foot",
            azimuth_deg=azimuth,
            raise_mm=height,
            turns=height / given.screw_pitch_mm if given.screw_pitch_mm else None,
        )
        for azimuth, height in zip(given.foot_azimuths_deg, raises.tolist(), strict=True)
    ]
    need = mount.traits.level_need_arcmin
    highest = int(np.argmax(raises))
    is_done = tilt.tilt_arcmin <= need and not tilt.is_at_least
    is_flat = raises[highest] < SMALLEST_RAISE_MM
    instruction = "Level enough for this mount. Go on." if is_done else ""
    if not is_done:
        instruction = _instruction(feet[highest], mount.levelling, tilt, units)
    return LevelAdvice(
        instruction=instruction,
        detail=_detail(tilt, mount.traits),
        is_done=is_done,
        sums=[_tilt_sum(given, tilt), _foot_sum(given, tilt, feet[highest], units)],
        tilt=tilt,
        feet=feet,
        next_foot=None if is_flat else highest,
    )


def _instruction(foot: Foot, levelling: Levelling, tilt: Tilt, units: Units) -> str:
    at_least = " at least" if tilt.is_at_least else ""
    height = units.small(foot.raise_mm)
    if foot.turns is not None and levelling == "screws":
        how = f"{turns_words(foot.turns)} out"
        return f"Raise the {foot.name}{at_least} {height}: {how}. Read again."
    if levelling == "clamps":
        return f"Lengthen the {foot.name}'s leg{at_least} {height}. Read again."
    return f"Put{at_least} {height} under the {foot.name}. Read again."


def _detail(tilt: Tilt, traits: MountTraits) -> str:
    at_least = "at least " if tilt.is_at_least else ""
    wall = " The bubble touches the wall: the tilt may be larger." if tilt.is_at_least else ""
    return (
        f"It leans {at_least}{tilt.tilt_arcmin:.0f}′, low in the "
        f"{compass_word(tilt.low_azimuth_deg)}; this mount wants "
        f"{traits.level_need_arcmin:.0f}′ or less. {traits.level_words}{wall}"
    )


def _tilt_sum(given: LevelInput, tilt: Tilt) -> Sum:
    reading = given.reading
    worked = {
        "round": lambda r: f"{r.bubble_divisions:g} divisions × {r.sensitivity_arcmin:g}′",
        "straight": lambda r: (
            f"plane through {r.first_divisions:g} and {r.second_divisions:g} "
            f"divisions × {r.sensitivity_arcmin:g}′"
        ),
        "axes": lambda r: f"plane through {r.along_deg:.2f}° and {r.across_deg:.2f}°",
    }[reading.kind](reading)
    return Sum(
        title="Tilt",
        formula="bubble × sensitivity; the low side is opposite the bubble",
        worked=worked,
        result=f"{tilt.tilt_arcmin:.1f}′, low toward {round(tilt.low_azimuth_deg) % 360}°",
        source="Plane geometry",
        rule="level",
        sureness="about",
        note=f"It may be off by {tilt.doubt_arcmin:.0f}′, as well as a bubble can be read. "
        "How level a mount has to be is our estimate.",
    )


def _foot_sum(given: LevelInput, tilt: Tilt, foot: Foot, units: Units) -> Sum:
    turns = f" ÷ {given.screw_pitch_mm:g} mm a turn" if given.screw_pitch_mm else ""
    result = units.small(foot.raise_mm)
    is_guessed = "foot_radius_mm" not in given.model_fields_set
    note = "How far the feet stand from the middle was not measured: a usual distance is taken."
    if foot.turns is not None:
        result += f" = {foot.turns:.2f} turns"
    return Sum(
        title=f"Raise of the {foot.name}",
        formula="R · tan τ · cos(A − Aτ), then all shifted so that no foot is lowered",
        worked=f"{given.foot_radius_mm:g} mm · tan {tilt.tilt_arcmin:.1f}′ · "
        f"cos({foot.azimuth_deg:.0f}° − {tilt.low_azimuth_deg:.0f}°), less the smallest{turns}",
        result=result,
        source=OWN_RULE,
        rule="level",
        sureness="about",
        note=note if is_guessed else "",
    )
