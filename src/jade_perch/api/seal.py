"""What holds from the first answer on: the application's own addresses, and sealed answers."""

from collections.abc import Callable, Collection, Iterable
from contextlib import suppress
from ipaddress import IPv6Address, ip_address

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

Crashed = Callable[[str, Exception], ASGIApp]
BEAT_S = 1.0  # so often at least something comes, so that a page notices when nothing does
PAGE = "x-page"  # header of a request: which page asks
OWN_NAMES = frozenset({"localhost", "127.0.0.1", "::1"})


def own_names(more: Iterable[str]) -> frozenset[str]:
    """Return every name the application answers to: those of this machine alone, and more."""
    return OWN_NAMES | {name.lower() for name in more}


def is_own_address(scope: Scope, names: Collection[str]) -> bool:
    """Return whether a request names one of some ``names``, or the very address it came in by."""
    given = Headers(scope=scope).getlist("host")
    if len(given) != 1:
        return False
    host = host_of(given[0])
    if host in names:
        return True
    server = scope.get("server") or ("", 0)
    with suppress(ValueError):
        return _plain(host) == _plain(str(server[0]))
    return False


def host_of(text: str) -> str:
    """Return the name or address in a ``Host`` header, without its port; empty for none."""
    if text.startswith("["):
        return text[1:].partition("]")[0].lower()
    return text.partition(":")[0].lower()


def _plain(address: str) -> object:
    """Return an address as such; raises ``ValueError`` for a name."""
    found = ip_address(address)
    within = found.ipv4_mapped if isinstance(found, IPv6Address) else None
    return found if within is None else within


SECURITY_HEADERS = {
    "Content-Security-Policy": (
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
        "object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
    ),
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}
FOR_EVER = "public, max-age=31536000, immutable"  # built files are named by their content


class Sealed:
    """ASGI middleware: every answer leaves with the security headers, a crash as a problem too."""

    def __init__(self, app: ASGIApp, crashed: Crashed) -> None:
        self.app, self.crashed = app, crashed

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        is_begun = False

        async def sealed(message: Message) -> None:
            nonlocal is_begun
            if message["type"] == "http.response.start":
                is_begun = True
                headers = MutableHeaders(scope=message)
                headers.update(SECURITY_HEADERS)
                lasts = scope["path"].startswith("/assets/") and message["status"] == 200
                headers["Cache-Control"] = FOR_EVER if lasts else "no-cache"
            await send(message)

        try:
            await self.app(scope, receive, sealed)
        except Exception as error:
            if is_begun:
                raise
            await self.crashed(scope["path"], error)(scope, receive, sealed)
