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
from jade_perch.store.errors import (
    Contradiction,
    DatabaseUnusable,
    NameTaken,
    NotFound,
    RefersToNothing,
    Stale,
)

DISK_WORDS = {
    "is full": "The disk is full: free some space, then send it again.",
    "readonly": "The folder of the database may not be written: allow it, then send it again.",
    "unable to open": "The database cannot be opened: look whether its folder is there.",
    "locked": "The database is busy with something else: wait a moment, then send it again.",
    "disk I/O": "The disk does not answer as it should: look after it, then send it again.",
}
DISK_ELSE = "The database did not take it: send it again."
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
    DatabaseUnusable: (500, "Database unusable"),
    OtherWorld: (412, "Another evening"),
    SunRefusal: (422, "Refused because of the Sun"),
    SolarForbidden: (422, "No solar session now"),
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
    app.add_exception_handler(sqlite3.OperationalError, _not_written)
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


async def _known(_: Request, error: Exception) -> JSONResponse:
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
    """Say why the disk took nothing: it is full, may not be written, or is busy."""
    log.error("Not written in %s", request.url.path, exc_info=error)
    said = str(error)
    words = next((words for part, words in DISK_WORDS.items() if part in said), DISK_ELSE)
    detail = f"{words} What was stored before is kept; this was not stored."
    return problem_response(503, "Not stored", detail)


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
