"""Evenings as bars by hour, and one evening opened: what was seen, read, told and who was there."""

import datetime as dt
from collections.abc import Iterator, Mapping, Sequence
from zoneinfo import ZoneInfo

from jade_perch.core.evening.context import EveningRow
from jade_perch.core.evening.journal import Observation, Outcome
from jade_perch.core.evening.setup import TITLES, SetupReading
from jade_perch.core.eyepiece.packing import totals_of
from jade_perch.core.eyepiece.sitting import Looked, Sitting
from jade_perch.core.fields import Frozen, UtcTime
from jade_perch.core.moments import day_words
from jade_perch.core.site import Site
from jade_perch.core.sky.calendar import NightShape
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.units import Units
from jade_perch.core.weather import ToldWeather, WeatherHour, hour_of, merged

NOON = dt.time(12)
LONGEST_STAY = dt.timedelta(hours=2)  # at one target; longer, and nobody said that they left


class BarMark(Frozen):
    """One observation on a bar."""

    id: int
    at_utc: UtcTime
    object_name: str
    outcome: Outcome | None


class Stay(Frozen):
    """How long a target was in the eyepiece, by the presses."""

    label: str
    start_utc: UtcTime
    end_utc: UtcTime


class EveningBar(Frozen):
    """One evening as it is drawn: from noon to noon of its place.

    ``shape`` is None where the place is not known any more, or no ephemeris reaches.
    """

    evening_id: int
    date: dt.date
    day_words: str
    place_name: str
    zone: str
    start_utc: UtcTime
    end_utc: UtcTime
    shape: NightShape | None
    marks: list[BarMark]
    stays: list[Stay]
    words: str


class ReadingLine(Frozen):
    """One set-up reading in words; ``spoiled_by`` says why it no longer held."""

    title: str
    at_utc: UtcTime
    telescope_name: str
    words: str
    is_good: bool
    spoiled_by: str
    simulated: str


class EveningTold(Frozen):
    """One evening opened.  Sentences that have nothing to say are left out."""

    bar: EveningBar
    observations: list[Observation]
    readings: list[ReadingLine]
    sentences: list[str]


def make_bar(
    evening: EveningRow,
    place: Site | None,
    shape: NightShape | None,
    marks: Sequence[BarMark],
    sitting: Sitting,
    catalogue: Catalogue,
    zone: str,
) -> EveningBar:
    """Return an evening as a bar; ``zone`` counts where there is no place.

    Source: rules.md#journal-bars.
    """
    assert evening.date is not None
    own_zone = zone if place is None else place.zone
    start, end = _bounds(evening.date, own_zone, shape)
    return EveningBar(
        evening_id=evening.id or 0,
        date=evening.date,
        day_words=day_words(evening.date),
        place_name="" if place is None else place.name,
        zone=own_zone,
        start_utc=start,
        end_utc=end,
        shape=shape,
        marks=list(marks),
        stays=_stays(sitting, catalogue),
        words=_counted(marks, sitting),
    )


def _bounds(day: dt.date, zone: str, shape: NightShape | None) -> tuple[dt.datetime, dt.datetime]:
    if shape is not None:
        return shape.start_utc, shape.end_utc
    start = dt.datetime.combine(day, NOON, tzinfo=ZoneInfo(zone)).astimezone(dt.UTC)
    return start, start + dt.timedelta(days=1)


def _stays(sitting: Sitting, catalogue: Catalogue) -> list[Stay]:
    """Return what was in the eyepiece when: each target from its first rung to the next target."""
    looks = looks_in_order(sitting)
    starts = [
        one for n, one in enumerate(looks) if n == 0 or looks[n - 1].target_key != one.target_key
    ]
    found = []
    for one, until in with_ends(starts, sitting):
        target = catalogue.find(one.target_key)
        label = one.target_key if target is None else target.label
        found.append(Stay(label=label, start_utc=one.at_utc, end_utc=until))
    return found


def looks_in_order(sitting: Sitting) -> list[Looked]:
    """Return the looks of a sitting by time.  Source: rules.md#journal-bars."""
    return sorted(sitting.looks, key=lambda one: one.at_utc)


def with_ends(looks: Sequence[Looked], sitting: Sitting) -> Iterator[tuple[Looked, dt.datetime]]:
    """Yield each of some looks in order with its end: the next, for the last that of the sitting.

    None lasts longer than two hours, or less than nothing.

    Source: rules.md#journal-bars.
    """
    last = sitting.closed_at_utc or sitting.since_utc
    ends = [*(one.at_utc for one in looks[1:]), last]
    for look, end in zip(looks, ends, strict=False):  # without a look there is one end too many
        until = max(end or look.at_utc, look.at_utc)
        yield look, min(until, look.at_utc + LONGEST_STAY)


def _counted(marks: Sequence[BarMark], sitting: Sitting) -> str:
    if not marks:
        return "at the eyepiece, nothing noted" if sitting.begun_utc else "set up, nothing noted"
    seen = sum(one.outcome in ("seen", "glimpsed") for one in marks)
    missed = sum(one.outcome == "not seen" for one in marks)
    words = f"{len(marks)} note{'' if len(marks) == 1 else 's'}"
    if seen:
        words += f", {seen} seen"
    return f"{words}, {missed} not seen" if missed else words


def tell_evening(
    bar: EveningBar,
    observations: Sequence[Observation],
    readings: Sequence[tuple[SetupReading, str]],
    sentences: Sequence[str],
) -> EveningTold:
    """Return an evening opened; each reading goes with its telescope's name.

    Source: rules.md#journal-bars.
    """
    lines = [
        ReadingLine(
            title=TITLES[one.step],
            at_utc=one.recorded_at_utc,
            telescope_name=name,
            words=one.words,
            is_good=one.is_good,
            spoiled_by=one.spoiled_by,
            simulated=one.simulated,
        )
        for one, name in readings
    ]
    return EveningTold(
        bar=bar, observations=list(observations), readings=lines, sentences=list(sentences)
    )


def evening_sentences(
    evening: EveningRow,
    names: Mapping[int, str],
    told: ToldWeather,
    bar: EveningBar,
    sitting: Sitting,
    units: Units,
) -> list[str]:
    """Return what is to say of an evening beside its notes: who, how long, which air, what weather.

    ``names`` are those of people by id, also of some who have left.

    Source: rules.md#journal-bars.
    """
    return [
        one
        for one in (
            _who(evening, names),
            totals_of(sitting, len(bar.marks), bar.end_utc).words if sitting.begun_utc else "",
            _air(evening),
            _weather(bar, told, units),
        )
        if one
    ]


def _who(evening: EveningRow, names: Mapping[int, str]) -> str:
    known = [names[one] for one in evening.people_ids or [] if one in names]
    return f"With {', '.join(known)}." if known else ""


def _air(evening: EveningRow) -> str:
    parts = []
    if evening.steadiness is not None:
        parts.append(f"steadiness {evening.steadiness} of 5")
    if evening.transparency is not None:
        parts.append(f"transparency {evening.transparency} of 5")
    if evening.faintest_seen_mag is not None:
        parts.append(f"faintest star {evening.faintest_seen_mag:.1f} mag")
    return f"Judged that evening: {', '.join(parts)}." if parts else ""


def _weather(bar: EveningBar, told: ToldWeather, units: Units) -> str:
    """Return the told weather of the hour in the middle of the notes, or of the night."""
    times = [one.at_utc for one in bar.marks]
    middle = times[len(times) // 2] if times else bar.start_utc + (bar.end_utc - bar.start_utc) / 2
    hour = merged([hour_of(middle)], told)[0]
    parts = _hour_words(hour, units)
    if not parts:
        return ""
    at = hour.hour_utc.astimezone(ZoneInfo(bar.zone))
    return f"Weather as told for {at:%H:%M}: {', '.join(parts)}."


def _hour_words(hour: WeatherHour, units: Units) -> list[str]:
    parts = []
    if hour.cloud_percent is not None:
        parts.append(f"cloud {hour.cloud_percent:.0f} %")
    if hour.wind_m_s is not None:
        parts.append(f"wind {units.wind(hour.wind_m_s)}")
    if hour.air_c is not None:
        parts.append(units.degrees(hour.air_c))
    if hour.humidity_percent is not None:
        parts.append(f"humidity {hour.humidity_percent:.0f} %")
    return parts
