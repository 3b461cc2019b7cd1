"""Dark hours without the Moon as an iCalendar file (RFC 5545)."""

from collections.abc import Iterator
from datetime import datetime

from jade_perch.core.site import Site
from jade_perch.core.sky.calendar import Calendar
from jade_perch.exchange.ics import Entry, write_events


def write_calendar(calendar: Calendar, site: Site, now_utc: datetime) -> bytes:
    """Return each stretch of moonless darkness as an event at its place."""
    return write_events(_entries(calendar), site, now_utc)


def _entries(calendar: Calendar) -> Iterator[Entry]:
    for night in calendar.nights:
        best = ", among the best" if night.is_best else ""
        hours = f"{night.moonless_hours:.1f} h dark without the Moon"
        said = f"{hours}; Moon {night.moon_lit_percent:.0f} % lit."
        for number, span in enumerate(one for one in night.spans if one.is_moonless):
            name = f"dark-{night.date}-{number}"
            summary = f"Dark without Moon{best}"
            yield Entry(name, span.start_utc, span.end_utc, summary, said)
