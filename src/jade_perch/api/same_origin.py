"""No other web page writes here: a request that another page sends is refused before any route."""

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Receive, Scope, Send

from jade_perch.api.problems import problem_response

ONLY_READS = frozenset({"GET", "HEAD", "OPTIONS"})
OWN_SITES = frozenset({"same-origin", "none"})  # "none": the person typed or opened it
WORDS = "Another web page sent this. Nothing was changed; open Jade Perch itself and do it there."


class SameOrigin:
    """ASGI middleware: answers 403 to whatever would change something and comes from elsewhere.

    A browser says where a page comes from by ``Sec-Fetch-Site`` and ``Origin``, whatever the
    body; programs without a browser send neither.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "http" and is_foreign(scope):
            await problem_response(403, "Refused from another page", WORDS)(scope, receive, send)
            return
        await self.app(scope, receive, send)


def is_foreign(scope: Scope) -> bool:
    """Return whether a request may change something and comes from a page of somewhere else."""
    if scope["method"] in ONLY_READS:
        return False
    headers = Headers(scope=scope)
    if headers.get("sec-fetch-site", "none") not in OWN_SITES:
        return True
    origin = headers.get("origin")
    return origin is not None and origin != f"{scope['scheme']}://{headers.get('host', '')}"
