"""Who may come in: a request by the application's own address, not sent by another web page."""

import re
from collections.abc import Iterable
from contextlib import suppress
from typing import Any

from fastapi import Request
from starlette.datastructures import Headers
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Receive, Scope, Send

from jade_perch.api.problems import problem_response
from jade_perch.api.seal import is_own_address, own_names
from jade_perch.core.errors import OutOfRange, shown
from jade_perch.core.fields import is_whole_text

ONLY_READS = frozenset({"GET", "HEAD", "OPTIONS"})
OWN_SITES = frozenset({"same-origin", "none"})  # "none": the person typed or opened it
ELSEWHERE = (
    "Another web page sent this. Nothing was changed; open Jade Perch itself and do it there."
)
NOT_OURS = "Jade Perch does not answer to this address. Use the one it printed at its start."
JSON = "application/json"
HALF = re.compile(rb"\\\\u[dD][89a-fA-F]")  # how half of a character is written in JSON


class Doors:
    """ASGI middleware: refuses a request that does not come in by an own door, before any route.

    400 for an address that is not the application's: a name somebody else owns may lead here too.
    403 for whatever would change something and comes from another page; a browser says where a page
    comes from by ``Sec-Fetch-Site`` and ``Origin``, programs without a browser send neither.
    ``names`` are further names it answers to.
    """

    def __init__(self, app: ASGIApp, names: Iterable[str] = ()) -> None:
        self.app, self.names = app, own_names(names)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "http" and not is_own_address(scope, self.names):
            await problem_response(400, "Not its address", NOT_OURS)(scope, receive, send)
        elif scope["type"] == "http" and is_foreign(scope):
            await problem_response(403, "Refused from another page", ELSEWHERE)(
                scope, receive, send
            )
        else:
            await self.app(scope, receive, send)


def is_foreign(scope: Scope) -> bool:
    """Return whether a request may change something and comes from a page of somewhere else."""
    if scope["method"] in ONLY_READS:
        return False
    headers = Headers(scope=scope)
    if any(site not in OWN_SITES for site in headers.getlist("sec-fetch-site")):
        return True
    own = f"{scope['scheme']}://{headers.get('host', '')}"
    return any(origin != own for origin in headers.getlist("origin"))


async def right_type(request: Request) -> None:
    """Refuse with 415 a body that does not say it is what its route takes.

    A form or plain text is what any page may send without asking; no route takes either.
    """
    if request.method in ONLY_READS:
        return
    taken = types_taken(request.scope["route"])
    given = request.headers.get("content-type", "").partition(";")[0].strip().lower()
    if given in taken or (not given and not taken) or (not taken and given == JSON):
        return
    allowed = " or ".join(taken) or "no body"
    raise HTTPException(415, f"This takes {allowed}, and {given or 'no content type'} was named.")


async def whole_text(request: Request) -> None:
    """Refuse JSON that holds half of a character: it can neither be kept nor sent back.

    Raises ``OutOfRange`` with the field.
    """
    if getattr(request.scope["route"], "body_field", None) is None:
        return
    if HALF.search(await request.body()):
        with suppress(ValueError):  # what cannot be read is refused as such
            _refuse_halves(await request.json(), "body")


def _refuse_halves(value: Any, field: str) -> None:
    if isinstance(value, str) and not is_whole_text(value.replace("\x00", "")):
        cure = "Type the text anew."
        raise OutOfRange(field, shown(value), "text of whole characters", cure)
    if isinstance(value, list):
        for one in value:
            _refuse_halves(one, field)
    if isinstance(value, dict):
        for name, one in value.items():
            _refuse_halves(name, field)
            _refuse_halves(one, name)


def types_taken(route: object) -> list[str]:
    """Return the content types a route takes; none where it takes no body."""
    if getattr(route, "body_field", None) is not None:
        return [JSON]
    extra = getattr(route, "openapi_extra", None) or {}
    return list(extra.get("requestBody", {}).get("content", {}))
