"""What was read or typed of the weather at a place."""

import sqlite3
from datetime import datetime, timedelta

from jade_perch.core.site import Site
from jade_perch.core.sky.night import Night
from jade_perch.core.weather import (
    NOTHING_TOLD,
    VALUES,
    ToldWeather,
    TypedHour,
    WeatherFile,
    hour_of,
)
from jade_perch.store.connection import atomic
from jade_perch.store.errors import Stale
from jade_perch.store.items import (
    ItemTable,
    add_item,
    change_item,
    changed_fields,
    delete_item,
    plain,
    select_items,
)

WEATHER_FILES = ItemTable("weather_file", WeatherFile, order_by="id DESC")
TYPED_HOURS = ItemTable(
    "typed_hour", TypedHour, order_by="hour_utc", stands_by=("id", "site_id", "hour_utc")
)
BEFORE = timedelta(hours=12)  # set-up reads the air of the morning too
FILES_OF = """
SELECT id, version, site_id, name, read_at_utc, hours
  FROM weather_file
 WHERE site_id = :site_id
   AND deleted_at_utc IS NULL
   AND json_extract(hours, '$[0].hour_utc') <= :end_utc
   AND json_extract(hours, '$[#-1].hour_utc') >= :start_utc
 ORDER BY id DESC
 LIMIT 8
"""
HOURS_OF = """
SELECT id, version, site_id, hour_utc, cloud_percent, wind_m_s, humidity_percent, air_c,
       steadiness, transparency
  FROM typed_hour
 WHERE site_id = :site_id
   AND deleted_at_utc IS NULL
   AND hour_utc BETWEEN :start_utc AND :end_utc
 ORDER BY hour_utc
"""


def told_weather(db: sqlite3.Connection, place: Site | None, night: Night | None) -> ToldWeather:
    """Return the hours of a night as read or typed for its place, files newest first."""
    if place is None or place.id is None or night is None:
        return NOTHING_TOLD
    return told_hours(db, place.id, hour_of(night.start_utc - BEFORE), night.end_utc)


def told_hours(
    db: sqlite3.Connection, site_id: int, start_utc: datetime, end_utc: datetime
) -> ToldWeather:
    """Return the hours between two moments as read or typed for a place, files newest first."""
    at = {"site_id": site_id, "start_utc": plain(start_utc), "end_utc": plain(end_utc)}
    return ToldWeather(
        files=tuple(select_items(db, WEATHER_FILES, FILES_OF, at)),
        typed=tuple(select_items(db, TYPED_HOURS, HOURS_OF, at)),
    )


def type_hour(db: sqlite3.Connection, hour: TypedHour) -> TypedHour | None:
    """Keep an hour as typed, over what was typed before; one without any value is forgotten.

    Raises ``Stale`` where somebody else typed it since it was read.
    """
    with atomic(db):
        before = next(iter(told_hours(db, hour.site_id, hour.hour_utc, hour.hour_utc).typed), None)
        is_empty = all(getattr(hour, name) is None for name in VALUES)
        if before is None or before.id is None:
            return None if is_empty else add_item(db, TYPED_HOURS, hour)
        changed = changed_fields(hour, before)
        if changed and hour.version != before.version:
            raise Stale(TYPED_HOURS.kind, before, changed)
        if is_empty:
            delete_item(db, TYPED_HOURS, before.id)
            return None
        return change_item(db, TYPED_HOURS, before.id, hour) if changed else before
