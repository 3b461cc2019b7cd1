"""Packing up: a list made from what was really used tonight, and what is left open."""

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from jade_perch.core.evening.context import EveningRow
from jade_perch.core.eyepiece.sitting import Sitting, seen_targets, used_rungs
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Amplifier, Eyepiece, Finder, LightFilter, Mount, Telescope
from jade_perch.core.moments import clock_time, day_words
from jade_perch.core.optics.combinations import pieces_of
from jade_perch.core.upkeep import Due

TIRED = timedelta(hours=4)  # an evening this long wants a rest before driving; our choice
EARLY_HOUR = 6  # from midnight to this hour of the clock the road wants it too; our choice
# what every evening ends with, whatever was used: key, words, why
ALWAYS: tuple[tuple[str, str, str], ...] = (
    ("ground", "Walk the ground with a lamp, once round the tripod.", "Caps and screws lie there."),
    ("cells", "Note the cells: which were weak, which are out.", "Flat ones show themselves late."),
)


@dataclass(frozen=True, slots=True)
class Used:
    """What stands on the ground tonight; the case holds more than was in."""

    telescope: Telescope | None
    mount: Mount | None
    finders: Sequence[Finder]
    eyepieces: Sequence[Eyepiece]
    amplifiers: Sequence[Amplifier]
    filters: Sequence[LightFilter]


class PackItem(Frozen):
    """One thing to do before leaving: ``eyepiece_id`` where it goes back into the case."""

    key: str
    words: str
    why: str
    is_done: bool
    eyepiece_id: int | None = None


class Totals(Frozen):
    """What an evening came to."""

    minutes: int
    targets: int
    rungs: int
    notes: int
    words: str


class LeftOpen(Frozen):
    """What the last evening left undone; its presses go to that evening."""

    date: dt.date
    site_id: int | None
    items: list[PackItem]
    words: str


class Packing(Frozen):
    """The list of tonight, what is due for upkeep, and how the evening stands.

    ``drive_words`` is about the way home; ``left`` is what the last evening left undone;
    ``closed_at_utc`` None is an evening still open.
    """

    items: list[PackItem]
    due: list[Due]
    drive_words: str
    totals: Totals
    closed_at_utc: datetime | None
    left: LeftOpen | None


def pack_items(used: Used, sitting: Sitting) -> list[PackItem]:
    """Return what is to be done before leaving, in the order of the hands.

    Source: rules.md#packing.
    """
    found = [
        *_finders(used.finders),
        *_motor(used.mount),
        *_glass(used, sitting),
        *_filters(used.filters),
        *_tube(used.telescope),
        *((key, words, why, None) for key, words, why in ALWAYS),
    ]
    return [
        PackItem(
            key=key, words=words, why=why, is_done=key in sitting.packed, eyepiece_id=eyepiece_id
        )
        for key, words, why, eyepiece_id in found
    ]


Row = tuple[str, str, str, int | None]


def _finders(finders: Sequence[Finder]) -> list[Row]:
    return [
        (f"finder-{one.id}", f"{one.name}: switch it off.", "A dot left on is a flat cell.", None)
        for one in finders
        if one.traits.is_sight
    ]


def _motor(mount: Mount | None) -> list[Row]:
    if mount is None:
        return []
    if mount.traits.needs_power:
        why = "Clamps open only once it stands still."
        return [(f"mount-{mount.id}", f"{mount.name}: park it, power off.", why, None)]
    if mount.traits.drive == "equatorial":
        why = "The weight comes off last: the tube would fall."
        return [(f"mount-{mount.id}", f"{mount.name}: tube off first, then the weight.", why, None)]
    return []


def _glass(used: Used, sitting: Sitting) -> list[Row]:
    """Return every eyepiece and amplifier that was in, back to its own place."""
    eyepiece_ids, amplifier_ids = pieces_of(used_rungs(sitting))
    why = "Cap on once it is dry; count the wells."
    rows: list[Row] = [
        (f"eyepiece-{one.id}", f"{one.name}: back in its well, capped.", why, one.id)
        for one in used.eyepieces
        if one.id in eyepiece_ids
    ]
    return rows + [
        (f"amplifier-{one.id}", f"{one.name}: back in its well, capped.", why, None)
        for one in used.amplifiers
        if one.id in amplifier_ids
    ]


def _filters(filters: Sequence[LightFilter]) -> list[Row]:
    if not filters:
        return []
    names = ", ".join(one.name for one in filters)
    why = "A scratched front filter is never used on the Sun again."
    return [("filters", f"Filters in their own boxes: {names}.", why, None)]


def _tube(telescope: Telescope | None) -> list[Row]:
    if telescope is None:
        return []
    words = f"{telescope.name}: caps on only when dry; damp, leave it open indoors."
    return [(f"tube-{telescope.id}", words, "Damp under a cap stains the glass.", None)]


def totals_of(sitting: Sitting, notes: int, now_utc: datetime) -> Totals:
    """Return what an evening came to: how long, how many targets, rungs and notes.

    Source: rules.md#packing.
    """
    end = sitting.closed_at_utc or now_utc
    begun = sitting.begun_utc or end
    minutes = max(0, round((end - begun) / timedelta(minutes=1)))
    targets, rungs = len(seen_targets(sitting)), len(used_rungs(sitting))
    long = f"{minutes // 60} h {minutes % 60:02d} min"
    counted = [
        f"{number} {noun}{'' if number == 1 else 's'}"
        for number, noun in ((targets, "target"), (rungs, "rung"), (notes, "note"))
    ]
    return Totals(
        minutes=minutes,
        targets=targets,
        rungs=rungs,
        notes=notes,
        words=f"{long} at the eyepiece: {', '.join(counted)}.",
    )


def drive_words(sitting: Sitting, now_utc: datetime, zone: str) -> str:
    """Return what is said before driving home: always kindly, plainly when it is late or long.

    Source: rules.md#packing.
    """
    begun = sitting.begun_utc or now_utc
    is_long = now_utc - begun >= TIRED
    is_late = now_utc.astimezone(ZoneInfo(zone)).hour < EARLY_HOUR
    if is_long or is_late:
        why = "a long evening" if is_long else clock_time(now_utc, zone)
        return f"Tired? After {why}: rest twenty minutes before driving, or let somebody else."
    return "Tired? Rest before driving; eyes in the dark need a while for headlamps."


def left_open(used: Used, sitting: Sitting, evening: EveningRow) -> LeftOpen | None:
    """Return what an evening left undone; None for one that never began or left nothing.

    Source: rules.md#packing.
    """
    open_items = [one for one in pack_items(used, sitting) if not one.is_done]
    if sitting.begun_utc is None or not open_items or evening.date is None:
        return None
    closed = "" if sitting.closed_at_utc else " was not closed, and"
    count = f"{len(open_items)} {'thing' if len(open_items) == 1 else 'things'}"
    return LeftOpen(
        date=evening.date,
        site_id=evening.site_id,
        items=open_items,
        words=f"The evening of {day_words(evening.date)}{closed} left {count} open.",
    )
