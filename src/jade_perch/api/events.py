"""The one stream a page listens to: what changed, the clock, and live instruments."""

import asyncio
import time
from collections.abc import AsyncIterator, Sequence
from datetime import datetime
from typing import Annotated, Literal

from fastapi import Depends, Query, Request
from fastapi.responses import StreamingResponse
from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from jade_perch.api.broker import Broker, Listener
from jade_perch.api.dependencies import TheClock, TheHub
from jade_perch.api.seal import BEAT_S, PAGE
from jade_perch.api.stations import station
from jade_perch.core.bench.instrument import Kind, Shown
from jade_perch.core.fields import Frozen, UpTo
from jade_perch.devices.clock import HouseClock
from jade_perch.devices.hub import InstrumentHub

router = station("/events", "events")
Topic = Literal[
    "hello",
    "clock",
    "alive",
    "kit",
    "evening",
    "view",
    "setup",
    "plan",
    "session",
    "journal",
    "eyepiece",
    "practice",
    "everything",
    "instrument",
]
# What a change under a path is a change of; the longest beginning counts.
TOPIC_OF: dict[str, Topic] = {
    "/api/kit": "kit",
    "/api/evening": "evening",
    "/api/powers": "evening",
    "/api/powers/view": "view",
    "/api/plan": "plan",
    "/api/plan/weather": "evening",
    "/api/setup": "setup",
    "/api/setup/solar": "session",
    "/api/journal": "journal",
    "/api/journal/everything": "everything",
    "/api/eyepiece": "eyepiece",
    "/api/practice": "practice",
    "/api/rehearsal": "everything",
}
TOLD = "X-Told"  # header of every answer: how many changes had been told by then
CHANGED = "X-Changed"  # header of an answer: the topic its request changed
PAGE_CHARS = 80  # a page's own name is short; the rest of a longer one is left off
TICK_S = 30.0  # how often the clock is told; more often when it runs fast
SHORTEST_TICK_S = 1.0
AGAIN_MS = 500  # how soon a page that was cut off asks again


class Told(Frozen):
    """One thing a page is told.

    ``number`` counts changes since ``boot``; ``by`` is the page that made the change.
    """

    topic: Topic
    boot: str = ""
    number: int = 0
    by: str = ""
    now_utc: datetime | None = None
    shown: Shown | None = None


async def the_broker(request: Request) -> Broker:
    """Return the application's broker."""
    broker: Broker = request.app.state.broker
    return broker


TheBroker = Annotated[Broker, Depends(the_broker)]
Kinds = Annotated[Annotated[list[Kind], UpTo(20)] | None, Query()]


@router.get(
    "",
    response_class=StreamingResponse,
    responses={200: {"model": Told, "description": "One server-sent event a thing told"}},
)
async def get_events(
    broker: TheBroker, hub: TheHub, clock: TheClock, listen: Kinds = None
) -> StreamingResponse:
    """Stream what changes, the clock, and the readings of the instruments named by ``listen``."""
    stream = events(broker, hub, clock, listen or [])
    return StreamingResponse(stream, media_type="text/event-stream")


async def events(
    broker: Broker, hub: InstrumentHub, clock: HouseClock, kinds: Sequence[Kind]
) -> AsyncIterator[str]:
    """Yield server-sent events until the listener leaves, or is let go for taking none.

    The clock is told however much else there is to tell: what was safe may be so no longer.
    Something comes every second, so that whoever hears nothing knows that nobody is there.
    """
    topics = frozenset([*TOPIC_OF.values(), *(reading_topic(kind) for kind in kinds)])
    last = clock.now_utc()
    with broker.listen(topics) as listener, hub.listening(kinds):
        yield f"retry: {AGAIN_MS}\n" + _event(
            Told(topic="hello", boot=broker.boot, number=broker.told, now_utc=last)
        )
        due_s = time.monotonic() + tick_s(clock)
        while True:
            text = await _next(listener, min(BEAT_S, due_s - time.monotonic()))
            if text is None:
                return
            if time.monotonic() >= due_s:
                due_s, now = time.monotonic() + tick_s(clock), clock.now_utc()
                if now != last:
                    yield _event(Told(topic="clock", now_utc=now))
                last = now
            yield text or ALIVE


async def _next(listener: Listener, timeout_s: float) -> str | None:
    """Return the next text, "" when none came for a while, None when the listener was let go."""
    try:
        return await asyncio.wait_for(listener.queue.get(), timeout_s)
    except TimeoutError:
        return ""


def tick_s(clock: HouseClock) -> float:
    """Return how often the clock is told, in seconds."""
    return max(SHORTEST_TICK_S, TICK_S / max(1.0, clock.rate))


def reading_topic(kind: Kind) -> str:
    """Return the broker's topic for the readings of one kind of instrument."""
    return f"instrument/{kind}"


def tell_reading(broker: Broker, shown: Shown) -> None:
    """Tell every listener of its kind one judged reading."""
    told = Told(topic="instrument", shown=shown)
    broker.publish(reading_topic(shown.instrument), _event(told))


def _event(told: Told) -> str:
    return f"data: {told.model_dump_json(exclude_none=True)}\n\n"


ALIVE = _event(Told(topic="alive"))


class Announcer:
    """ASGI middleware: tells who listens, and the asking page by a header, what a request changed.

    A request has changed something when its connection wrote to the database.
    """

    def __init__(self, app: ASGIApp, broker: Broker) -> None:
        self.app, self.broker = app, broker

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        state = scope.setdefault("state", {})
        told: Told | None = None

        async def announced(message: Message) -> None:
            nonlocal told
            if message["type"] == "http.response.start":
                headers = MutableHeaders(scope=message)
                topic = topic_of(scope["path"]) if state.get("has_changed", bool)() else None
                if topic and message["status"] < 400:
                    headers[CHANGED] = topic
                    by = Headers(scope=scope).get(PAGE, "")[:PAGE_CHARS]
                    told = Told(topic=topic, number=self.broker.next_number(), by=by)
                headers[TOLD] = str(self.broker.told)
            await send(message)

        await self.app(scope, receive, announced)
        if told:
            self.broker.publish(told.topic, _event(told))


def topic_of(path: str) -> Topic | None:
    """Return what a change under a path is a change of; None where no page reads it."""
    fitting = [start for start in TOPIC_OF if path == start or path.startswith(f"{start}/")]
    return TOPIC_OF[max(fitting, key=len)] if fitting else None
