"""Bodies that are far too large are read away and answered, never kept in memory."""

from collections.abc import Mapping

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from jade_perch.api.problems import problem_response
from jade_perch.core.errors import FieldProblem

MOST_BODY_BYTES = 2_000_000
# What a path that takes more is sent, by its end: what it is called, and what to do.
USUAL = ("body", "Choose a smaller file; a whole kit takes some kilobytes.")
WHAT = {
    "pictures": ("picture", "Choose a smaller picture, or make it smaller first."),
    "upload": ("file", "Choose a zip that was exported here; none is so large."),
}


class _TooLarge(Exception):
    pass


class BodyLimit:
    """ASGI middleware: answers 413 with problem details once a body passes the limit.

    ``larger`` are the paths that take more.
    """

    def __init__(
        self,
        app: ASGIApp,
        most_bytes: int = MOST_BODY_BYTES,
        larger: Mapping[str, int] | None = None,
    ) -> None:
        self.app, self.most_bytes, self.larger = app, most_bytes, larger or {}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        most_bytes = self.larger.get(scope["path"], self.most_bytes)
        declared = _declared_bytes(scope)
        if declared > most_bytes:
            await _read_away(receive)
            await self._refuse(scope, receive, send, declared)
            return
        taken = 0

        async def counted() -> Message:
            nonlocal taken
            message = await receive()
            taken += len(message.get("body", b""))
            if taken > most_bytes:
                if message.get("more_body"):
                    await _read_away(receive)
                raise _TooLarge
            return message

        try:
            await self.app(scope, counted, send)
        except _TooLarge:
            await self._refuse(scope, receive, send, taken)

    async def _refuse(self, scope: Scope, receive: Receive, send: Send, given: int) -> None:
        most_bytes = self.larger.get(scope["path"], self.most_bytes)
        field, cure = WHAT.get(scope["path"].rsplit("/", 1)[-1], USUAL)
        problem = FieldProblem(
            field=field,
            value=f"{given} bytes",
            allowed=f"up to {most_bytes} bytes",
            cure=cure,
            detail=f"The body has {given} bytes; allowed are {most_bytes}.",
        )
        await problem_response(413, "Too large", problem.detail, [problem])(scope, receive, send)


def _declared_bytes(scope: Scope) -> int:
    headers = dict(scope["headers"])
    text = headers.get(b"content-length", b"0")
    return int(text) if text.isdigit() else 0


async def _read_away(receive: Receive) -> None:
    while (await receive()).get("more_body"):
        pass
