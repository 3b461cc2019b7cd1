"""Rehearsing an evening by day: begun, paced and ended; nothing of it is kept."""

from typing import Annotated

from fastapi import Request

from jade_perch.api.dependencies import TheReadyDesk, TheStage
from jade_perch.api.stations import station
from jade_perch.core.fields import Frozen, Range, UtcTime
from jade_perch.core.sky.night import require_inside

router = station("/rehearsal", "rehearsal")
Rate = Annotated[float, Range(1, 120, "times as fast", "Choose how fast the evening goes.")]


class Wanted(Frozen):
    """From when an evening is rehearsed, its sunset for None, and how many times as fast."""

    from_utc: UtcTime | None = None
    rate: Rate = 20.0


class Pace(Frozen):
    """How many times as fast a rehearsal goes on."""

    rate: Rate


@router.post("", status_code=204)
def begin_rehearsal(wanted: Wanted, desk: TheReadyDesk, stage: TheStage, request: Request) -> None:
    """Rehearse the chosen evening on a copy of what is kept; one that runs ends first."""
    from_utc = wanted.from_utc or desk.night.sunset_utc or desk.night.start_utc
    require_inside(desk.night, from_utc)
    stage.begin(from_utc, wanted.rate)
    request.state.has_changed = lambda: True


@router.put("/pace", status_code=204)
def pace_rehearsal(pace: Pace, stage: TheStage, request: Request) -> None:
    """Let the rehearsal go on from where it is, at another rate."""
    stage.pace(pace.rate)
    request.state.has_changed = lambda: True


@router.delete("", status_code=204)
def end_rehearsal(stage: TheStage, request: Request) -> None:
    """End the rehearsal; the evening is as it was before."""
    stage.end()
    request.state.has_changed = lambda: True
