"""The thread: the one next step of the whole evening, in one sentence that leads there."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal

from jade_perch.core.evening.plan import Block, Plan
from jade_perch.core.evening.setup import SetupReading, Step, StepName, standing_readings
from jade_perch.core.eyepiece.coming import Event
from jade_perch.core.eyepiece.sitting import Sitting
from jade_perch.core.fields import Frozen
from jade_perch.core.moments import clock_time, day_words
from jade_perch.core.sky.night import Night

LeadsTo = Literal[
    "/kit", "/plan?tab=place", "/plan", "/setup", "/eyepiece", "/eyepiece?pack=1", "/journal"
]
MOST_CHARS = 40  # what is read at one glance; design of the product
LATE = timedelta(hours=2)  # after full dark nobody is sent back to the bench; our choice
DOING: dict[StepName, str] = {
    "assemble": "Put the telescope together",
    "stand": "Stand it on firm ground",
    "level": "Level the base",
    "balance": "Balance the tube",
    "sun": "Choose a landmark away from the Sun",
    "focus": "Focus",
    "finder": "Align the finder",
    "north": "Find north",
    "power": "Power on",
    "budget": "See how long targets stay",
    "cool": "Put the tube out to cool",
}
WAITING = ("to_do", "spoiled", "unsafe")


class Thread(Frozen):
    """One sentence and where it leads: at most 40 characters, and a time where there is one.

    ``step`` is the step of the bench it means; ``is_due`` where it is so now.
    """

    words: str
    when: str
    leads_to: LeadsTo
    step: StepName | None = None
    is_due: bool = False


@dataclass(frozen=True, slots=True)
class Known:
    """What the thread is spun from; ``make_plan`` is asked only where a sentence needs the plan."""

    now_utc: datetime
    zone: str
    has_place: bool
    has_telescope: bool
    night: Night | None
    steps: Sequence[Step]
    readings: Sequence[SetupReading]
    make_plan: Callable[[], Plan | None]
    sitting: Sitting
    events: Sequence[Event]


def spin(known: Known) -> Thread:
    """Return the one next step of the evening.

    Before the sitting begins it comes from kit, bench and clock; from then on from the plan and
    what is due; at its end from packing up.  Whoever skips ahead is not called back.

    Source: rules.md#thread.
    """
    if not known.has_place:
        return Thread(words="Say where you observe", when="", leads_to="/plan?tab=place")
    night = known.night
    if not known.has_telescope or night is None:
        return Thread(words="Put your telescope on the bench", when="", leads_to="/kit")
    if known.sitting.closed_at_utc is not None:
        return Thread(words="The evening is closed: read it again", when="", leads_to="/journal")
    is_morning = night.sunrise_utc is not None and known.now_utc >= night.sunrise_utc
    if is_morning or known.now_utc > night.end_utc:
        return _after(known, night)
    if known.sitting.begun_utc is not None:
        return _at_the_eyepiece(known)
    return _before(known, night)


def _after(known: Known, night: Night) -> Thread:
    if known.sitting.begun_utc is not None:
        return Thread(words="Pack up and close the evening", when="", leads_to="/eyepiece?pack=1")
    words = f"{day_words(night.date)} is over: plan another"
    return Thread(words=words, when="", leads_to="/plan")


def _before(known: Known, night: Night) -> Thread:
    """Return the next step before looking begins: the bench, the cooling tube, the plan."""
    sunset = night.sunset_utc
    if known.now_utc < night.start_utc - timedelta(hours=12):
        return Thread(words=f"Plan {day_words(night.date)}", when="", leads_to="/plan")
    step = next((one for one in known.steps if one.state in WAITING and not one.waits_for), None)
    dark = night.dark[0].start_utc if night.dark else sunset
    if step is not None and (dark is None or known.now_utc < dark + LATE):
        return Thread(
            words=DOING[step.name],
            when=_daylight(known.now_utc, sunset),
            leads_to="/setup",
            step=step.name,
        )
    ready = ready_utc(known.readings)
    if ready is not None and ready > known.now_utc:
        when = clock_time(ready, known.zone)
        return Thread(words="Tube ready", when=when, leads_to="/setup", step="cool")
    ahead = _ahead(known.make_plan(), known.sitting, known.now_utc)
    if not ahead:
        return Thread(words="Choose what to look at tonight", when="", leads_to="/plan")
    return _toward(ahead[0], known)


def _daylight(now_utc: datetime, sunset_utc: datetime | None) -> str:
    if sunset_utc is None or now_utc >= sunset_utc:
        return ""
    minutes = int((sunset_utc - now_utc) / timedelta(minutes=1))
    if minutes >= 120:
        return f"{minutes // 60} h of daylight left"
    return f"{minutes} min of daylight left"


def ready_utc(readings: Sequence[SetupReading]) -> datetime | None:
    """Return when the optics are as cool as the air, as recorded; None where nobody did.

    Source: rules.md#cooling.
    """
    cool = standing_readings(readings).get("cool")
    if cool is None:
        return None
    minutes, out = cool.figures.get("cool_minutes"), cool.inputs.get("out_at_utc")
    if minutes is None or not isinstance(out, str):
        return None
    return datetime.fromisoformat(out) + timedelta(minutes=minutes)


def _at_the_eyepiece(known: Known) -> Thread:
    due = next((one for one in known.events if one.is_due), None)
    if due is not None:
        return _toward_event(due, "", is_due=True)
    plan = known.make_plan()
    ahead = _ahead(plan, known.sitting, known.now_utc)
    if ahead:
        return _toward(ahead[0], known)
    event = next((one for one in known.events if one.at_utc > known.now_utc), None)
    if known.sitting.spot is not None and event is not None:
        return _toward_event(event, clock_time(event.at_utc, known.zone))
    if plan is not None and plan.blocks:
        return Thread(words="The plan is done: pack up, or look on", when="",
                      leads_to="/eyepiece?pack=1")  # fmt: skip
    return Thread(words="Choose the next target", when="", leads_to="/eyepiece")


def _toward_event(event: Event, when: str, *, is_due: bool = False) -> Thread:
    words = fitted(f"{event.words[:1].upper()}{event.words[1:]}")
    return Thread(words=words, when=when, leads_to="/eyepiece", is_due=is_due)


def _toward(block: Block, known: Known) -> Thread:
    when = clock_time(block.starts_utc, known.zone) if block.starts_utc > known.now_utc else "now"
    doing = "Find " if block.kind == "target" else ""
    return Thread(words=fitted(f"{doing}{block.label}"), when=when, leads_to="/eyepiece")


def _ahead(plan: Plan | None, sitting: Sitting, now_utc: datetime) -> list[Block]:
    """Return the blocks that are not done yet and not over, soonest first; none without a plan."""
    here = None if sitting.spot is None else sitting.spot.target_key
    return [
        one
        for one in ([] if plan is None else plan.blocks)
        if one.ends_utc > now_utc
        and one.target_key not in sitting.done
        and (one.target_key is None or one.target_key != here)
        and not (one.kind == "break" and one.starts_utc <= now_utc)
    ]


def next_block(plan: Plan | None, sitting: Sitting, now_utc: datetime) -> Block | None:
    """Return the next target of a plan that is neither done nor over; None for none.

    Source: rules.md#thread.
    """
    ahead = _ahead(plan, sitting, now_utc)
    return next((one for one in ahead if one.kind == "target"), None)


def fitted(words: str) -> str:
    """Return words that fit the thread, the end left off where they do not.

    Source: rules.md#thread.
    """
    return words if len(words) <= MOST_CHARS else f"{words[: MOST_CHARS - 1].rstrip()}…"
