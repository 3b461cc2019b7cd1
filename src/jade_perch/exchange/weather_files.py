"""Hours of weather as CSV or as a JSON document; cells may be empty and hours may lack."""

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import partial
from typing import Any

from jade_perch.core.errors import OutOfRange
from jade_perch.core.weather import HOUR, MOST_HOURS, VALUES, FileHour, WeatherHour
from jade_perch.exchange.tables import (
    FileReport,
    FileRow,
    FileType,
    document_schema,
    file_report,
    file_row,
    read_document,
    read_table,
    safe_cells,
    tried,
    write_document,
)

COLUMNS = ("hour_utc", *VALUES)
MARK = ("jade-perch-weather", 1)
WEATHER_FILE = "weather file"


@dataclass(frozen=True, slots=True)
class ReadWeather:
    """The hours of a file that could be read, and its report."""

    report: FileReport
    hours: tuple[FileHour, ...]


def read_weather(data: bytes, file_type: FileType) -> ReadWeather:
    """Return the hours of a file with a report of each row.

    Raises ``OutOfRange`` when the file as a whole cannot be read.
    """
    if file_type == "json":
        rows = read_document(data, MARK, "hours", MOST_HOURS, WEATHER_FILE)
    else:
        rows = read_table(data, COLUMNS, "hour_utc", MOST_HOURS, WEATHER_FILE)
    told: list[FileRow] = []
    hours: dict[datetime, FileHour] = {}
    for row in rows:
        given = {name: value for name, value in row.values.items() if value not in ("", None)}
        problems = [row.problem] if row.problem else []
        hour = None if problems else tried(partial(FileHour.model_validate, given), problems)
        if hour is not None and hour.hour_utc in hours:
            cure = "Keep one row an hour."
            again = OutOfRange("hour_utc", given["hour_utc"], "each hour once", cure)
            problems.append(again.problem())
        elif hour is not None:
            hours[hour.hour_utc] = hour
        count = sum(name in VALUES for name in given)
        outcome = f"{count} of {len(VALUES)} values"
        told.append(file_row(row.line, str(row.values.get("hour_utc", "")), outcome, problems))
    if not told:
        raise OutOfRange("file", "no rows", "at least one hour", "Choose another file.")
    found = tuple(hours[at] for at in sorted(hours))
    return ReadWeather(file_report(told, len(found), _words(found)), found)


def _words(hours: Sequence[FileHour]) -> str:
    """Return how many hours there are, and what lacks: that stays unknown."""
    span = (hours[-1].hour_utc - hours[0].hour_utc) // HOUR + 1 if hours else 0
    holes = span - len(hours)
    gaps = sum(any(getattr(one, name) is None for name in VALUES) for one in hours)
    parts = [f"{len(hours)} hours"]
    parts += [f"{holes} lack between them"] if holes else []
    parts += [f"{gaps} leave values out"] if gaps else []
    unknown = " What lacks stays unknown." if holes or gaps else ""
    return f"{', '.join(parts)}.{unknown}"


def write_weather_csv(hours: Sequence[WeatherHour]) -> str:
    """Return hours as CSV text, empty where nobody said anything; simulated ones are not said."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, COLUMNS, restval="", lineterminator="\r\n")
    writer.writeheader()
    writer.writerows(safe_cells(_told(one)) for one in hours)
    return out.getvalue()


def write_weather_json(hours: Sequence[WeatherHour]) -> str:
    """Return hours as a JSON document; simulated ones are not said."""
    return write_document(MARK, "hours", [_told(one) for one in hours])


def _told(hour: WeatherHour) -> dict[str, Any]:
    written = hour.hour_utc.strftime("%Y-%m-%dT%H:%MZ")
    names = hour.typed if hour.source == "simulated" else VALUES
    values = {name: getattr(hour, name) for name in names}
    return {"hour_utc": written} | {
        name: int(value) if float(value).is_integer() else value
        for name, value in values.items()
        if value is not None
    }


def weather_schema() -> dict[str, Any]:
    """Return the JSON Schema of the document, from the model itself."""
    return document_schema(
        "Jade Perch weather", MARK, "hours", MOST_HOURS, FileHour.model_json_schema()
    )
