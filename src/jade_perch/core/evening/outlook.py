"""Go, wait or stay in: the hours of a night judged for one telescope, with the reasons."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Literal

from jade_perch.core.bench.cooling import DEW_WARN_C, dew_point_c
from jade_perch.core.bench.seat import tube_shape
from jade_perch.core.evening.desk import Desk
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Mount, Telescope
from jade_perch.core.moments import clock_time
from jade_perch.core.sky.night import Light, Night
from jade_perch.core.units import Units
from jade_perch.core.weather import HOUR, VALUES, WeatherHour, rests_on_simulated

CLEAR_PERCENT, GAPS_PERCENT = 25.0, 60.0  # so much cloud is clear, and still has gaps; ours
PUSHES_M_S = 14.0  # wind that can push a telescope over, whatever carries it; our estimate
SMALL_TUBE_MM2 = 80_000.0  # what a mount's steady wind is told for: 100 mm wide, 800 mm long
TUBE_POWER = 0.25  # bigger tubes catch more wind, on stouter mounts; our estimate
LEAST = timedelta(hours=1)  # nobody sets up for less; our choice
LONG_WAIT_HOURS = 4  # nobody waits longer in the cold; our choice
BRIGHT_MOON_PERCENT = 20.0  # less of a Moon is hardly in the way; our choice
COLD_C = 5.0  # standing still in it wants more clothes than one thinks
State = Literal["clear", "gaps", "closed", "not known"]
OutlookWord = Literal["go", "wait", "stay in", "not known"]
ReasonKind = Literal["cloud", "wind", "dew", "air", "haze", "cold", "Moon", "gap"]
OPEN: tuple[State, ...] = ("clear", "gaps")


class Reason(Frozen):
    """One reason; ``minds`` where it speaks against, or asks for something."""

    kind: ReasonKind
    words: str
    minds: bool


class Clearest(Frozen):
    """The hour ahead with the least cloud, and whether only the stand-in says so."""

    hour_utc: datetime
    is_simulated: bool


class JudgedHour(Frozen):
    """One hour with its word, its light at the beginning, and what it does to optics and mount."""

    hour: WeatherHour
    light: Light
    is_dark: bool
    state: State
    dew_point_c: float | None
    dew_near: bool
    shakes: bool
    is_simulated: bool


class Outlook(Frozen):
    """What the hours of a night are good for; ``from_utc`` to ``until_utc`` is when to look.

    ``clearest`` is the hour with least cloud, None while nobody knows.  ``wind_limit_m_s`` is
    from where this telescope shakes, None without one.
    """

    word: OutlookWord
    words: str
    reasons: list[Reason]
    hours: list[JudgedHour]
    from_utc: datetime | None
    until_utc: datetime | None
    clearest: Clearest | None
    wind_limit_m_s: float | None
    is_simulated: bool


def wind_limit_m_s(telescope: Telescope, mount: Mount) -> float:
    """Return the mean wind in m/s from which a telescope shakes at high power.

    Source: rules.md#outlook; our estimate.
    """
    catches_mm2 = telescope.aperture_mm * tube_shape(telescope).length_mm
    return float(mount.traits.steady_wind_m_s * (SMALL_TUBE_MM2 / catches_mm2) ** TUBE_POWER)


def make_outlook(hours: Sequence[WeatherHour], night: Night, desk: Desk) -> Outlook:
    """Return the hours judged for a desk's telescope from its moment on.

    Source: rules.md#outlook.
    """
    telescope = desk.telescope
    limit = None if telescope is None else wind_limit_m_s(telescope, desk.known_mount)
    judged = [_judge(one, night, limit) for one in hours]
    ahead = [one for one in judged if one.is_dark and one.hour.hour_utc + HOUR > desk.moment_utc]
    run = _first_run(ahead, night, desk.moment_utc)
    word = _word(ahead, run)
    known = [one for one in ahead if one.hour.cloud_percent is not None]
    least = min(known, key=lambda one: (one.hour.cloud_percent, one.hour.hour_utc), default=None)
    zone = "UTC" if desk.place is None else desk.place.zone
    return Outlook(
        word=word,
        words=_words(word, ahead, run, night, desk.moment_utc, zone),
        reasons=_reasons(run or ahead, ahead, night, desk, limit),
        hours=judged,
        from_utc=run[0].hour.hour_utc if run else None,
        until_utc=run[-1].hour.hour_utc + HOUR if run else None,
        clearest=None if least is None else _clearest(least.hour),
        wind_limit_m_s=limit,
        is_simulated=any(one.is_simulated for one in ahead),
    )


def _judge(hour: WeatherHour, night: Night, limit_m_s: float | None) -> JudgedHour:
    air, humidity, wind = hour.air_c, hour.humidity_percent, hour.wind_m_s
    dew = None if air is None or humidity is None else float(dew_point_c(air, humidity))
    return JudgedHour(
        hour=hour,
        light=_light(night, hour.hour_utc),
        is_dark=_is_dark(night, hour.hour_utc),
        state=_state(hour),
        dew_point_c=dew,
        dew_near=dew is not None and air is not None and air - dew <= DEW_WARN_C,
        shakes=wind is not None and limit_m_s is not None and wind > limit_m_s,
        is_simulated=any(
            getattr(hour, name) is not None and rests_on_simulated(hour, name) for name in VALUES
        ),
    )


def _clearest(hour: WeatherHour) -> Clearest:
    simulated = rests_on_simulated(hour, "cloud_percent")
    return Clearest(hour_utc=hour.hour_utc, is_simulated=simulated)


def _light(night: Night, at_utc: datetime) -> Light:
    return next((one.light for one in night.lights if one.end_utc > at_utc), "day")


def _is_dark(night: Night, hour_utc: datetime) -> bool:
    """Return whether the Sun is down at any time of an hour."""
    return any(
        one.light != "day" and one.start_utc < hour_utc + HOUR and one.end_utc > hour_utc
        for one in night.lights
    )


def _state(hour: WeatherHour) -> State:
    if hour.wind_m_s is not None and hour.wind_m_s >= PUSHES_M_S:
        return "closed"
    if hour.cloud_percent is None:
        return "not known"
    if hour.cloud_percent <= CLEAR_PERCENT:
        return "clear"
    return "gaps" if hour.cloud_percent <= GAPS_PERCENT else "closed"


def _first_run(ahead: Sequence[JudgedHour], night: Night, now_utc: datetime) -> list[JudgedHour]:
    """Return the first hours on end in which something can be looked at for an hour or more."""
    for run in _runs(ahead):
        starts = max(run[0].hour.hour_utc, now_utc, night.sunset_utc or now_utc)
        if run[-1].hour.hour_utc + HOUR - starts >= LEAST:
            return run
    return []


def _runs(ahead: Sequence[JudgedHour]) -> list[list[JudgedHour]]:
    runs: list[list[JudgedHour]] = []
    for one in ahead:
        if one.state not in OPEN:
            continue
        if runs and one.hour.hour_utc - runs[-1][-1].hour.hour_utc == HOUR:
            runs[-1].append(one)
        else:
            runs.append([one])
    return runs


def _word(ahead: Sequence[JudgedHour], run: Sequence[JudgedHour]) -> OutlookWord:
    if not ahead:
        return "stay in"
    if not run:
        return "not known" if any(one.state == "not known" for one in ahead) else "stay in"
    before = [one for one in ahead if one.hour.hour_utc < run[0].hour.hour_utc]
    if any(one.state == "not known" for one in before):
        return "not known"
    wait = run[0].hour.hour_utc - ahead[0].hour.hour_utc
    if wait >= LONG_WAIT_HOURS * HOUR:
        return "stay in"
    return "wait" if wait else "go"


def _words(
    word: OutlookWord,
    ahead: Sequence[JudgedHour],
    run: Sequence[JudgedHour],
    night: Night,
    now_utc: datetime,
    zone: str,
) -> str:
    if not ahead:
        has_night = any(one.light != "day" for one in night.lights)
        return "This night is over." if has_night else night.sun_words
    if word == "not known":
        return "Nobody says how cloudy it will be: look up, or type the hours."
    if not run:
        if all((one.hour.wind_m_s or 0) >= PUSHES_M_S for one in ahead):
            return "Stormy all night."
        is_shut = not any(one.state in OPEN for one in ahead)
        return "Clouds or storm all night." if is_shut else "Never clear for an hour on end."
    starts, ends = run[0].hour.hour_utc, run[-1].hour.hour_utc + HOUR
    until = "until dawn" if run[-1] is ahead[-1] else f"until {clock_time(ends, zone)}"
    how, best = _how(run, zone)
    when = clock_time(starts, zone)
    if word == "go":
        by_day = night.sunset_utc is not None and now_utc < night.sunset_utc
        from_dusk = " from dusk" if by_day else ""  # nobody is sent out under the Sun
        return f"{how[0].upper()}{how[1:]}{from_dusk} {until}{best}."
    if word == "wait":
        return f"Cloudy first; from {when} {how} {until}{best}."
    return f"Cloudy for long; {how} only from {when}{best}."


def _how(run: Sequence[JudgedHour], zone: str) -> tuple[str, str]:
    """Return whether a stretch is clear, and its longest clear part where it is not all of it."""
    clear = [one for one in run if one.state == "clear"]
    if not clear:
        return "gaps in cloud", ""
    if len(clear) == len(run):
        return "clear", ""
    longest = max(_runs(clear), key=len)
    starts, ends = longest[0].hour.hour_utc, longest[-1].hour.hour_utc + HOUR
    return "clear or gaps", f", best {clock_time(starts, zone)} to {clock_time(ends, zone)}"


def _reasons(
    run: Sequence[JudgedHour],
    ahead: Sequence[JudgedHour],
    night: Night,
    desk: Desk,
    limit_m_s: float | None,
) -> list[Reason]:
    """Return what speaks for and against the hours one would look in."""
    if not run or desk.place is None:
        return []
    zone, units = desk.place.zone, desk.units
    missing = sum(one.state == "not known" for one in ahead)
    count = "One hour says" if missing == 1 else f"{missing} hours say"
    gap = Reason(kind="gap", words=f"{count} nothing of cloud.", minds=True)
    found = [
        _cloud(run),
        _wind(run, desk, limit_m_s),
        _dew(run, zone, units),
        _air(run),
        _haze(run),
        _cold(run, units),
        _moon(run, night, zone),
        gap if missing else None,
    ]
    return [one for one in found if one is not None]


def _span(values: Sequence[float], unit: str) -> str:
    low, high = round(min(values)), round(max(values))
    return f"{low} {unit}" if low == high else f"{low} to {high} {unit}"


def _cloud(run: Sequence[JudgedHour]) -> Reason | None:
    clouds = [one.hour.cloud_percent for one in run if one.hour.cloud_percent is not None]
    if not clouds:
        return None
    minds = max(clouds) > CLEAR_PERCENT
    advice = ": bright things in the gaps" if minds else ""
    return Reason(kind="cloud", words=f"Cloud {_span(clouds, '%')}{advice}.", minds=minds)


def _wind(run: Sequence[JudgedHour], desk: Desk, limit_m_s: float | None) -> Reason | None:
    winds = [one.hour.wind_m_s for one in run if one.hour.wind_m_s is not None]
    if not winds:
        return None
    most, units = max(winds), desk.units
    words = f"Wind to {units.wind(most)}"
    minds = limit_m_s is not None and most > limit_m_s
    if most >= PUSHES_M_S:
        words += " can push a telescope over: leave it inside."
    elif desk.telescope is None or limit_m_s is None:
        words += "."
    else:
        mount = "this mount" if desk.mount is not None else "a mount nobody named"
        tube = f"{desk.telescope.aperture_mm:.0f} mm on {mount}"
        about = f"about {units.wind_limit(limit_m_s)}"
        words += (
            f" shakes {tube}, from {about} on: low power, stand in the lee."
            if minds
            else f": {tube} stays still up to {about}."
        )
    return Reason(kind="wind", words=words, minds=minds)


def _dew(run: Sequence[JudgedHour], zone: str, units: Units) -> Reason | None:
    margins = [
        (one.hour.air_c - one.dew_point_c, one)
        for one in run
        if one.hour.air_c is not None and one.dew_point_c is not None
    ]
    if not margins:
        return None
    near = next((one for _, one in margins if one.dew_near), None)
    least = units.difference(min(margin for margin, _ in margins))
    if near is None:
        return Reason(kind="dew", words=f"Dry: {least} or more over the dew point.", minds=False)
    at = clock_time(near.hour.hour_utc, zone)
    words = f"Dew from {at}, {least} over the dew point: dew cap on, never wipe."
    return Reason(kind="dew", words=words, minds=True)


def _air(run: Sequence[JudgedHour]) -> Reason | None:
    steps = [one.hour.steadiness for one in run if one.hour.steadiness is not None]
    if not steps:
        return None
    worst = min(steps)
    advice = "no high power" if worst <= 2 else "high power pays" if worst >= 4 else "medium power"
    words = f"Steadiness {_span(steps, 'of 5')}: {advice}."
    return Reason(kind="air", words=words, minds=worst <= 2)


def _haze(run: Sequence[JudgedHour]) -> Reason | None:
    steps = [one.hour.transparency for one in run if one.hour.transparency is not None]
    if not steps or min(steps) > 2:
        return None
    words = f"Clear air {_span(steps, 'of 5')}: milky, faint things suffer."
    return Reason(kind="haze", words=words, minds=True)


def _cold(run: Sequence[JudgedHour], units: Units) -> Reason | None:
    air = [one.hour.air_c for one in run if one.hour.air_c is not None]
    if not air or min(air) > COLD_C:
        return None
    words = f"Down to {units.degrees(min(air))}: dress for standing still."
    return Reason(kind="cold", words=words, minds=True)


def _moon(run: Sequence[JudgedHour], night: Night, zone: str) -> Reason:
    starts, ends = run[0].hour.hour_utc, run[-1].hour.hour_utc + HOUR
    moon = next(one for one in night.bodies if one.body == "moon")
    up = [one for one in moon.up if one.start_utc < ends and one.end_utc > starts]
    if not up:
        return Reason(kind="Moon", words="No Moon in the way.", minds=False)
    lit = f"Moon {night.moon_lit_percent:.0f} % lit"
    if night.moon_lit_percent < BRIGHT_MOON_PERCENT:
        return Reason(kind="Moon", words=f"{lit}: hardly in the way.", minds=False)
    sets = next((one.end_utc for one in up if one.ends and one.end_utc < ends), None)
    if sets is not None:
        words = f"{lit} until {clock_time(sets, zone)}: bright things first."
    elif up[0].starts and up[0].start_utc > starts:
        words = f"{lit} from {clock_time(up[0].start_utc, zone)}: faint things before."
    else:
        words = f"{lit} all the while: Moon, planets, doubles, clusters."
    return Reason(kind="Moon", words=words, minds=True)
