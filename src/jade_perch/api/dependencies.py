"""What routes ask for: a connection a request, the clock, the desk, the catalogue, a file.

What only hands over what is there already is ``async``: it needs no thread of its own.
"""

import sqlite3
from collections.abc import Iterator
from typing import Annotated, Any

from fastapi import Depends, Query, Request

from jade_perch.api.doors import ONLY_READS
from jade_perch.api.rehearsals import Stage
from jade_perch.core.evening.desk import Desk, ReadyDesk, require_ready
from jade_perch.core.fields import Version
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.devices.clock import HouseClock
from jade_perch.devices.hub import InstrumentHub
from jade_perch.store.connection import connect_again
from jade_perch.store.desk import read_desk

REHEARSAL = "X-Rehearsal"  # header of a request: the rehearsal a page believes to be in


def open_db(request: Request) -> Iterator[sqlite3.Connection]:
    """Open a connection for one request and close it afterwards."""
    stage: Stage = request.app.state.stage
    if request.method not in ONLY_READS:
        stage.require_same(request.headers.get(REHEARSAL))
    db = connect_again(stage.database)
    request.state.has_changed = lambda: db.total_changes > 0
    try:
        yield db
    finally:
        changed = db.total_changes > 0
        request.state.has_changed = lambda: changed
        db.close()


async def the_clock(request: Request) -> HouseClock:
    """Return the application's one clock."""
    clock: HouseClock = request.app.state.clock
    return clock


async def the_catalogue(request: Request) -> Catalogue:
    """Return what can be looked at."""
    found: Catalogue = request.app.state.catalogue
    return found


async def the_stage(request: Request) -> Stage:
    """Return where the application plays."""
    stage: Stage = request.app.state.stage
    return stage


async def the_hub(request: Request) -> InstrumentHub:
    """Return the application's instruments."""
    hub: InstrumentHub = request.app.state.instruments
    return hub


Db = Annotated[sqlite3.Connection, Depends(open_db)]
TheClock = Annotated[HouseClock, Depends(the_clock)]
TheStage = Annotated[Stage, Depends(the_stage)]
TheHub = Annotated[InstrumentHub, Depends(the_hub)]
TheCatalogue = Annotated[Catalogue, Depends(the_catalogue)]


def the_desk(db: Db, clock: TheClock) -> Desk:
    """Return the evening as every station reads it, now."""
    return read_desk(db, clock.now())


TheDesk = Annotated[Desk, Depends(the_desk)]


async def the_ready_desk(desk: TheDesk) -> ReadyDesk:
    """Return the same with a place and a telescope; raises ``OutOfRange`` without."""
    return require_ready(desk)


TheReadyDesk = Annotated[ReadyDesk, Depends(the_ready_desk)]


async def file_bytes(request: Request) -> bytes:
    """Return the bytes of the request as sent."""
    return await request.body()


ReadVersion = Annotated[Version | None, Query()]  # that was read of what is taken out
FileBytes = Annotated[bytes, Depends(file_bytes)]


def takes(*kinds: str) -> dict[str, Any]:
    """Return what the document says of a body sent as it is, of one of some content types.

    ``doors.right_type`` refuses every other.
    """
    content = {kind: {"schema": {"type": "string"}} for kind in kinds}
    return {"requestBody": {"required": True, "content": content}}


FILE_BODY = takes("text/csv", "text/json")
LINES_BODY = takes("application/x-ndjson")
