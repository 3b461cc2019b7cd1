"""The weather hours as routes ask for them: as told, else as the simulated service has them."""

from collections.abc import Sequence
from datetime import datetime
from typing import Annotated

from fastapi import Depends, Request

from jade_perch.core.bench.cooling import Forecast, forecast_of
from jade_perch.core.evening.desk import Desk, ReadyDesk, require_place
from jade_perch.core.weather import (
    HOUR,
    NEAR_HOURS,
    NOTHING_TOLD,
    ToldWeather,
    WeatherHour,
    hours_between,
    merged,
)
from jade_perch.standins.weather import simulated_hours


class Hours:
    """The weather service of the application; ``seed`` chooses what the stand-in makes up."""

    def __init__(self, seed: int) -> None:
        self.seed = seed

    def of_night(self, desk: Desk) -> list[WeatherHour]:
        """Return the hours of a desk's night as they count; none without a place."""
        if desk.night is None:
            return []
        return self._merged(
            desk, hours_between(desk.night.start_utc, desk.night.end_utc), desk.told
        )

    def air_now(self, desk: ReadyDesk) -> Forecast:
        """Return the air at the desk's moment: as told, else as the stand-in makes it up."""
        near = NEAR_HOURS * HOUR
        around = hours_between(desk.moment_utc - near, desk.moment_utc + near)
        for told in (desk.told, NOTHING_TOLD):
            hours = self._merged(desk, around, told)
            found = forecast_of(hours, desk.moment_utc, desk.place.zone)
            if found is not None:
                return found
        raise AssertionError("the stand-in knows every hour")

    def _merged(
        self, desk: Desk, hours_utc: Sequence[datetime], told: ToldWeather
    ) -> list[WeatherHour]:
        place = require_place(desk)
        return merged(hours_utc, told, simulated_hours(place, hours_utc, self.seed))


async def the_hours(request: Request) -> Hours:
    """Return the application's weather service."""
    hours: Hours = request.app.state.hours
    return hours


TheHours = Annotated[Hours, Depends(the_hours)]
