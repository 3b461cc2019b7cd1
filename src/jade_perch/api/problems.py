"""Errors as RFC 9457 problem details, by one table; never a trace."""

import logging
import sqlite3
from collections.abc import Sequence
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from pydantic import BaseModel
from starlette.exceptions import HTTPException
from starlette.responses import JSONResponse

from jade_perch.api.rehearsals import OtherWorld
from jade_perch.core.bench.solar import SolarForbidden
from jade_perch.core.bench.sunguard import SunRefusal
from jade_perch.core.errors import FieldProblem, JobError, OutOfRange, field_problems, shown
from jade_perch.core.practice.run import MovedMeanwhile
from jade_perch.store.connection import BUSY_MS
from jade_perch.store.errors import (
    Contradiction,
    DatabaseUnusable,
    NameTaken,
    NotFound,
    RefersToNothing,
    Stale,
    Unreadable,
)

DAMAGED_WORDS = (
    "The database is damaged: end Jade Perch and start it again. "
    "It lays the damaged file aside and offers the last good copy."
)
# What the database says by its code, and what is to be done; busy was waited for already.
DISK_WORDS = {
    sqlite3.SQLITE_FULL: "The disk is full: free some space, then send it again.",
    sqlite3.SQLITE_READONLY: (
        "The database may only be read: allow its folder to be written, then send it again."
    ),
    sqlite3.SQLITE_CANTOPEN: (
        "The database cannot be opened: look whether its folder is there and may be written."
    ),
    sqlite3.SQLITE_BUSY: (
        f"The database was busy with something else for {BUSY_MS / 1000:g} s: send it again."
    ),
    sqlite3.SQLITE_LOCKED: "The database is busy with something else: send it again.",
    sqlite3.SQLITE_IOERR: (
        "The disk does not answer as it should: look after it, then send it again."
    ),
    sqlite3.SQLITE_CORRUPT: DAMAGED_WORDS,
    sqlite3.SQLITE_NOTADB: DAMAGED_WORDS,
}
MEDIA_TYPE = "application/problem+json"
log = logging.getLogger("jade_perch")


class Problem(BaseModel):
    """RFC 9457 problem details; ``errors`` lists each field with value, range and cure.

    ``stored`` is, for a change that came too late, what is stored now.
    """

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[FieldProblem] = []
    stored: dict[str, Any] | None = None


STATUS_OF: dict[type[Exception], tuple[int, str]] = {
    NotFound: (404, "Not found"),
    Stale: (409, "Changed meanwhile"),
    NameTaken: (409, "Name taken"),
    RefersToNothing: (422, "Refers to nothing"),
    Contradiction: (409, "Does not agree"),
    Unreadable: (409, "Cannot be read"),
    DatabaseUnusable: (503, "Database unusable"),
    OtherWorld: (412, "Another evening"),
    SunRefusal: (422, "Refused because of the Sun"),
    SolarForbidden: (422, "No solar session now"),
    MovedMeanwhile: (409, "Changed meanwhile"),
    JobError: (422, "Value refused"),
}
TITLE_OF = {
    400: "Not readable",
    404: "Not found",
    405: "Not done here",
    413: "Too large",
    415: "Of another kind",
}


def install_problem_handlers(app: FastAPI) -> None:
    """Make every error of the application leave as problem details."""
    app.add_exception_handler(RequestValidationError, _validation)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(sqlite3.Error, _not_written)
    for kind in STATUS_OF:
        app.add_exception_handler(kind, _known)


def problem_response(
    status: int,
    title: str,
    detail: str,
    errors: Sequence[FieldProblem] = (),
    stored: dict[str, Any] | None = None,
) -> JSONResponse:
    """Return the response that carries one problem."""
    problem = Problem(title=title, status=status, detail=detail, errors=list(errors), stored=stored)
    return JSONResponse(problem.model_dump(mode="json"), status, media_type=MEDIA_TYPE)


async def _validation(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    errors = field_problems(list(error.errors()))
    return problem_response(422, "Value refused", " ".join(e.detail for e in errors), errors)


async def _http(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, HTTPException)
    title = TITLE_OF.get(error.status_code, "Request refused")
    if error.status_code == 400:  # the body could not even be taken apart
        cure = "Send well-formed JSON in UTF-8, its numbers shorter than a line."
        told = OutOfRange("body", "(unreadable)", "a JSON object", cure).problem()
        return problem_response(400, title, told.detail, [told])
    return problem_response(error.status_code, title, str(error.detail))


async def _known(request: Request, error: Exception) -> JSONResponse:
    if isinstance(error, DatabaseUnusable) and isinstance(error.__cause__, sqlite3.Error):
        return await _not_written(request, error.__cause__)
    status, title = next(found for kind, found in STATUS_OF.items() if isinstance(error, kind))
    errors = [error.problem()] if isinstance(error, OutOfRange) else []
    if isinstance(error, SunRefusal):
        errors = [error.problem()]
    if isinstance(error, Stale):
        return problem_response(
            status, title, str(error), _differences(error), error.stored.model_dump(mode="json")
        )
    if isinstance(error, NameTaken):
        taken = OutOfRange("name", error.name, "a name not in use", "Choose another name.")
        errors = [taken.problem()]
    if isinstance(error, RefersToNothing):
        errors = [
            OutOfRange(field, value, "one that is there", "Choose it again, or none.").problem()
            for field, value in error.fields.items()
        ]
    return problem_response(status, title, str(error), errors)


async def _not_written(request: Request, error: Exception) -> JSONResponse:
    """Say why the database took or gave nothing: full, read-only, busy, damaged."""
    assert isinstance(error, sqlite3.Error)
    words = DISK_WORDS.get(getattr(error, "sqlite_errorcode", 0) & 0xFF)
    if words is None:  # a fault of the application
        return unexpected(request.url.path, error)
    done = "read" if request.method == "GET" else "stored"
    log.warning("Not %s in %s: %s", done, request.url.path, error)
    detail = f"{words} What was stored before is kept; this was not {done}."
    return problem_response(503, f"Not {done}", detail)


def _differences(error: Stale) -> list[FieldProblem]:
    """Return each field that differs: the value that was sent, and what is stored now."""
    cure = "Keep yours, or take what is stored."
    return [
        OutOfRange(field, mine, f"{shown(stored)} is stored", cure).problem()
        for field, (mine, stored) in error.changed.items()
    ]


def unexpected(path: str, error: Exception) -> JSONResponse:
    """Return what is said of an error nobody thought of, and write it to the log."""
    log.error("Unexpected error in %s", path, exc_info=error)
    detail = "Something went wrong inside. Nothing was changed; the log of the server says more."
    return problem_response(500, "Internal error", detail)
