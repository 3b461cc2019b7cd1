"""Dark hours without the Moon as an iCalendar file (RFC 5545)."""

from datetime import datetime

from icalendar import Calendar as File
from icalendar import Event

from jade_perch.core.site import Site
from jade_perch.core.sky.calendar import Calendar

PRODUCT = "-//Jade Perch//Evenings//EN"


def write_calendar(calendar: Calendar, site: Site, now_utc: datetime) -> bytes:
    """Return each stretch of moonless darkness as an event at its place."""
    file = File()
    file.add("prodid", PRODUCT)
    file.add("version", "2.0")
    for night in calendar.nights:
        for number, span in enumerate(one for one in night.spans if one.is_moonless):
            event = Event()
            event.add("uid", f"dark-{night.date}-{number}-{site.id}@jade-perch")
            event.add("dtstamp", now_utc)
            event.add("dtstart", span.start_utc)
            event.add("dtend", span.end_utc)
            best = ", among the best" if night.is_best else ""
            event.add("summary", f"Dark without Moon{best}")
            event.add("location", site.name)
            hours = f"{night.moonless_hours:.1f} h dark without the Moon"
            event.add("description", f"{hours}; Moon {night.moon_lit_percent:.0f} % lit.")
            file.add_component(event)
    return bytes(file.to_ical())
