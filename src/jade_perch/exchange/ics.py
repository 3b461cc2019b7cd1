"""Events at a place as an iCalendar file (RFC 5545)."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from jade_perch.core.site import Site

PRODUCT = "-//Jade Perch//Evenings//EN"


@dataclass(frozen=True, slots=True)
class Entry:
    """One event: what it is known by here, from when to when, and what is said of it."""

    name: str
    start_utc: datetime
    end_utc: datetime
    summary: str
    description: str = ""


def write_events(entries: Iterable[Entry], site: Site, now_utc: datetime) -> bytes:
    """Return events at a place as a file."""
    from icalendar import Calendar, Event  # a sixth of a second: not at every start

    file = Calendar()
    file.add("prodid", PRODUCT)
    file.add("version", "2.0")
    for one in entries:
        event = Event()
        event.add("uid", f"{one.name}-{site.id}@jade-perch")
        event.add("dtstamp", now_utc)
        event.add("dtstart", one.start_utc)
        event.add("dtend", one.end_utc)
        event.add("summary", one.summary)
        event.add("location", site.name)
        if one.description:
            event.add("description", one.description)
        file.add_component(event)
    return bytes(file.to_ical())
