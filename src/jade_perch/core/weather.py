"""The weather hour by hour: what a service, a file or a person says, and what of it counts."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Annotated, Literal

from pydantic import AfterValidator

from jade_perch.core.fields import Frozen, Item, Label, Loaded, Range, UtcTime, refused

HOUR = timedelta(hours=1)
NEAR_HOURS = 3  # the air of an hour so near stands for one that nobody knows; our choice
MOST_HOURS = 400  # of one file: sixteen days and some
WeatherSource = Literal["simulated", "file", "typed"]
AirStep = Annotated[int, Range(1, 5, "(1 worst, 5 best)", "Choose a step from 1 to 5.")]


def _whole_hour(moment: datetime) -> datetime:
    if (moment.minute, moment.second, moment.microsecond) != (0, 0, 0):
        cure = "Write whole hours of UTC, such as 2027-02-13T20:00Z."
        raise refused(None, moment.isoformat(), "a whole hour of UTC", cure)
    return moment


WholeHour = Annotated[UtcTime, AfterValidator(_whole_hour)]


class HourValues(Frozen):
    """What the air does in an hour; None is not known."""

    cloud_percent: (
        Annotated[float, Range(0, 100, "%", "Say how much of the sky is covered.")] | None
    ) = None
    wind_m_s: Annotated[float, Range(0, 60, "m/s", "Mean wind, not gusts.")] | None = None
    humidity_percent: Annotated[float, Range(1, 100, "%", "Read a hygrometer.")] | None = None
    air_c: Annotated[float, Range(-60, 50, "°C", "Read a thermometer in the shade.")] | None = None
    steadiness: AirStep | None = None
    transparency: AirStep | None = None


VALUES = tuple(HourValues.model_fields)


class FileHour(HourValues):
    """One hour of a file or a service, from its beginning in UTC."""

    hour_utc: WholeHour


class TypedHour(HourValues, Item):
    """One hour at one place as somebody typed it; what was not typed stays as it was."""

    site_id: int
    hour_utc: WholeHour


def _in_order(hours: tuple[FileHour, ...]) -> tuple[FileHour, ...]:
    if not 1 <= len(hours) <= MOST_HOURS:
        cure = "Leave other days out."
        raise refused("hours", f"{len(hours)} hours", f"1 to {MOST_HOURS} hours", cure)
    return tuple(sorted(hours, key=lambda one: one.hour_utc))


class WeatherFile(Item):
    """A file of hours read for a place; between its first and last hour it alone counts."""

    site_id: int
    name: Label
    read_at_utc: UtcTime
    hours: Annotated[tuple[FileHour, ...], Loaded, AfterValidator(_in_order)]


class WeatherHour(HourValues):
    """One hour as it counts: whose word it is, and which values somebody typed over it.

    ``source`` None is an hour of which nobody says anything; ``typed_id`` and ``typed_version``
    name what was typed.
    """

    hour_utc: datetime
    source: WeatherSource | None
    typed: tuple[str, ...] = ()
    typed_id: int | None = None
    typed_version: int | None = None


@dataclass(frozen=True)
class ToldWeather:
    """What was read or typed for a place: files newest first, typed hours.  Nothing simulated."""

    files: tuple[WeatherFile, ...] = ()
    typed: tuple[TypedHour, ...] = ()


NOTHING_TOLD = ToldWeather()


def hour_of(moment_utc: datetime) -> datetime:
    """Return the whole hour of UTC that a moment lies in.  Source: rules.md#weather."""
    return moment_utc.astimezone(UTC).replace(minute=0, second=0, microsecond=0)


def hours_between(start_utc: datetime, end_utc: datetime) -> list[datetime]:
    """Return the whole hours from the one a stretch begins in to its end.

    Source: rules.md#weather.
    """
    first = hour_of(start_utc)
    count = max(0, -(-(end_utc - first) // HOUR))
    return [first + number * HOUR for number in range(count)]


def merged(
    hours_utc: Sequence[datetime], told: ToldWeather, simulated: Iterable[FileHour] = ()
) -> list[WeatherHour]:
    """Return each hour as it counts: typed over the file, the file over what is simulated.

    Where a file says anything of these hours nothing simulated stands beside it: what it leaves
    out is not known.

    Source: rules.md#weather.
    """
    by_hour = {one.hour_utc: one for one in simulated}
    typed = {one.hour_utc: one for one in told.typed}
    is_read = any(_spans(one, at) for one in told.files for at in hours_utc)
    found = []
    for at in hours_utc:
        read = next((one for one in told.files if _spans(one, at)), None)
        source: WeatherSource = "file" if is_read else "simulated"
        base = _row(read, at) if is_read else by_hour.get(at)
        found.append(_typed_over(at, base, source, typed.get(at)))
    return found


def _spans(file: WeatherFile, hour_utc: datetime) -> bool:
    return file.hours[0].hour_utc <= hour_utc <= file.hours[-1].hour_utc


def _row(file: WeatherFile | None, hour_utc: datetime) -> FileHour | None:
    if file is None:
        return None
    return next((one for one in file.hours if one.hour_utc == hour_utc), None)


def _typed_over(
    hour_utc: datetime, base: FileHour | None, source: WeatherSource, typed: TypedHour | None
) -> WeatherHour:
    values = {name: None if base is None else getattr(base, name) for name in VALUES}
    over = {name: getattr(typed, name) for name in VALUES if typed is not None}
    said = tuple(name for name, value in over.items() if value is not None)
    values |= {name: over[name] for name in said}
    known = any(value is not None for name, value in values.items() if name not in said)
    return WeatherHour(
        hour_utc=hour_utc,
        source=source if known else "typed" if said else None,
        typed=said,
        typed_id=None if typed is None else typed.id,
        typed_version=None if typed is None else typed.version,
        **values,
    )


def rests_on_simulated(hour: WeatherHour, name: str) -> bool:
    """Return whether a value of an hour is nobody's word but the stand-in's.

    Source: rules.md#simulated.
    """
    return hour.source == "simulated" and name not in hour.typed


def nearest_with(
    hours: Sequence[WeatherHour], moment_utc: datetime, *names: str
) -> WeatherHour | None:
    """Return the hour that says some values nearest to a moment, none farther than a few hours.

    Source: rules.md#weather.
    """
    at = hour_of(moment_utc)
    near = [
        one
        for one in hours
        if abs(one.hour_utc - at) <= NEAR_HOURS * HOUR
        and all(getattr(one, name) is not None for name in names)
    ]
    return min(near, key=lambda one: (abs(one.hour_utc - at), one.hour_utc), default=None)
