"""What routes ask for: one database connection a request, and the clock."""

import sqlite3
from collections.abc import Iterator
from pathlib import Path
from typing import Annotated

from fastapi import Depends, Request

from jade_perch.standins.clock import Clock
from jade_perch.store.connection import DATABASE_NAME, connect


def open_db(request: Request) -> Iterator[sqlite3.Connection]:
    """Open a connection for one request and close it afterwards."""
    data_dir: Path = request.app.state.data_dir
    db = connect(data_dir / DATABASE_NAME)
    try:
        yield db
    finally:
        db.close()


def the_clock(request: Request) -> Clock:
    """Return the application's one clock."""
    clock: Clock = request.app.state.clock
    return clock


Db = Annotated[sqlite3.Connection, Depends(open_db)]
TheClock = Annotated[Clock, Depends(the_clock)]
