"""Station kit: what is owned, in and out."""

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

from fastapi import Response
from fastapi.responses import JSONResponse
from pydantic import Field

from jade_perch.api.dependencies import FILE_BODY, Db, FileBytes, TheCatalogue, TheClock, TheDesk
from jade_perch.api.downloads import download
from jade_perch.api.items import add_item_routes
from jade_perch.api.stations import station
from jade_perch.core.bench.seat import TubeShape, tube_shape
from jade_perch.core.designs import DESIGN_TRAITS, DesignTraits
from jade_perch.core.evening.reach import Reach, make_reach
from jade_perch.core.fields import Choice, Frozen, Id, Label
from jade_perch.core.finders import FINDER_TRAITS, FinderTraits
from jade_perch.core.kit import Telescope
from jade_perch.core.labels import (
    Box,
    BoxRead,
    TelescopeLabel,
    read_box,
    read_telescope,
)
from jade_perch.core.mounts import TRAITS, MountTraits
from jade_perch.core.records import ImportReport, Record, check_together, compare
from jade_perch.core.upkeep import Due, due_tasks, require_done
from jade_perch.demo.loader import load_demo_kit
from jade_perch.devices.clock import HouseClock
from jade_perch.exchange.kit_csv import read_kit, write_kit
from jade_perch.exchange.kit_json import kit_schema, read_kit_json, write_kit_json
from jade_perch.exchange.tables import FileType
from jade_perch.store.items import ItemTable, add_item, find_item, get_item, list_items
from jade_perch.store.kit import (
    AMPLIFIERS,
    DIAGONALS,
    EYEPIECES,
    FINDERS,
    LIGHT_FILTERS,
    MOUNTS,
    TELESCOPES,
    UPKEEPS,
    add_box,
    add_linked,
    import_records,
    item_names,
    whole_kit,
)
from jade_perch.store.uses import uses

router = station("/kit", "kit")
STATION_TABLES: tuple[tuple[ItemTable[Any], str], ...] = (
    (TELESCOPES, "telescopes"),
    (EYEPIECES, "eyepieces"),
    (AMPLIFIERS, "amplifiers"),
    (DIAGONALS, "diagonals"),
    (FINDERS, "finders"),
    (MOUNTS, "mounts"),
    (LIGHT_FILTERS, "light-filters"),
    (UPKEEPS, "upkeeps"),
)


@router.get("/telescopes/{item_id}/reach")
def get_reach(item_id: Id, db: Db, desk: TheDesk, catalogue: TheCatalogue) -> Reach | None:
    """Return what a telescope can show; null while no eyepiece fits it."""
    telescope = get_item(db, TELESCOPES, item_id)
    ladder = desk.ladder_of(telescope, find_item(db, DIAGONALS, telescope.diagonal_id))
    place = "" if desk.place is None else desk.place.name
    return make_reach(telescope, place, ladder, desk.viewer(), catalogue)


for table, plural in STATION_TABLES:
    refuse = require_done if table is UPKEEPS else None
    add = add_linked if table in (TELESCOPES, MOUNTS, FINDERS) else add_item
    add_item_routes(router, table, plural, refuse, add)


class KindChoice(Choice):
    """One kind as it is offered, and what is usual for it."""

    usual: dict[str, str | float] = Field(default_factory=dict)


class Kinds(Frozen):
    """The kinds that are rows of the core's tables."""

    mount: list[KindChoice]
    finder: list[KindChoice]
    telescope: list[KindChoice]


READERS = {"csv": read_kit, "json": read_kit_json}


@router.get("/export.csv", response_class=Response)
def export_kit_csv(db: Db) -> Response:
    """Return the whole kit as a CSV file."""
    return download(write_kit(whole_kit(db)), "text/csv; charset=utf-8", "jade-perch-kit.csv")


@router.get("/export.json", response_class=Response)
def export_kit_json(db: Db) -> Response:
    """Return the whole kit as a JSON document."""
    return download(write_kit_json(whole_kit(db)), "application/json", "jade-perch-kit.json")


@router.get("/schema.json", response_class=JSONResponse)
def get_kit_schema() -> JSONResponse:
    """Return the JSON Schema of the kit document."""
    return JSONResponse(kit_schema())


@router.post("/import-preview", openapi_extra=FILE_BODY)
def preview_import(
    data: FileBytes, db: Db, clock: TheClock, file_type: FileType = "csv"
) -> ImportReport:
    """Return what importing a file would do, row by row; nothing is stored."""
    return compare(_read(db, clock, data, file_type), whole_kit(db))


@router.post("/import", openapi_extra=FILE_BODY)
def import_kit(
    data: FileBytes, db: Db, clock: TheClock, file_type: FileType = "csv"
) -> ImportReport:
    """Import a file whole, or nothing of it when any row is refused."""
    records = _read(db, clock, data, file_type)
    report = compare(records, whole_kit(db))
    if report.refused:
        return report
    import_records(db, records)
    return report.model_copy(update={"applied": True})


def _read(db: Db, clock: HouseClock, data: bytes, file_type: FileType) -> Sequence[Record]:
    return check_together(READERS[file_type](data), whole_kit(db), clock.now_utc())


@router.get("/kinds")
def get_kinds() -> Kinds:
    """Return the kinds of mount, finder and telescope there are, as the kit offers them."""
    return Kinds(
        mount=_choices(TRAITS, ("levelling",)),
        finder=_choices(FINDER_TRAITS, ("power", "screws")),
        telescope=_choices(DESIGN_TRAITS),
    )


def _choices(
    table: Mapping[str, MountTraits | FinderTraits | DesignTraits], usual: Sequence[str] = ()
) -> list[KindChoice]:
    def choice(value: str, traits: MountTraits | FinderTraits | DesignTraits) -> KindChoice:
        known = {one: getattr(traits, one) for one in usual}
        return KindChoice(value=value, title=traits.title, usual=known)

    return [choice(value, traits) for value, traits in table.items()]


@router.get("/label")
def get_label(printed: Label) -> TelescopeLabel:
    """Return what is printed on a telescope, understood."""
    return read_telescope(printed)


@router.post("/box/read")
def look_into_box(box: Box) -> BoxRead:
    """Return what a box would make; nothing is stored."""
    return read_box(box)


@router.post("/box", status_code=201)
def unpack_box(box: Box, db: Db) -> Telescope:
    """Put everything that came in one box on the bench, all or nothing."""
    return add_box(db, read_box(box))


@router.get("/tubes")
def get_tubes(db: Db) -> list[TubeShape]:
    """Return what a drawing of each telescope needs, guessed where nobody measured."""
    return [tube_shape(one) for one in list_items(db, TELESCOPES)]


@router.get("/due")
def get_due(db: Db, clock: TheClock) -> list[Due]:
    """Return the upkeep that is due on the day the clock shows."""
    today: date = clock.now_utc().date()
    return due_tasks(list_items(db, UPKEEPS), item_names(db), today, uses(db))


@router.post("/demo", status_code=204)
def load_demo(db: Db) -> None:
    """Put the demo kit and its places on an empty bench; what is there already is left alone."""
    load_demo_kit(db)
