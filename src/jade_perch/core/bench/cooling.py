"""Cool-down and dew: two clocks from the air, the tube and the moment it came out."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Annotated

import numpy as np
from numpy.typing import ArrayLike

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.advice import Advice
from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen, Range, UtcTime
from jade_perch.core.kit import Telescope
from jade_perch.core.moments import clock_time
from jade_perch.core.sums import OWN_RULE, Sum
from jade_perch.core.units import METRIC, Units
from jade_perch.core.weather import WeatherHour, WeatherSource, nearest_with, rests_on_simulated

MAGNUS_A, MAGNUS_B_C = 17.62, 243.12  # over water, -45 to 60 °C; Magnus form, WMO guide
# Optics facing the sky run this much colder than the air; rules.md#cooling
RADIATION_C = (2.0, 4.0)
DEW_WARN_C = 3.0  # warn when air is this near the dew point; rules.md#cooling
USUAL_DROP_C = 10.0  # the temperature drop that the usual times are meant for; our estimate
DROP_FACTOR = (0.5, 1.8)  # how far a small or a big drop changes them; our estimate
USUAL_ROOM_C = 20.0  # a heated room, taken while nobody has said where the tube stood
LENS_MIN, MIRROR_MIN = (20.0, 30.0), (30.0, 60.0)  # rules.md#cooling
LENS_MM, MIRROR_MM = (60.0, 120.0), (76.0, 150.0)  # apertures those times belong to; ours
MINUTES_PER_MM = 0.4  # beyond them; our estimate
LONGEST_OUT = timedelta(hours=48)  # a tube out for longer is as cold as the air; our choice
SOURCE_WORDS: dict[WeatherSource, str] = {
    "simulated": "Simulated weather",
    "file": "By the weather file",
    "typed": "As typed",
}
A_MINUTE = timedelta(minutes=1)
LET_WARM = "Leave the caps on until the tube has warmed up."
COLD_TUBE = "The tube is colder than the dew point: uncapped it fogs at once."


class Weather(Frozen):
    """The air at the site, as forecast or read off a thermometer."""

    air_c: Annotated[float, Range(-60, 50, "°C", "Read a thermometer in the shade.")]
    humidity_percent: Annotated[float, Range(1, 100, "%", "Read a hygrometer.")]


class Forecast(Weather):
    """The air of the hour as the weather hours have it, and whose word that is."""

    hour_utc: datetime
    source: WeatherSource
    words: str


class CoolInput(Frozen):
    """The air, how warm the tube was where it stood, and when it came out.

    ``weather`` None takes the weather hours'.
    """

    weather: Weather | None = None
    tube_c: Annotated[float, Range(-60, 60, "°C", "The room it stood in.")] = USUAL_ROOM_C
    out_at_utc: UtcTime | None = None


class CoolAdvice(Advice):
    """When the optics are ready, and how near dew is."""

    cool_minutes: float
    ready_at_utc: datetime | None
    minutes_left: float
    dew_point_c: float
    optics_c: tuple[float, float]
    dew_words: str
    dew_warns: bool

    def holds(self) -> bool:
        """Return True: the clock runs from when it came out.  Source: rules.md#cooling."""
        return True

    def figures(self) -> dict[str, float]:
        """Return how long the optics take.  Source: rules.md#cooling."""
        return {"cool_minutes": self.cool_minutes}


def dew_point_c(air_c: ArrayLike, humidity_percent: ArrayLike) -> Floats:
    """Return the dew point in °C of air in °C at a relative humidity in percent, above zero.

    Source: Magnus form, coefficients of the WMO guide no. 8.
    """
    air = np.asarray(air_c, dtype=float)
    humidity = np.asarray(humidity_percent, dtype=float)
    with np.errstate(invalid="ignore", divide="ignore"):
        gamma = np.log(np.where(humidity > 0, humidity, np.nan) / 100) + MAGNUS_A * air / (
            MAGNUS_B_C + air
        )
    return np.asarray(MAGNUS_B_C * gamma / (MAGNUS_A - gamma))


def cool_down_minutes(telescope: Telescope, drop_c: float) -> float:
    """Return about how long a telescope takes to reach the air, for a drop in °C.

    Source: rules.md#cooling; how it grows with the drop is our estimate.
    """
    is_lens = telescope.design_traits.is_lens
    span, sizes = (LENS_MIN, LENS_MM) if is_lens else (MIRROR_MIN, MIRROR_MM)
    usual = float(np.interp(telescope.aperture_mm, sizes, span))
    usual += max(0.0, telescope.aperture_mm - sizes[1]) * MINUTES_PER_MM
    usual *= telescope.design_traits.cool_share
    if drop_c <= 1:
        return 0.0
    factor = 1 + np.log2(drop_c / USUAL_DROP_C) / 2
    return usual * float(np.clip(factor, *DROP_FACTOR))


def advise_cooling(
    given: CoolInput,
    telescope: Telescope,
    now_utc: datetime,
    forecast: Forecast,
    units: Units = METRIC,
) -> CoolAdvice:
    """Return when the optics are ready and whether dew is near.

    Without a thermometer's weather it rests on the weather hours' ``forecast``, and says so.

    Raises ``OutOfRange`` for a time later than now, or days ago.

    Source: rules.md#cooling.
    """
    _require_lately(given.out_at_utc, now_utc)
    weather = given.weather or forecast
    drop = given.tube_c - weather.air_c
    minutes = cool_down_minutes(telescope, drop)
    ready = None if given.out_at_utc is None else given.out_at_utc + timedelta(minutes=minutes)
    left = minutes if ready is None else max(0.0, (ready - now_utc).total_seconds() / 60)
    dew = float(dew_point_c(weather.air_c, weather.humidity_percent))
    margin = weather.air_c - dew
    is_colder = given.tube_c < dew
    optics = (weather.air_c - RADIATION_C[1], weather.air_c - RADIATION_C[0])
    fan = "" if telescope.design_traits.is_lens else " A fan halves the wait for a mirror."
    advice = CoolAdvice(
        instruction=LET_WARM if is_colder else _instruction(given, minutes, left),
        detail=f"High power shows the heat first: stars boil and grow spikes until it is out.{fan}",
        is_done=not is_colder and left <= 0 and (given.out_at_utc is not None or minutes == 0),
        sums=[_dew_sum(weather, dew, units), _cool_sum(telescope, drop, minutes, units)],
        note=f"Cools about {minutes:.0f} min; dew point {units.degrees(dew)}.",
        cool_minutes=minutes,
        ready_at_utc=ready,
        minutes_left=left,
        dew_point_c=dew,
        optics_c=optics,
        dew_words=COLD_TUBE if is_colder else _dew_words(margin, optics, dew, units),
        dew_warns=is_colder or margin <= DEW_WARN_C,
    )
    if given.weather is not None:
        return advice
    said = advice.model_copy(update={"dew_words": f"{forecast.words}: {advice.dew_words}"})
    return said.resting_on_simulated("weather") if forecast.source == "simulated" else said


def forecast_of(hours: Sequence[WeatherHour], moment_utc: datetime, zone: str) -> Forecast | None:
    """Return the air at a moment from the hours nearest to it; None where none of them says it.

    Source: rules.md#weather.
    """
    hour = nearest_with(hours, moment_utc, "air_c", "humidity_percent")
    if hour is None or hour.air_c is None or hour.humidity_percent is None:
        return None
    source: WeatherSource = "file"
    if any(rests_on_simulated(hour, name) for name in Weather.model_fields):
        source = "simulated"
    elif all(name in hour.typed for name in Weather.model_fields):
        source = "typed"
    at = "" if source == "simulated" else f" for {clock_time(hour.hour_utc, zone)}"
    return Forecast(
        air_c=hour.air_c,
        humidity_percent=hour.humidity_percent,
        hour_utc=hour.hour_utc,
        source=source,
        words=f"{SOURCE_WORDS[source]}{at}",
    )


def _require_lately(out_at_utc: datetime | None, now_utc: datetime) -> None:
    if out_at_utc is None or now_utc - LONGEST_OUT <= out_at_utc <= now_utc + A_MINUTE:
        return
    allowed = f"within the last {LONGEST_OUT / timedelta(hours=1):.0f} hours, not later than now"
    raise OutOfRange("out_at_utc", out_at_utc.isoformat(), allowed, "Correct date and time.")


def _instruction(given: CoolInput, minutes: float, left: float) -> str:
    if minutes == 0:
        return "The tube is no warmer than the air: it need not wait."
    if given.out_at_utc is None:
        return f"Put it out now, caps on: it cools about {minutes:.0f} min."
    if left > 0:
        return f"Wait about {left:.0f} min more; low power is fine meanwhile."
    return "The optics are as cool as the air: climb as you like."


def _dew_words(margin: float, optics: tuple[float, float], dew: float, units: Units) -> str:
    over = f"Air is {units.difference(margin)} over the dew point"
    if optics[1] <= dew:
        return "Dew falls on anything that faces the sky: dew cap, gentle warmth, caps between."
    if margin <= DEW_WARN_C:
        return f"{over}: dew cap on, never wipe a damp lens."
    if optics[0] <= dew:
        return f"{over}: optics that face the sky may still dew."
    return f"Dry for now. {over}."


def _dew_sum(weather: Weather, dew: float, units: Units) -> Sum:
    return Sum(
        title="Dew point",
        formula=f"B·g ÷ (A − g), g = ln(RH) + A·T ÷ (B + T), A = {MAGNUS_A}, B = {MAGNUS_B_C} °C",
        worked=f"T = {weather.air_c:g} °C, RH = {weather.humidity_percent:g} %",
        result=units.degrees(dew, 1),
        source="Magnus form, WMO guide no. 8",
        rule="dew",
        sureness="about",
        note="Optics facing the sky run "
        f"{units.difference(RADIATION_C[0])} to {units.difference(RADIATION_C[1])} colder.",
    )


def _cool_sum(telescope: Telescope, drop: float, minutes: float, units: Units) -> Sum:
    return Sum(
        title="Cool-down",
        formula=f"usual time for this size and design × (1 + ½·log₂(drop ÷ {USUAL_DROP_C:g} °C))",
        worked=f"{telescope.aperture_mm:g} mm {telescope.design}, {units.difference(drop, 0)} drop",
        result=f"about {minutes:.0f} min",
        source=OWN_RULE,
        rule="cooling",
        sureness="estimate",
    )
