"""The plan on paper and in files: field cards, the whole sky, CSV, JSON and iCalendar."""

from datetime import datetime
from typing import Annotated

from fastapi import Depends, Response
from fastapi.responses import JSONResponse

from jade_perch.api.cases import Planned, plan_of
from jade_perch.api.dependencies import FILE_BODY, Db, FileBytes, TheCatalogue, TheDesk
from jade_perch.api.downloads import download
from jade_perch.api.hours import TheHours
from jade_perch.api.stations import station
from jade_perch.core.evening.desk import Desk, require_place
from jade_perch.core.evening.fieldcards import make_cards
from jade_perch.core.evening.interest import looking_moment
from jade_perch.core.evening.skycard import make_sky
from jade_perch.core.fields import UtcTime
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.exchange.field_cards_pdf import write_field_cards
from jade_perch.exchange.plan_files import (
    ReadPlan,
    plan_schema,
    read_plan,
    write_plan_csv,
    write_plan_ics,
    write_plan_json,
)
from jade_perch.exchange.sheet import PaperSize, Style
from jade_perch.exchange.sky_card_pdf import write_sky_card
from jade_perch.exchange.tables import FileReport, FileType
from jade_perch.store.plan import take_plan

router = station("/plan", "plan")


def the_plan(db: Db, desk: TheDesk, catalogue: TheCatalogue, hours: TheHours) -> Planned:
    """Return the evening's plan; raises ``OutOfRange`` without a place."""
    require_place(desk)
    found = plan_of(db, desk, catalogue, hours)
    assert found is not None
    return found


async def a_style(paper: PaperSize = "A4", for_torch: bool = False) -> Style:
    """Return how a page is printed."""
    return Style(paper, for_torch)


ThePlan = Annotated[Planned, Depends(the_plan)]
AskedStyle = Annotated[Style, Depends(a_style)]


@router.get("/cards.pdf", response_class=Response)
def get_cards(desk: TheDesk, planned: ThePlan, style: AskedStyle) -> Response:
    """Return the plan's field cards, three a page; refused while nothing is planned."""
    cards = make_cards(planned.case, planned.plan, desk)
    return download(write_field_cards(cards, style), "application/pdf", "field-cards.pdf")


@router.get("/sky.pdf", response_class=Response)
def get_sky(
    desk: TheDesk,
    catalogue: TheCatalogue,
    planned: ThePlan,
    style: AskedStyle,
    at_utc: UtcTime | None = None,
) -> Response:
    """Return the whole sky on one page, for a moment of the night or for when looking begins."""
    place, night = require_place(desk), planned.case.night
    at: datetime = at_utc or looking_moment(night, desk.moment_utc)
    card = make_sky(catalogue, place, night, desk.viewer(), at, planned.plan.blocks)
    return download(write_sky_card(card, style), "application/pdf", "sky.pdf")


@router.get("/schedule.csv", response_class=Response)
def get_csv(planned: ThePlan) -> Response:
    """Return the plan as CSV."""
    return download(write_plan_csv(planned.plan), "text/csv; charset=utf-8", "plan.csv")


@router.get("/schedule.json", response_class=Response)
def get_json(desk: TheDesk, planned: ThePlan) -> Response:
    """Return the plan as a JSON document."""
    date = planned.case.night.date.isoformat()
    written = write_plan_json(planned.plan, planned.items, require_place(desk), date)
    return download(written, "application/json", "plan.json")


@router.get("/schedule.ics", response_class=Response)
def get_ics(desk: TheDesk, planned: ThePlan) -> Response:
    """Return the plan as iCalendar."""
    written = write_plan_ics(planned.plan, require_place(desk), desk.moment_utc)
    return download(written, "text/calendar", "plan.ics")


@router.get("/schedule/schema.json", response_class=JSONResponse)
def get_plan_schema() -> JSONResponse:
    """Return the JSON Schema of the plan document."""
    return JSONResponse(plan_schema())


@router.post("/schedule/file-preview", openapi_extra=FILE_BODY)
def preview_file(
    data: FileBytes, desk: TheDesk, catalogue: TheCatalogue, file_type: FileType = "csv"
) -> FileReport:
    """Return what reading a plan would do, row by row; nothing is stored."""
    return _read(data, desk, catalogue, file_type).report


@router.post("/schedule/file", openapi_extra=FILE_BODY)
def read_file(
    data: FileBytes,
    db: Db,
    desk: TheDesk,
    catalogue: TheCatalogue,
    file_type: FileType = "csv",
) -> FileReport:
    """Wish for the targets of a plan file this evening, or for none when any row is refused."""
    read = _read(data, desk, catalogue, file_type)
    if read.report.refused:
        return read.report
    take_plan(db, desk.evening, read.items, desk.moment_utc)
    return read.report.model_copy(update={"applied": True})


def _read(data: bytes, desk: Desk, catalogue: Catalogue, file_type: FileType) -> ReadPlan:
    require_place(desk)
    assert desk.night is not None
    return read_plan(data, file_type, catalogue, desk.night)
