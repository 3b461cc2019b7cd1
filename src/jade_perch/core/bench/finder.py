"""Finder: is the landmark far enough, which screw, which way, and what is left at night."""

from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.advice import (
    Advice,
    clock_direction,
    clock_hour,
    turns_number,
    turns_words,
)
from jade_perch.core.bench.sunguard import Aim, AimAt, Landmark, LandmarkCheck
from jade_perch.core.constants import ARCMIN_PER_RADIAN
from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.kit import Finder, RingEnd
from jade_perch.core.optics.orientation import finder_orientation
from jade_perch.core.sums import OWN_RULE, Sum
from jade_perch.core.units import METRIC, Units

SIGHT_FIELD_DEG = 10.0  # what one takes in around a dot without moving the eye; our estimate
APPARENT_FIELD_DEG = 42.0  # of a plain magnifying finder; field = this over its power; estimate
# Parallax and aim stay within this share of the longest field's radius; rules.md#finder
SHARE_OF_FIELD = 0.1
FINEST_ARCMIN = 4.0  # the naked eye puts a dot on a star no better; our estimate
EDGE = 0.95  # field radii; farther out a landmark cannot be held in view
STAR_JOB_MINUTES = 15.0  # a finder is trimmed on a star in this time; our estimate
LEAST_TURN = 0.1  # a smaller turn is nothing to speak of
# How screws usually sit where nobody measured: our estimates, good to about a half.
USUAL_END: RingEnd = "rear"
USUAL_HOUR, USUAL_LEVER_MM, USUAL_PITCH_MM = 12, 90.0, 0.7

On = Literal["landmark", "star", "moon"]
AlignWay = Literal["crossing", "parallel"]
SeenPart = Annotated[
    float, Range(-1, 1, "field radii", "Point inside the finder's view; -1 to 1 is edge to edge.")
]


class FinderInput(Frozen):
    """Where the target of the main tube stands in the finder's view.

    ``seen_right`` and ``seen_up`` are in field radii as the eye sees them.
    """

    finder_id: int
    on: On = "landmark"
    landmark: Landmark | None = None
    method: AlignWay = "crossing"
    seen_right: SeenPart
    seen_up: SeenPart

    def aim(self) -> Aim:
        """Return what it has the tube look at; raises ``OutOfRange`` for a landmark not told.

        Source: rules.md#finder.
        """
        if self.on != "landmark":
            at: AimAt = "moon" if self.on == "moon" else "stars"
            return Aim(at=at, job_minutes=STAR_JOB_MINUTES)
        if self.landmark is None:
            cure = "Give its bearing and distance at the Sun guard."
            raise OutOfRange("landmark", "(nothing)", "a landmark to align on", cure)
        return self.landmark.aim()


class ScrewTurn(Frozen):
    """One screw: its place as a clock hour seen from behind, turns, positive outwards.

    ``way`` is "leave" where the turn is nothing to speak of; ``words`` are for beside it.
    """

    hour: int
    turns_out: float
    way: Literal["out", "in", "leave"]
    words: str


class FinderAdvice(Advice):
    """What to turn, where the target should stand, and what the first star will show.

    ``agrees`` holds for what it is aligned on; it is done once that holds for stars as well.

    Places are (right, up) in field radii as the eye sees them.
    """

    field_deg: float
    field_is_about: bool
    parallax_arcmin: float
    limit_arcmin: float
    needed_distance_m: float
    is_far_enough: bool
    aim_offset_mm: float
    wanted_right: float
    wanted_up: float
    off_arcmin: float
    screws: list[ScrewTurn]
    star_right: float
    star_up: float
    star_off_arcmin: float
    star_words: str
    agrees: bool
    sun: LandmarkCheck


@dataclass(frozen=True, slots=True)
class Geometry:
    """Angles in arcmin of one finder on one target: (right, up) to the naked eye."""

    parallax_arcmin: float
    side: Floats
    matrix: Floats
    field_radius_arcmin: float

    def seen(self, offset_arcmin: Floats) -> Floats:
        """Return a naked-eye offset as the finder shows it, in field radii.

        Source: rules.md#finder.
        """
        return np.asarray(self.matrix @ offset_arcmin / self.field_radius_arcmin)

    def true(self, seen: Floats) -> Floats:
        """Return what is seen, in field radii, as a naked-eye offset in arcmin.

        Source: rules.md#finder.
        """
        return np.asarray(np.linalg.solve(self.matrix, seen) * self.field_radius_arcmin)


def parallax_arcmin(offset_mm: float, distance_m: float) -> float:
    """Return the angle between two axes that cross at a landmark, in arcmin.

    Source: rules.md#finder; atan(s/d).
    """
    return float(np.arctan2(offset_mm / 1000, distance_m) * ARCMIN_PER_RADIAN)


def needed_distance_m(offset_mm: float, longest_field_deg: float) -> float:
    """Return how far a landmark has to be so that its parallax stays under a tenth of the radius.

    Source: rules.md#finder; d ≥ s / tan(0.1 · TFOV / 2).
    """
    return float(offset_mm / 1000 / np.tan(np.radians(SHARE_OF_FIELD * longest_field_deg / 2)))


def finder_field_deg(finder: Finder) -> tuple[float, bool]:
    """Return a finder's true field in degrees and whether it is only about right.

    Source: rules.md#finder.
    """
    if finder.field_deg is not None:
        return finder.field_deg, False
    if finder.traits.is_sight:
        return SIGHT_FIELD_DEG, True
    return APPARENT_FIELD_DEG / finder.magnification, True


def geometry_of(finder: Finder, distance_m: float | None) -> Geometry:
    """Return the angles of a finder for a landmark's distance, None for the sky.

    Source: rules.md#finder.
    """
    field_deg, _ = finder_field_deg(finder)
    angle = 0.0 if distance_m is None else parallax_arcmin(finder.offset_mm, distance_m)
    return Geometry(
        parallax_arcmin=angle,
        side=np.array(clock_direction(finder.clock_hour)),
        matrix=np.array(finder_orientation(finder.kind).matrix),
        field_radius_arcmin=field_deg * 30,
    )


def advise_finder(
    given: FinderInput,
    finder: Finder,
    longest_field_deg: float,
    sun: LandmarkCheck,
    units: Units = METRIC,
) -> FinderAdvice:
    """Return which screw to turn which way so that the finder shows what the main tube shows.

    The main tube has the target in its middle; ``longest_field_deg`` is the true field of the
    longest eyepiece.  Raises ``OutOfRange`` where the landmark would stand outside the finder.

    Source: rules.md#finder; a rear ring tips the finder the other way than a front one.
    """
    distance_m = given.landmark.distance_m if given.landmark and given.on == "landmark" else None
    angles = geometry_of(finder, distance_m)
    wanted_true = _wanted(angles, finder, given)
    wanted = angles.seen(wanted_true)
    seen_true = angles.true(np.array([given.seen_right, given.seen_up]))
    move, star = seen_true - wanted_true, seen_true + angles.parallax_arcmin * angles.side
    off_arcmin, star_off = float(np.hypot(*move)), float(np.hypot(*star))
    star_seen = angles.seen(star)
    share_arcmin = SHARE_OF_FIELD * longest_field_deg * 30
    limit = max(FINEST_ARCMIN, share_arcmin)
    is_far, agrees = angles.parallax_arcmin <= share_arcmin, off_arcmin <= limit
    field_deg, about = finder_field_deg(finder)
    return FinderAdvice(
        instruction=_instruction(agrees, star_off, limit, finder, angles, move),
        detail=_detail(finder, given, is_far, agrees),
        note=f"Finder {off_arcmin:.0f}′ off, {star_off:.0f}′ on a star.",
        is_done=agrees and star_off <= limit,
        sums=_sums(finder, given, angles, longest_field_deg, off_arcmin, units),
        field_deg=field_deg,
        field_is_about=about,
        parallax_arcmin=angles.parallax_arcmin,
        limit_arcmin=limit,
        needed_distance_m=needed_distance_m(finder.offset_mm, longest_field_deg),
        is_far_enough=is_far,
        aim_offset_mm=finder.offset_mm if given.method == "parallel" else 0.0,
        wanted_right=float(wanted[0]),
        wanted_up=float(wanted[1]),
        off_arcmin=off_arcmin,
        screws=screw_turns(move, finder),
        star_right=float(star_seen[0]),
        star_up=float(star_seen[1]),
        star_off_arcmin=star_off,
        star_words=_star_words(star_off, star_seen, limit),
        agrees=agrees,
        sun=sun,
    )


def _wanted(angles: Geometry, finder: Finder, given: FinderInput) -> Floats:
    """Return where off the finder's cross the landmark belongs, in arcmin; it has to be seen."""
    wanted = -angles.parallax_arcmin * angles.side * (given.method == "parallel")
    if np.hypot(*angles.seen(wanted)) > EDGE or angles.parallax_arcmin > angles.field_radius_arcmin:
        raise _outside(angles, finder, given)
    return np.asarray(wanted)


def screw_turns(move_arcmin: Floats, finder: Finder) -> list[ScrewTurn]:
    """Return the turns of each screw, positive outwards, that move a finder's axis by an angle.

    Screws stand evenly around the ring from the first one's hour on; six are two rings of
    three, of which one is turned.  Two screws push one way each: up-down and left-right.  What
    nobody measured of them is taken as usual.

    Source: rules.md#finder: the tube moves toward the loosened screw; a ring at the rear
    end moves opposite to the axis.
    """
    end = 1.0 if (finder.ring_end or USUAL_END) == "front" else -1.0
    first = finder.first_screw_hour or USUAL_HOUR
    shift_mm = end * np.tan(move_arcmin / ARCMIN_PER_RADIAN) * (finder.lever_mm or USUAL_LEVER_MM)
    if finder.screws == 2:
        hours = [first, (first + 2) % 12 + 1]
    else:
        count = 3 if finder.screws == 6 else finder.screws
        hours = [(first - 1 + round(12 * n / count)) % 12 + 1 for n in range(count)]
    pitch_mm = finder.thread_pitch_mm or USUAL_PITCH_MM
    return [
        _screw(hour, float(shift_mm @ np.array(clock_direction(hour)) / pitch_mm)) for hour in hours
    ]


def _screw(hour: int, turns_out: float) -> ScrewTurn:
    if abs(turns_out) < LEAST_TURN:
        return ScrewTurn(hour=hour, turns_out=turns_out, way="leave", words="leave")
    way: Literal["out", "in"] = "out" if turns_out > 0 else "in"
    return ScrewTurn(
        hour=hour, turns_out=turns_out, way=way, words=f"{turns_number(turns_out)} {way}"
    )


def are_measured(finder: Finder) -> bool:
    """Return whether somebody measured how a finder's screws sit.  Source: the kit."""
    return finder.lever_mm is not None and finder.thread_pitch_mm is not None


def _outside(angles: Geometry, finder: Finder, given: FinderInput) -> OutOfRange:
    least_m = (
        finder.offset_mm / 1000 / np.tan(EDGE * angles.field_radius_arcmin / ARCMIN_PER_RADIAN)
    )
    distance = given.landmark.distance_m if given.landmark else 0.0
    return OutOfRange(
        "landmark.distance_m",
        distance,
        f"more than {least_m:.0f} m for {finder.name}",
        "So near, the landmark falls outside the finder's field; choose one farther away.",
    )


def _instruction(
    agrees: bool,
    star_off: float,
    limit: float,
    finder: Finder,
    angles: Geometry,
    move: Floats,
) -> str:
    if agrees and star_off > limit:
        return f"Both agree here. On a star {star_off:.0f}′ will be left: trim it there."
    if agrees:
        return "The finder agrees. Snug all screws and look once more in both."
    if finder.screws == 2:
        right, up = angles.seen(move)
        is_across = abs(right) >= abs(up)
        pair = "left–right" if is_across else "up–down"
        way = ("right" if right > 0 else "left") if is_across else ("up" if up > 0 else "down")
        marks = "move" if finder.traits.mark.endswith("s") else "moves"
        return (
            f"Turn the {pair} screw until the {finder.traits.mark} {marks} {way} onto the target."
        )
    screws = screw_turns(move, finder)
    loosen = sorted((one for one in screws if one.way == "out"), key=_turns, reverse=True)
    tighten = [one for one in screws if one.way == "in"]
    first = ", ".join(f"{one.hour} o'clock {turns_words(one.turns_out)}" for one in loosen)
    first = first.replace(" turns,", ",").replace(" turn,", ",")
    then = " and ".join(str(one.hour) for one in tighten) or "the opposite one"
    return f"Loosen {first or 'all a touch'}; tighten {then} to follow."


def _turns(screw: ScrewTurn) -> float:
    return screw.turns_out


def _detail(finder: Finder, given: FinderInput, is_far: bool, agrees: bool) -> str:
    parts = []
    if given.on == "landmark" and not is_far:
        if given.method == "crossing":
            parts.append(
                "The landmark is too near for crossing axes: it will be off at night. Take the "
                "parallel way, or one farther away."
            )
        else:
            parts.append("The landmark is near; the parallel way makes up for it.")
    if not agrees:
        parts.append("First see that it still stands in the middle of the main field.")
        if finder_orientation(finder.kind).matrix[0][0] < 0 and finder.screws > 2:
            mark = finder.traits.mark
            parts.append(f"In this finder the {mark} seems to go the other way: trust the screws.")
        parts.append("How far is about right only; go back and forth between both.")
    return " ".join([*parts, finder.traits.off_words]).strip()


def _star_words(star_off: float, seen: Floats, limit: float) -> str:
    if star_off <= limit:
        return "On the first star the finder will be right within a tenth of your widest field."
    hour = clock_hour(float(seen[0]), float(seen[1]))
    return (
        f"On the first star the target will stand {star_off:.0f}′ from the mark, toward "
        f"{hour} o'clock as you see it: trim it there."
    )


def _sums(
    finder: Finder,
    given: FinderInput,
    angles: Geometry,
    field_deg: float,
    off_arcmin: float,
    units: Units,
) -> list[Sum]:
    sums = [
        Sum(
            title="Off in the finder",
            formula="place seen × field radius, turned back as this finder shows it",
            worked=f"({given.seen_right:.2f}, {given.seen_up:.2f}) × "
            f"{angles.field_radius_arcmin:.0f}′",
            result=f"{off_arcmin:.0f}′",
            source=OWN_RULE,
            rule="finder",
            sureness="about",
            note="Turns follow from lever and thread of the screws, as measured."
            if are_measured(finder)
            else "Turns follow from lever and thread of the screws, estimates until measured.",
        )
    ]
    if given.landmark is not None and given.on == "landmark":
        sums.append(
            Sum(
                title="Parallax",
                formula="atan(s ÷ d); far enough when it is under a tenth of the field's radius",
                worked=f"atan({finder.offset_mm:g} mm ÷ {given.landmark.distance_m:g} m), "
                f"0.1 × {field_deg:.2f}° ÷ 2 = {SHARE_OF_FIELD * field_deg * 30:.1f}′",
                result=f"{angles.parallax_arcmin:.1f}′",
                source=OWN_RULE,
                rule="finder",
                sureness="exact",
                note=f"From {units.distance(needed_distance_m(finder.offset_mm, field_deg))} on it "
                "does not matter which way you align.",
            )
        )
    return sums
