"""A solar session: opened only through the filter's checklist, aimed by the tube's shadow."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Annotated, Literal, Self

import numpy as np
from pydantic import model_validator

from jade_perch.core.bench.advice import Advice
from jade_perch.core.bench.landmark import Aim
from jade_perch.core.bench.seat import tube_of
from jade_perch.core.bench.sunguard import LandmarkCheck
from jade_perch.core.errors import JobError, OutOfRange
from jade_perch.core.fields import FEW_TICKS, Frozen, Id, Item, Name, Range, UtcTime, refused
from jade_perch.core.kit import LightFilter, Telescope, Upkeep
from jade_perch.core.moments import Now
from jade_perch.core.sums import Sum
from jade_perch.core.upkeep import NEVER_USED, Uses, is_due, upkeep_state

CheckName = Literal["maker", "pinholes", "finders", "fitted", "tugged", "sky_test", "company"]
CHECKS: dict[CheckName, str] = {
    "maker": "I have read what the filter's maker says, and it is made for this aperture.",
    "pinholes": "I held it against a bright lamp: no pinhole, scratch, wrinkle or loose tape.",
    "finders": "Finders and sights are off the tube, or capped so that they cannot come open.",
    "fitted": "It sits in front of the whole aperture; nothing is filtered at the eyepiece.",
    "tugged": "I tugged at it and wind cannot lift it.",
    "sky_test": "I looked through it at sky away from the Sun: it is black.",
    "company": "Nobody leaves it alone; children stay at arm's length from me.",
}
SOLAR_CAUTION = (
    "Looking at the Sun through a telescope without such a filter blinds at once. In doubt, "
    "do not look: replace the filter. Its maker's instructions go before ours."
)
DRILL_FIRST = "The Sun drill comes first: pass it, all right, before a session is opened."
SHADOW_MINUTES = 10.0  # aiming takes no longer; our estimate
SESSION_LASTS = timedelta(hours=6)  # as long as one may work by day; our choice
TUBE_OVER_APERTURE = 1.15  # outer width of a tube over its aperture; our estimate
FOUND_DEG = 0.25  # the Sun's half width: nearer than this it stands in a long eyepiece's field


class SolarSession(Item):
    """One session, with what was checked before it; open until ``closed_at_utc``.

    Telescope and filter are those of the versions that were checked; ``real_opened_at_utc`` is
    by the stopwatch, whatever clock the evening goes by.
    """

    telescope_name: Name
    filter_name: Name
    opened_at_utc: UtcTime
    closed_at_utc: UtcTime | None = None
    telescope_id: int | None = None
    telescope_version: int | None = None
    filter_id: int | None = None
    filter_version: int | None = None
    real_opened_at_utc: UtcTime | None = None


class SolarBoard(Frozen):
    """What stands between now and a solar session: the checklist, and what forbids it.

    ``usual_width_mm`` is about how wide the tube's shadow falls; ``clock_words`` say that a clock
    that is not the real one cannot guard, and are empty for the real one.  ``wants_drill`` is that
    the observer has to pass the Sun drill first.
    """

    checks: dict[CheckName, str]
    caution: str
    filters: list[LightFilter]
    forbids: list[str]
    session: SolarSession | None
    usual_width_mm: float
    clock_words: str
    wants_drill: bool


class SolarOpening(Frozen):
    """The wish to open a session: which filter, and each check done by hand, one by one."""

    filter_id: Id
    done: Annotated[list[CheckName], FEW_TICKS]

    @model_validator(mode="after")
    def _every_check(self) -> Self:
        missing = [name for name in CHECKS if name not in self.done]
        if missing:
            raise refused(
                "done",
                ", ".join(self.done) or "(nothing)",
                "every check of the list",
                f"Still to do: {CHECKS[missing[0]]}",
            )
        return self


class ShadowInput(Frozen):
    """The tube's shadow on the ground or a sheet held square to it: its length and width."""

    shadow_length_mm: Annotated[float, Range(10, 5000, "mm", "Measure the longer way.")]
    shadow_width_mm: Annotated[float, Range(10, 2000, "mm", "Measure across the tube.")]

    def aim(self) -> Aim:
        """Return that it is the Sun itself that is aimed at.  Source: rules.md#solar."""
        return Aim(at="sun", job_minutes=SHADOW_MINUTES)


class ShadowAdvice(Advice):
    """What to do while aiming by shadow, and what the Sun guard said to it."""

    sun: LandmarkCheck


class SolarForbidden(JobError):
    """A solar session cannot be opened now."""

    def __init__(self, reasons: Sequence[str]) -> None:
        super().__init__(" ".join(reasons))


def solar_filters(filters: Sequence[LightFilter]) -> list[LightFilter]:
    """Return the full-aperture front filters, the only ones that may stand before the Sun.

    Source: rules.md#solar.
    """
    return [one for one in filters if one.kind == "solar_front"]


def barred_filters(
    filters: Sequence[LightFilter],
    upkeeps: Sequence[Upkeep],
    today: date,
    uses: Uses = NEVER_USED,
) -> dict[int, str]:
    """Return why filters may not be used, by their id: inspection overdue, or none noted at all.

    Source: rules.md#solar; a doubtful filter is not looked through.
    """
    barred = {}
    for one in filters:
        states = [
            upkeep_state(task, one.name, today, uses.get(("light_filter", one.id or 0), ()))
            for task in upkeeps
            if (task.item_kind, task.item_id, task.task) == ("light_filter", one.id, "inspection")
        ]
        late = [state.words for state in states if is_due(state)]
        if one.id is not None and (late or not states):
            barred[one.id] = late[0] if late else f"{one.name}: no inspection is noted."
    return barred


@dataclass(frozen=True, slots=True)
class SolarNow:
    """What a session is measured by: tonight's telescope, the filters that may be used, the time.

    ``real_utc`` is the stopwatch's time; ``drill_is_passed`` that tonight's observer passed the Sun
    drill within a year.
    """

    telescope: Telescope
    good_filters: tuple[LightFilter, ...]
    now: Now
    real_utc: datetime
    sun_is_up: bool
    drill_is_passed: bool


def still_open(session: SolarSession | None, at: SolarNow) -> bool:
    """Return whether a session counts: kit as checked, the Sun up, not hours old, the drill passed.

    What was checked this morning, or on another tube, or before a change, is checked again.

    Source: rules.md#solar.
    """
    if session is None or session.closed_at_utc is not None or not at.sun_is_up:
        return False
    if not at.drill_is_passed:  # somebody else is the observer now
        return False
    if session.real_opened_at_utc is None:
        return False
    nothing = timedelta(0)
    is_fresh = nothing <= at.now.moment_utc - session.opened_at_utc <= SESSION_LASTS
    is_fresh &= nothing <= at.real_utc - session.real_opened_at_utc <= SESSION_LASTS
    filters = [(one.id, one.version) for one in at.good_filters]
    tube = (at.telescope.id, at.telescope.version)
    is_same = tube == (session.telescope_id, session.telescope_version)
    return is_fresh and is_same and (session.filter_id, session.filter_version) in filters


def solar_forbids(
    filters: Sequence[LightFilter],
    barred: Mapping[int, str],
    sun_is_up: bool,
    session_is_open: bool,
    *,
    drill_is_passed: bool,
) -> list[str]:
    """Return what forbids opening a session; ``barred`` says by id which filters may not be used.

    ``drill_is_passed`` is that the observer passed the Sun drill within a year.

    Source: rules.md#solar.
    """
    reasons = []
    if not drill_is_passed:
        reasons.append(DRILL_FIRST)
    if not sun_is_up:
        reasons.append("The Sun is down.")
    if session_is_open:
        reasons.append("A session is open already; close it first.")
    if not filters:
        reasons.append("No full-aperture solar front filter is in the kit.")
    elif all(one.id in barred for one in filters):
        words = " ".join(barred[one.id] for one in filters if one.id is not None)
        reasons.append(f"{words} Inspect it and note it in the kit first.")
    return reasons


def solar_board(
    session: SolarSession | None,
    filters: Sequence[LightFilter],
    barred: Mapping[int, str],
    at: SolarNow,
) -> SolarBoard:
    """Return what stands between now and a session; ``barred`` by filter id.

    Source: rules.md#solar.
    """
    is_open = still_open(session, at)
    return SolarBoard(
        checks=CHECKS,
        caution=SOLAR_CAUTION,
        filters=list(filters),
        forbids=solar_forbids(
            filters, barred, at.sun_is_up, is_open, drill_is_passed=at.drill_is_passed
        ),
        session=session if is_open else None,
        usual_width_mm=round(at.telescope.aperture_mm * TUBE_OVER_APERTURE),
        clock_words=_clock_words(at.now),
        wants_drill=not at.drill_is_passed,
    )


def _clock_words(now: Now) -> str:
    if now.clock == "real":
        return ""
    name = "held" if now.clock == "held" else "rehearsal"
    return f"This is a {name} clock: it cannot end a session in time. Rehearse only, do not look."


def require_filter(
    filters: Sequence[LightFilter], barred: Mapping[int, str], filter_id: int
) -> LightFilter:
    """Return the named filter; raises ``OutOfRange`` unless it is a front one inspected in time.

    Source: rules.md#solar.
    """
    good = {one.id: one for one in filters if one.id not in barred}
    if filter_id not in good:
        names = ", ".join(one.name for one in good.values())
        cure = "Choose one that was inspected in time."
        raise OutOfRange("filter_id", filter_id, f"an inspected front filter: {names}", cure)
    return good[filter_id]


def closed(session: SolarSession, at_utc: datetime) -> SolarSession:
    """Return the session as ended: the tube turned away from the Sun before the filter came off.

    Source: rules.md#solar.
    """
    return session.model_copy(update={"closed_at_utc": at_utc})


def shadow_off_deg(shadow_length_mm: float, tube_length_mm: float, tube_width_mm: float) -> float:
    """Return by how many degrees a tube points past the Sun, from its shadow square to the light.

    A tube L long and D wide throws a shadow of L·sin x + D·cos x; the least, D, is aimed.
    Shadows shorter than D count as aimed, longer than the tube allows as 90°.

    Source: geometry; rules.md#solar: smallest when aimed.
    """
    reach = float(np.hypot(tube_length_mm, tube_width_mm))
    if shadow_length_mm <= tube_width_mm:
        return 0.0
    ratio = min(1.0, shadow_length_mm / reach)
    return float(np.degrees(np.arcsin(ratio) - np.arctan2(tube_width_mm, tube_length_mm)))


def advise_shadow(
    given: ShadowInput, telescope: Telescope, now: Now, sun: LandmarkCheck
) -> ShadowAdvice:
    """Return what to do next while aiming by shadow; the eye stays off the tube.

    By a clock that is not the real one nobody is sent to the eyepiece.

    Source: rules.md#solar.
    """
    tube = tube_of(telescope)
    length_mm = tube.length_mm
    off_deg = shadow_off_deg(given.shadow_length_mm, length_mm, given.shadow_width_mm)
    is_done = off_deg <= FOUND_DEG
    instruction = "Move the tube so that its shadow shrinks, looking only at the shadow."
    if is_done:
        instruction = "The shadow is smallest: now look through the eyepiece, filter in front."
        if now.clock != "real":
            instruction = "The shadow is smallest: this is a rehearsal, do not look."
    return ShadowAdvice(
        instruction=instruction,
        detail=f"The shadow says the tube points {off_deg:.1f}° past the Sun.",
        is_done=is_done,
        sums=[
            Sum(
                title="Aim by shadow",
                formula="asin(shadow ÷ √(L² + D²)) − atan(D ÷ L)",
                worked=f"asin({given.shadow_length_mm:g} ÷ √({length_mm:g}² + "
                f"{given.shadow_width_mm:g}²)) − atan({given.shadow_width_mm:g} ÷ {length_mm:g})",
                result=f"{off_deg:.1f}°",
                source="Geometry",
                rule="solar",
                sureness="about",
                note="Finder, dew cap and focuser throw shadows too: look for the smallest.",
            )
        ],
        sun=sun,
    )
