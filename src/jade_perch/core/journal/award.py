"""A list as award programmes ask for it: one row an entry, in its order, gaps shown."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from typing import NamedTuple
from zoneinfo import ZoneInfo

from jade_perch.core.evening.context import EveningRow
from jade_perch.core.evening.journal import Observation, Outcome
from jade_perch.core.evening.sketch import Sketch
from jade_perch.core.fields import Frozen
from jade_perch.core.journal.lists import ListProgress, Mark
from jade_perch.core.site import Site

NOT_YET = "not yet seen"
OUTCOME_WORDS = {"seen": "", "glimpsed": "Glimpsed. ", "not seen": "Tried, not seen. "}


@dataclass(frozen=True, slots=True)
class Background:
    """What stands behind a note: its evening, and the place it was made from if that is known."""

    evening: EveningRow | None
    place: Site | None


UNKNOWN = Background(None, None)


class LogRow(Frozen):
    """One row of a log, all in words; of an entry that is open only the first two are filled."""

    number: str = ""
    object: str
    date: str = ""
    time: str = ""
    place: str = ""
    position: str = ""
    telescope: str = ""
    power: str = ""
    sky: str = ""
    steadiness: str = ""
    observer: str = ""
    description: str = ""
    sketch: Sketch = ()

    @property
    def is_open(self) -> bool:
        """Whether nothing counts for it yet.  Source: rules.md#award-log."""
        return not self.date


class AwardLog(Frozen):
    """A whole log: its list's title, how far it is, and its rows in the list's order."""

    title: str
    words: str
    rows: list[LogRow]


def make_log(
    progress: ListProgress,
    notes: Mapping[int, Observation],
    behind: Mapping[int, Background],
) -> AwardLog:
    """Return a list's log; for each entry counts the first note of the best outcome.

    ``notes`` and ``behind`` go by the number of a note.  What was only tried in vain stays a gap.

    Source: rules.md#award-log.
    """
    return AwardLog(
        title=progress.title,
        words=progress.words,
        rows=[_row(mark, notes, behind) for mark in progress.marks],
    )


def _row(mark: Mark, notes: Mapping[int, Observation], behind: Mapping[int, Background]) -> LogRow:
    note = None if mark.observation_id is None else notes.get(mark.observation_id)
    if note is None or mark.state == "tried":
        return LogRow(number=str(mark.number), object=mark.name)
    cells = log_cells(plain_note(note), behind.get(note.id or 0, UNKNOWN))
    cells |= {"number": str(mark.number), "object": mark.name}
    return LogRow(**cells, sketch=note.sketch)


class PlainNote(NamedTuple):
    """What of a note a log tells, as it is kept: for many at once, without judging each again."""

    id: int
    observed_at_utc: datetime
    object_name: str
    telescope_name: str
    glass: str
    magnification: float | None
    steadiness: int | None
    transparency: int | None
    outcome: Outcome | None
    observer_name: str
    words: str
    site_name: str
    zone: str
    evening_id: int | None


def plain_note(note: Observation) -> PlainNote:
    """Return what of an observation a log tells.  Source: rules.md#award-log."""
    found = (getattr(note, name) for name in PlainNote._fields[1:])
    return PlainNote(note.id or 0, *found)


def log_cells(note: PlainNote, behind: Background) -> dict[str, str]:
    """Return one note in the words of a log, by column, without a number.

    Source: rules.md#award-log.
    """
    local = note.observed_at_utc.astimezone(ZoneInfo(note.zone))
    power = f"{note.magnification:.0f}×" if note.magnification else ""
    outcome = OUTCOME_WORDS.get(note.outcome or "seen", "")
    return {
        "object": note.object_name,
        "date": local.date().isoformat(),
        "time": f"{local:%H:%M %Z}",
        "place": note.site_name,
        "position": "" if behind.place is None else _position(behind.place),
        "telescope": note.telescope_name,
        "power": " · ".join(one for one in (power, note.glass) if one),
        "sky": _sky(note, behind),
        "steadiness": "" if note.steadiness is None else f"{note.steadiness} of 5",
        "observer": note.observer_name,
        "description": f"{outcome}{note.words}".strip(),
    }


@lru_cache(maxsize=256)
def _position(place: Site) -> str:
    north = "N" if place.latitude_deg >= 0 else "S"
    east = "E" if place.longitude_deg >= 0 else "W"
    return f"{abs(place.latitude_deg):.2f}° {north}, {abs(place.longitude_deg):.2f}° {east}"


def _sky(note: PlainNote, behind: Background) -> str:
    """Return the sky as it was judged: transparency, and the faintest star or the place's class."""
    parts = []
    if note.transparency is not None:
        parts.append(f"{note.transparency} of 5")
    if behind.evening is not None and behind.evening.faintest_seen_mag is not None:
        parts.append(f"to {behind.evening.faintest_seen_mag:.1f} mag")
    elif behind.place is not None and behind.place.dark_sky_class is not None:
        parts.append(f"class {behind.place.dark_sky_class}")
    return ", ".join(parts)
