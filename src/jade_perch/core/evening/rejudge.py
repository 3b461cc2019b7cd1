"""Recorded steps judged again: what was safe when it was recorded may be so no longer."""

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta

from pydantic import JsonValue, ValidationError

from jade_perch.core.bench.balance import BalanceInput
from jade_perch.core.bench.finder import FinderInput
from jade_perch.core.bench.focus import FocusInput
from jade_perch.core.bench.landmark import Aim, Landmark
from jade_perch.core.bench.north import NorthInput
from jade_perch.core.bench.sunguard import MINUTE, guard, unsafe_from
from jade_perch.core.constants import SUN_KEEP_AWAY_DEG
from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.desk import Desk
from jade_perch.core.evening.setup import SetupReading, Step, StepName, make_steps
from jade_perch.core.moments import Now, clock_time
from jade_perch.core.safety import not_outside
from jade_perch.core.site import Site
from jade_perch.core.sky.sunpath import watch_sun

A_LOOK_MINUTES = 5.0  # whatever was aligned is looked at again for so long; our estimate
LONGEST_BACK = timedelta(hours=24)  # no step of one evening is older


# Every step that points at something, by what it is told.
AIMING: dict[StepName, type[Landmark | BalanceInput | FinderInput | NorthInput | FocusInput]] = {
    "balance": BalanceInput,
    "sun": Landmark,
    "finder": FinderInput,
    "north": NorthInput,
    "focus": FocusInput,
}


def steps_of(desk: Desk, readings: Sequence[SetupReading]) -> list[Step]:
    """Return the path of a desk's telescope, every step that aims judged anew at this moment.

    Source: rules.md#steps; rules.md#sun.
    """
    steps = make_steps(desk.known_mount, readings)
    if desk.place is None:
        return steps
    return [_rejudged(step, desk.place, desk.now) for step in steps]


def _rejudged(step: Step, site: Site, now: Now) -> Step:
    if step.state != "done" or step.name not in AIMING:
        return step
    words = _not_safe_words(step, site, now)
    if not words:
        return step
    said = f"Not safe now{now.by_clock(site.zone)}: {words}{not_outside(now)}"
    state = "unsafe" if step.name == "sun" else step.state
    return step.model_copy(update={"not_safe": said, "state": state})


def _not_safe_words(step: Step, site: Site, now: Now) -> str:
    """Return why what a step was told may not be aimed at now; empty where it may."""
    recorded = step.recorded_at_utc or now.moment_utc
    aim = _aim_of(step.name, step.inputs or {})
    job_end = recorded + aim.job_minutes * MINUTE
    left = (job_end - now.moment_utc) / MINUTE if step.name == "sun" else A_LOOK_MINUTES
    aim = aim.model_copy(update={"job_minutes": min(360.0, max(A_LOOK_MINUTES, left))})
    try:
        check = guard(aim, site, now)
    except OutOfRange:
        return ""  # the Moon has set, or the compass no longer counts: nothing is there to aim at
    if check.refused:
        return _since_words(aim, site, now, max(recorded, now.moment_utc - LONGEST_BACK))
    if left <= 0 and watch_sun(site, now.moment_utc, A_LOOK_MINUTES * MINUTE).counts_as_up.any():
        return f"its time was over at {clock_time(job_end, site.zone)}. Check it again."
    return ""


def _aim_of(name: StepName, inputs: Mapping[str, JsonValue]) -> Aim:
    """Return what a recorded step had the tube look at; what no longer says so may be anything."""
    try:
        aim = AIMING[name].model_validate(inputs).aim()
        is_anywhere = aim.at == "landmark" and aim.bearing_deg is None
        return aim.model_copy(update={"at": "open"}) if is_anywhere else aim
    except (ValidationError, OutOfRange):
        return Aim(at="open")


def _since_words(aim: Aim, site: Site, now: Now, recorded_utc: datetime) -> str:
    end = now.moment_utc + aim.job_minutes * MINUTE
    since = unsafe_from(aim, site, min(recorded_utc, now.moment_utc), end) or now.moment_utc
    at = clock_time(since, site.zone)
    if aim.bearing_deg is None:
        return f"since {at} the Sun counts as up."
    if since > now.moment_utc:
        return f"from {at} on the Sun comes within {SUN_KEEP_AWAY_DEG:g}° of it."
    return f"since {at} the Sun is within {SUN_KEEP_AWAY_DEG:g}° of it."
