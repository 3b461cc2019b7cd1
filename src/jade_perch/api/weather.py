"""The weather of the night: its hours, what they are good for, files of hours, hours typed over."""

from datetime import datetime
from typing import Annotated

from fastapi import Query, Response
from fastapi.responses import JSONResponse

from jade_perch.api.dependencies import FILE_BODY, Db, FileBytes, ReadVersion, TheDesk
from jade_perch.api.downloads import download
from jade_perch.api.hours import TheHours
from jade_perch.api.stations import station
from jade_perch.core.evening.desk import Desk, require_place
from jade_perch.core.evening.outlook import Outlook, make_outlook
from jade_perch.core.fields import Frozen, Id, Label, Version
from jade_perch.core.weather import HourValues, TypedHour, WeatherFile, WholeHour
from jade_perch.exchange.tables import FileReport, FileType
from jade_perch.exchange.weather_files import (
    read_weather,
    weather_schema,
    write_weather_csv,
    write_weather_json,
)
from jade_perch.store.items import add_item, delete_item, restore_item
from jade_perch.store.weather import WEATHER_FILES, type_hour

router = station("/plan/weather", "plan")


class ReadFile(Frozen):
    """The file of hours that counts for a night, newest first."""

    id: int | None
    name: str
    read_at_utc: datetime
    hours: int


class NightWeather(Frozen):
    """The night's weather for the chosen place and telescope, and the files it rests on."""

    outlook: Outlook
    files: list[ReadFile]


class TypedValues(HourValues):
    """What somebody types over an hour, with the version that was read of what was typed before."""

    version: Version | None = None


@router.get("")
def get_weather(desk: TheDesk, hours: TheHours) -> NightWeather | None:
    """Return the night's hours and what they are good for; null without a place."""
    if desk.night is None:
        return None
    files = [
        ReadFile(id=one.id, name=one.name, read_at_utc=one.read_at_utc, hours=len(one.hours))
        for one in desk.told.files
    ]
    return NightWeather(outlook=make_outlook(hours.of_night(desk), desk.night, desk), files=files)


@router.put("/hours/{hour_utc}", status_code=204)
def type_over(hour_utc: WholeHour, values: TypedValues, db: Db, desk: TheDesk) -> None:
    """Type values over an hour at the chosen place; an hour without any is forgotten."""
    said = {name: getattr(values, name) for name in TypedValues.model_fields}
    type_hour(db, TypedHour(site_id=_site_id(desk), hour_utc=hour_utc, **said))


@router.post("/file-preview", openapi_extra=FILE_BODY)
def preview_file(data: FileBytes, file_type: FileType = "csv") -> FileReport:
    """Return what reading a file of hours would do, row by row; nothing is stored."""
    return read_weather(data, file_type).report


@router.post("/file", openapi_extra=FILE_BODY)
def read_file(
    data: FileBytes,
    db: Db,
    desk: TheDesk,
    file_type: FileType = "csv",
    name: Annotated[Label, Query()] = "",
) -> FileReport:
    """Keep a file of hours for the chosen place, or nothing of it when any row is refused."""
    read = read_weather(data, file_type)
    if read.report.refused:
        return read.report
    file = WeatherFile(
        site_id=_site_id(desk), name=name, read_at_utc=desk.moment_utc, hours=read.hours
    )
    add_item(db, WEATHER_FILES, file)
    return read.report.model_copy(update={"applied": True})


@router.delete("/files/{item_id}", status_code=204)
def forget_file(item_id: Id, db: Db, version: ReadVersion = None) -> None:
    """Take a file of hours away."""
    delete_item(db, WEATHER_FILES, item_id, version)


@router.post("/files/{item_id}/restore", status_code=204)
def restore_file(item_id: Id, db: Db) -> None:
    """Bring a file of hours back."""
    restore_item(db, WEATHER_FILES, item_id)


@router.get("/hours.csv", response_class=Response)
def get_csv(desk: TheDesk, hours: TheHours) -> Response:
    """Return the night's hours as CSV; nothing simulated is written, its cells stay empty."""
    require_place(desk)
    return download(write_weather_csv(hours.of_night(desk)), "text/csv", "weather.csv")


@router.get("/hours.json", response_class=Response)
def get_json(desk: TheDesk, hours: TheHours) -> Response:
    """Return the night's hours as a JSON document; nothing simulated is written."""
    require_place(desk)
    written = write_weather_json(hours.of_night(desk))
    return download(written, "application/json", "weather.json")


@router.get("/schema.json", response_class=JSONResponse)
def get_weather_schema() -> JSONResponse:
    """Return the JSON Schema of the weather document."""
    return JSONResponse(weather_schema())


def _site_id(desk: Desk) -> int:
    place = require_place(desk)
    assert place.id is not None
    return place.id
