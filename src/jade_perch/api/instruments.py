"""Live instruments: stand-ins or fed devices, judged line by line and streamed to the page."""

import time
from collections.abc import AsyncIterator, Iterable
from random import Random
from typing import Annotated

import anyio
from fastapi import APIRouter, Depends, Request
from fastapi.responses import StreamingResponse

from jade_perch.api.kit import FileBytes
from jade_perch.core.bench.instrument import (
    SILENT_AFTER_S,
    Kind,
    Shown,
    Watch,
    silent,
    watch_line,
)
from jade_perch.core.fields import Frozen
from jade_perch.standins.instruments import InstrumentHub, InstrumentSettings, simulated_line

router = APIRouter(prefix="/setup/instruments", tags=["setup"])
FED_LOOK_S = 1 / 30  # how often a fed device is looked at


def the_hub(request: Request) -> InstrumentHub:
    """Return the application's instruments."""
    hub: InstrumentHub = request.app.state.instruments
    return hub


Hub = Annotated[InstrumentHub, Depends(the_hub)]


class Fed(Frozen):
    """How many lines of a device wait to be read."""

    waiting: int


@router.get("/{kind}")
def get_settings(kind: Kind, hub: Hub) -> InstrumentSettings:
    """Return what the stand-in shows and what is wrong with it."""
    return hub.settings[kind]


@router.put("/{kind}")
def set_settings(kind: Kind, settings: InstrumentSettings, hub: Hub) -> InstrumentSettings:
    """Set what the stand-in shows; it is listened to again."""
    hub.unplug(kind)
    hub.settings[kind] = settings
    return settings


@router.post("/{kind}/lines")
def feed_lines(kind: Kind, data: FileBytes, hub: Hub) -> Fed:
    """Take JSON lines of a real device; from now on it is listened to."""
    lines = data.decode("utf-8", errors="replace").splitlines()
    return Fed(waiting=hub.feed(kind, [line for line in lines if line.strip()]))


@router.get(
    "/{kind}/stream",
    response_class=StreamingResponse,
    responses={200: {"model": Shown, "description": "One event a reading"}},
)
async def stream(kind: Kind, hub: Hub) -> StreamingResponse:
    """Stream every reading as it comes, judged, one server-sent event each."""
    return StreamingResponse(_events(kind, hub), media_type="text/event-stream")


async def _events(kind: Kind, hub: InstrumentHub) -> AsyncIterator[str]:
    watch, dice, seq = Watch(kind), Random(1), 0
    heard = due = time.monotonic()
    while True:
        lines: Iterable[str]
        if hub.is_fed(kind):
            lines, step_s = hub.fed_lines(kind), FED_LOOK_S
        else:
            settings = hub.settings[kind]
            one = simulated_line(kind, settings, seq, dice)
            lines, step_s, seq = [] if one is None else [one], 1 / settings.rate_hz, seq + 1
        for line in lines:
            watch, shown = watch_line(watch, line)
            heard = time.monotonic()
            yield _event(shown)
        if time.monotonic() - heard > SILENT_AFTER_S:
            heard = time.monotonic()
            yield _event(silent(watch))
        due += step_s  # late once is caught up with, so that no reading is dropped
        await anyio.sleep(max(0.0, due - time.monotonic()))


def _event(shown: Shown) -> str:
    return f"data: {shown.model_dump_json()}\n\n"
