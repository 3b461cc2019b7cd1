"""What answers first: the built pages at once, everything else as soon as the application is made.

Importing the application takes seconds on a slow machine.  Whoever opens a page meanwhile has it
before them by the time its first question can be answered.
"""

import asyncio
from collections.abc import Callable, Iterable

from starlette.applications import Starlette
from starlette.requests import Request
from starlette.responses import PlainTextResponse, Response
from starlette.routing import Route, Router
from starlette.types import ASGIApp, Receive, Scope, Send

from jade_perch.api.pages import built_file, built_routes, page_of
from jade_perch.api.seal import OWN_NAMES, Sealed, is_own_address

NEVER_MADE = "Jade Perch could not start. What is wrong stands where it was started."


class Threshold:
    """ASGI application before an application that is still being made.

    ``make`` makes it, in a thread of its own; ``names`` are further names it answers to.  Why it
    could not be made is kept as ``error``, and ``give_up`` is called.
    """

    def __init__(self, make: Callable[[], Starlette], names: Iterable[str] = ()) -> None:
        self.make, self.names = make, OWN_NAMES | {name.lower() for name in names}
        self.error: Exception | None = None
        self.give_up: Callable[[], None] = lambda: None
        self.made: asyncio.Future[Starlette]
        self.app: Starlette | None = None
        self.pages = _pages()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "lifespan":
            await self._live(receive, send)
        elif self.app is None and self._is_page(scope):
            await self.pages(scope, receive, send)
        else:
            app = self.app or await self._app()
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

    def _is_page(self, scope: Scope) -> bool:
        """Return whether a request asks for what was built, by an own address.

        What is to be refused is left to the application.
        """
        if scope["type"] != "http" or scope["method"] != "GET":
            return False
        path = scope["path"]
        is_there = not path.startswith("/assets/") or built_file(path[1:]) is not None
        return is_there and not path.startswith("/api/") and is_own_address(scope, self.names)


def _pages() -> ASGIApp:
    routes = [*built_routes(), Route("/{path:path}", _page)]
    return Sealed(Router(routes), crashed=lambda *_: PlainTextResponse(NEVER_MADE, 500))


def _page(request: Request) -> Response:
    return page_of(request.path_params["path"])
