"""People at the eyepiece: whose turn, focus for their eyes, glasses, reach, and manners."""

from collections.abc import Sequence
from datetime import datetime

from jade_perch.core.bench.focus import FELT_MM
from jade_perch.core.bench.seat import (
    SEAT_HIGH_MM,
    SEAT_LOW_MM,
    SITTING_SHARE,
    STOOP_SHARE,
    eyepiece_heights_mm,
    tube_of,
)
from jade_perch.core.evening.setup import SetupReading, standing_readings
from jade_perch.core.eyepiece.keeping import Keeping
from jade_perch.core.eyepiece.sitting import Sitting
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Diagonal, Mount, Observer, Telescope
from jade_perch.core.optics.powers import refocus_shift_mm
from jade_perch.core.optics.rungs import ASTIGMATISM_PUPIL_MM, GLASSES_RELIEF_MM, Rung
from jade_perch.core.units import Units

TURN_S = 120.0  # how long a turn at the eyepiece takes; our estimate
CHILD_YEARS = 14  # up to this age somebody stands beside; our choice
MANNERS = (
    "Ask first whether they would like to look.",
    "Hands behind the back; hold on to the chair, never to the telescope.",
    "Eye close over the lens, head still; let the view come.",
    "All black? The head moved off the lens: back a little, and slowly in.",
    "Say what is there to be seen, and wait: it takes a minute.",
)
CHILD_MANNERS = (
    "A child on a step is held by the hand the whole time.",
    "Let them say what they see before you tell.",
)


class PersonHint(Frozen):
    """What one person needs at this rung and height, each a sentence, empty for nothing.

    ``is_about`` where the eyepiece's height rests on a guess of the tube or an unknown pivot.
    """

    person_id: int | None
    name: str
    focus: str
    glasses: str
    guard: str
    reach: str
    is_child: bool
    is_about: bool


class Queue(Frozen):
    """Who looks, who comes next, and how often to bring the target back for them.

    ``recentre_s`` is after how long, ``turns`` how many turns of two minutes fit before that.
    """

    now: PersonHint | None
    next: list[str]
    next_ids: list[int]
    turn_since_utc: datetime | None
    recentre_s: float | None
    turns: int | None
    words: str
    manners: list[str]


def hint_for(
    person: Observer,
    before: Observer | None,
    rung: Rung | None,
    focal_length_mm: float | None,
    amplification: float,
    reach: tuple[str, bool],
    units: Units,
) -> PersonHint:
    """Return what somebody needs at the eyepiece after whoever looked before them.

    ``focal_length_mm`` is the eyepiece's, ``amplification`` of what stands before it.

    Source: rules.md#focus; rules.md#glasses; rules.md#people.
    """
    keeps = _keeps_glasses(person, rung)
    focus = ""
    if focal_length_mm is not None and rung is not None:
        focus = _focus_words(person, before, rung, focal_length_mm, amplification, units)
    return PersonHint(
        person_id=person.id,
        name=person.name,
        focus=focus,
        glasses=_glasses_words(person, rung, keeps=keeps),
        guard="" if rung is None else _guard_words(keeps=keeps),
        reach=reach[0],
        is_child=person.age_years is not None and person.age_years <= CHILD_YEARS,
        is_about=reach[1],
    )


def _keeps_glasses(person: Observer, rung: Rung | None) -> bool:
    return (
        person.glasses == "astigmatism"
        and rung is not None
        and rung.exit_pupil_mm > ASTIGMATISM_PUPIL_MM
    )


def _eye_shift_mm(
    person: Observer | None, rung: Rung, focal_length_mm: float, amplification: float
) -> float | None:
    """Return how far a person's focus lies from that of a far-sighted eye without fault, in mm."""
    if person is None or person.sight_diopters is None:
        return None
    if _keeps_glasses(person, rung):
        return 0.0
    return float(refocus_shift_mm(focal_length_mm, person.sight_diopters, amplification))


def _focus_words(
    person: Observer,
    before: Observer | None,
    rung: Rung,
    focal_length_mm: float,
    amplification: float,
    units: Units,
) -> str:
    mine = _eye_shift_mm(person, rung, focal_length_mm, amplification)
    if mine is None:
        return f"{person.name}'s sight is not known: refocus for them."
    theirs = _eye_shift_mm(before, rung, focal_length_mm, amplification)
    turn = mine - (theirs or 0.0)
    if abs(turn) < FELT_MM:
        return "Focus: hardly a change."
    way = "in" if turn < 0 else "out"
    after = "" if before is None or theirs is None else f" after {before.name}"
    return f"Focuser about {units.small(abs(turn))} {way}{after}."


def _glasses_words(person: Observer, rung: Rung | None, *, keeps: bool) -> str:
    if person.glasses == "none" or rung is None:
        return ""
    relief = rung.eye_relief_mm
    if not keeps:
        return "Glasses off: focus makes up for them."
    if relief is None:
        return "Glasses on: the beam is wide. Whether the eyepiece leaves room is not known."
    if relief < GLASSES_RELIEF_MM:
        return f"Glasses on if they can; only {relief:.0f} mm of room, so not the whole field."
    return "Glasses on: in this wide beam they help."


def _guard_words(*, keeps: bool) -> str:
    return "Eye guard down." if keeps else "Eye guard up."


def reach_of(
    person: Observer,
    telescope: Telescope,
    diagonal: Diagonal | None,
    altitude_deg: float,
    pivot_mm: float | None,
    units: Units,
) -> tuple[str, bool]:
    """Return the seat or step somebody needs at this altitude, and whether that is about.

    Empty where nothing is needed, or nobody knows how tall they are or how high the pivot stands.

    Source: rules.md#stand.
    """
    eye_mm = person.eye_height_mm
    if eye_mm is None or pivot_mm is None:
        return "", True
    tube = tube_of(telescope, diagonal)
    high_mm = float(eyepiece_heights_mm(tube, pivot_mm, altitude_deg))
    about = "about " if tube.is_about else ""
    if high_mm > eye_mm:
        words = f"A firm step of {about}{units.height(high_mm - eye_mm)}, and a hand to hold."
        return words, tube.is_about
    if high_mm >= STOOP_SHARE * eye_mm:
        return "Stands at this height.", tube.is_about
    seat_mm = high_mm - SITTING_SHARE * eye_mm
    if seat_mm < SEAT_LOW_MM:
        return "Kneels, on something dry; or raise the stand.", tube.is_about
    if seat_mm > SEAT_HIGH_MM:
        return "Between seat and standing: stoop with a hand on the chair.", tube.is_about
    return f"Seat at {about}{units.height(seat_mm)}.", tube.is_about


def known_pivot_mm(readings: Sequence[SetupReading], mount: Mount) -> float | None:
    """Return how high the pivot stands: as recorded tonight, or where it cannot be moved.

    None where nobody said.

    Source: rules.md#stand.
    """
    stand = standing_readings(readings).get("stand")
    if stand is not None and "pivot_height_mm" in stand.figures:
        return stand.figures["pivot_height_mm"]
    return mount.lowest_mm if mount.lowest_mm == mount.highest_mm else None


def make_queue(
    sitting: Sitting, people: Sequence[Observer], now: PersonHint | None, keeping: Keeping | None
) -> Queue:
    """Return the queue as it stands; who is gone from the evening is left out of it.

    Source: rules.md#people.
    """
    names = {one.id: one.name for one in people}
    waiting = [one for one in sitting.queue if one in names]
    push_s = None if keeping is None else keeping.push_s
    turns = None if push_s is None else int(push_s // TURN_S)
    has_child = now is not None and now.is_child
    return Queue(
        now=now,
        next=[names[one] for one in waiting],
        next_ids=waiting,
        turn_since_utc=sitting.turn_since_utc,
        recentre_s=push_s,
        turns=turns,
        words=_queue_words(push_s, turns) if waiting else "",
        manners=[*MANNERS, *(CHILD_MANNERS if has_child else ())],
    )


def _queue_words(push_s: float | None, turns: int | None) -> str:
    if push_s is None or turns is None:
        return "It stays for everybody: only look that it is still centred."
    if turns >= 1:
        many = "every turn" if turns == 1 else f"every {turns} turns"
        return f"Bring it back {many}: a turn is {TURN_S / 60:.0f} min."
    return f"Bring it back within each turn, after {push_s:.0f} s; stay beside the tube."
