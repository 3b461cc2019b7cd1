"""A finder's screws: where they sit, what a turn of them usually does, and how it is said."""

from typing import Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.advice import clock_direction, told_turns, turns_number
from jade_perch.core.bench.response import make_ways
from jade_perch.core.constants import ARCMIN_PER_RADIAN
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Finder, RingEnd

LEAST_TURN = 0.1  # a smaller turn is nothing to speak of
MOST_TURNS = 4.0  # at one go; our estimate
# How screws usually sit where nobody measured: our estimates, good to about a half.
USUAL_END: RingEnd = "rear"
USUAL_HOUR, USUAL_LEVER_MM, USUAL_PITCH_MM = 12, 90.0, 0.7
# A ring at the other end turns everything about; one looks in from a side; a view is mirrored.
WAYS = make_ways({0: 0.0, 180: 1.0, 90: 2.0, 270: 2.0}, 3.5, 2.5)


class ScrewTurn(Frozen):
    """One screw: its place as a clock hour seen from behind, turns, positive outwards.

    ``way`` is "leave" where the turn is nothing to speak of; ``words`` are for beside it.
    """

    hour: int
    turns_out: float
    way: Literal["out", "in", "leave"]
    words: str


def screw_hours(finder: Finder) -> list[int]:
    """Return where a finder's screws sit: evenly around the ring from the first one's hour on.

    Six are two rings of three, of which one is turned; two are a quarter of the way apart.

    Source: rules.md#finder.
    """
    first, count = finder.first_screw_hour or USUAL_HOUR, finder.screw_count
    if count == 2:
        return [first, (first + 2) % 12 + 1]
    count = 3 if count == 6 else count
    return [(first - 1 + round(12 * n / count)) % 12 + 1 for n in range(count)]


def usual_response(finder: Finder, matrix: Floats, field_radius_arcmin: float) -> Floats:
    """Return how the target usually goes in the view, in radii, for one turn right or up.

    ``matrix`` is how the finder shows the sky.  What nobody measured is taken as usual.

    Source: rules.md#finder: the tube moves toward the loosened screw; a ring at the rear end
    moves opposite to the axis, and the target goes against it.
    """
    end = 1.0 if (finder.ring_end or USUAL_END) == "front" else -1.0
    pitch, lever = finder.thread_pitch_mm or USUAL_PITCH_MM, finder.lever_mm or USUAL_LEVER_MM
    axis_radii = end * pitch / lever * ARCMIN_PER_RADIAN / field_radius_arcmin
    return np.asarray(-axis_radii * matrix)


def told_screws(turn: Floats, finder: Finder) -> tuple[list[ScrewTurn], Floats]:
    """Return each screw's turn as hands make it, and the plane turn that comes of it.

    ``turn`` is where the ring is to go, (right, up) in turns.

    Source: rules.md#finder.
    """
    size = float(np.hypot(*turn))
    turn = turn * min(1.0, MOST_TURNS / size) if size else turn
    hours = screw_hours(finder)
    toward = np.array([clock_direction(hour) for hour in hours])
    wanted = toward @ turn
    out = np.flatnonzero(wanted > LEAST_TURN).tolist() or [int(np.argmax(wanted))]
    told = np.array([told_turns(wanted[n]) for n in out])
    # what the loosened ones allow, the others are tightened to
    made = np.linalg.lstsq(toward[out], told, rcond=None)[0]
    screws = [_screw(hour, float(turns)) for hour, turns in zip(hours, toward @ made, strict=True)]
    return screws, np.asarray(made)


def _screw(hour: int, turns_out: float) -> ScrewTurn:
    if abs(turns_out) < LEAST_TURN / 2:
        return ScrewTurn(hour=hour, turns_out=turns_out, way="leave", words="leave")
    way: Literal["out", "in"] = "out" if turns_out > 0 else "in"
    words = f"{turns_number(turns_out)} {way}"
    return ScrewTurn(hour=hour, turns_out=turns_out, way=way, words=words)


def which_screw(usual: Floats, finder: Finder, moved: Floats) -> str:
    """Return as if which screw the target had moved, by what screws usually do.

    Source: rules.md#finder.
    """
    hours = screw_hours(finder)
    along = [float(usual @ np.array(clock_direction(hour)) @ moved) for hour in hours]
    best = int(np.argmax(np.abs(along)))
    way = "loosened" if along[best] > 0 else "tightened"
    return f"It went as if the screw at {hours[best]} o'clock had been {way}."


def screws_instruction(screws: list[ScrewTurn]) -> str:
    """Return which screws are loosened and which tightened, in one sentence.

    Source: rules.md#words.
    """
    loosen = [one for one in screws if one.way == "out"]
    loosen.sort(key=lambda one: -one.turns_out)
    tighten = " and ".join(str(one.hour) for one in screws if one.way == "in")
    said = ", ".join(f"{one.hour} o'clock {turns_number(one.turns_out)}" for one in loosen)
    last = told_turns(loosen[-1].turns_out)
    return f"Loosen {said} {'turn' if last <= 1 else 'turns'}; tighten {tighten} to follow."


def are_measured(finder: Finder) -> bool:
    """Return whether somebody measured how a finder's screws sit.  Source: the kit."""
    return finder.lever_mm is not None and finder.thread_pitch_mm is not None
