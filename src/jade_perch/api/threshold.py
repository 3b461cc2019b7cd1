"""What answers first: the built pages at once, everything else as soon as the application is made.

Importing the application takes seconds on a slow machine.  Whoever opens a page meanwhile has it
before them by the time its first question can be answered.
"""

import asyncio
from collections.abc import Callable, Iterable
from functools import partial

from starlette.applications import Starlette
from starlette.datastructures import Headers
from starlette.requests import Request
from starlette.responses import PlainTextResponse, Response
from starlette.routing import Route, Router
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from jade_perch.api.pages import built_file, built_routes, page_of
from jade_perch.api.seal import BEAT_S, PAGE, Sealed, is_own_address, own_names

STREAM = [(b"content-type", b"text/event-stream; charset=utf-8")]
ALIVE = b'data: {"topic": "alive"}\n\n'
STARTING = "Jade Perch is starting: ask again."
NEVER_MADE = "Jade Perch could not start. What is wrong stands where it was started."


class Threshold:
    """ASGI application before an application that is still being made.

    ``make`` makes it, in a thread of its own; ``names`` are further names it answers to.  Why it
    could not be made is kept as ``error``, and ``give_up`` is called.
    """

    def __init__(self, make: Callable[[], Starlette], names: Iterable[str] = ()) -> None:
        self.make, self.names = make, own_names(names)
        self.error: Exception | None = None
        self.give_up: Callable[[], None] = lambda: None
        self.made: asyncio.Future[Starlette]
        self.app: Starlette | None = None
        self.pages, self.stream = _pages(), Sealed(self._stream, _broken)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "lifespan":
            await self._live(receive, send)
        else:
            app = self.app or self._at_once(scope) or await self._app()
            await app(scope, receive, send)

    def let_go(self) -> None:
        """End the streams that are open."""
        if self.app is not None:
            self.app.state.broker.let_go()

    async def _live(self, receive: Receive, send: Send) -> None:
        """Have the application made, and let it live until the end."""
        await receive()
        self.made = asyncio.get_running_loop().run_in_executor(None, self.make)
        await send({"type": "lifespan.startup.complete"})
        try:
            self.app = await asyncio.shield(self.made)
        except Exception as error:
            self.error = error
            self.give_up()
            await receive()
        else:
            async with self.app.router.lifespan_context(self.app):
                await receive()
        await send({"type": "lifespan.shutdown.complete"})

    async def _app(self) -> ASGIApp:
        try:
            return await asyncio.shield(self.made)
        except Exception:  # kept by ``_live``
            return PlainTextResponse(NEVER_MADE, 503)

    async def _stream(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Tell a page that somebody is there, until the application tells it more."""
        await send({"type": "http.response.start", "status": 200, "headers": STREAM})
        while not self.made.done():
            await send({"type": "http.response.body", "body": ALIVE, "more_body": True})
            await asyncio.wait([self.made], timeout=BEAT_S)
        app = await self._app()
        await app(scope, receive, partial(_gone_on, send))

    def _at_once(self, scope: Scope) -> ASGIApp | None:
        """Return what answers now; what is to be refused is left to the application.

        A page has few ways, and its letters come by them too: it asks again instead of waiting.
        """
        if scope["type"] != "http" or self.made.done() or not is_own_address(scope, self.names):
            return None
        path = scope["path"]
        if path == "/api/events":
            return self.stream
        if path.startswith("/api/"):
            return AGAIN if PAGE in Headers(scope=scope) else None
        is_there = not path.startswith("/assets/") or built_file(path[1:]) is not None
        return self.pages if scope["method"] == "GET" and is_there else None


async def _gone_on(send: Send, message: Message) -> None:
    """Send the rest of an answer that was begun already."""
    if message["type"] != "http.response.start":
        await send(message)


def _broken(*_: object) -> Response:
    return PlainTextResponse(NEVER_MADE, 500)


def _pages() -> ASGIApp:
    routes = [*built_routes(), Route("/{path:path}", _page)]
    return Sealed(Router(routes), _broken)


AGAIN = Sealed(PlainTextResponse(STARTING, 503, {"Retry-After": "1"}), _broken)


def _page(request: Request) -> Response:
    return page_of(request.path_params["path"])
