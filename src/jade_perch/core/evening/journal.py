"""Records of what was seen."""

from datetime import UTC, date, datetime, time, timedelta
from typing import Annotated, Literal
from zoneinfo import ZoneInfo

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.context import Steadiness, Transparency
from jade_perch.core.evening.sketch import Sketch
from jade_perch.core.fields import (
    FIRST_DAY,
    Frozen,
    Id,
    Item,
    Label,
    Loaded,
    Name,
    Range,
    UtcTime,
    Words,
    Zone,
)

Outcome = Literal["seen", "glimpsed", "not seen"]
HALF_DAY = timedelta(hours=12)
EARLIEST_UTC = datetime.combine(FIRST_DAY, time.min, UTC)  # older logs stay on paper
AHEAD = timedelta(days=1)  # a device's clock may be wrong by so much; our choice


class Picture(Frozen):
    """A picture as it is kept: named by its content, nothing in it but the picture itself."""

    name: Label
    media_type: Literal["image/jpeg", "image/png"]
    width: int
    height: int
    content: bytes


class Observation(Item):
    """What was seen; names are kept as written, so a record outlives the kit it was made with.

    ``target_key`` is the known target its name means, ``evening_id`` the evening it belongs to;
    both are found when it is stored.  ``picture_name`` names a stored picture.  ``sent_key`` is
    made by who sends it, so that what is sent twice is stored once.  ``predicted_margin`` is what
    was promised of it at the rung named when it was noted: log10 of its light over the eye's
    threshold, without what the observer's practice changes.
    """

    observed_at_utc: UtcTime
    object_name: Name
    target_key: Label | None = None
    telescope_name: Label = ""
    glass: Label = ""
    magnification: (
        Annotated[float, Range(0.5, 5000, "×", "Leave it empty when you do not know it.")] | None
    ) = None
    steadiness: Steadiness | None = None
    transparency: Transparency | None = None
    outcome: Outcome | None = None
    observer_name: Label = ""
    words: Words = ""
    sketch: Annotated[Sketch, Loaded] = ()
    picture_name: Label = ""
    sent_key: Label = ""
    site_name: Label = ""
    zone: Zone = "UTC"
    evening_id: Id | None = None
    predicted_margin: Annotated[float, Range(-100, 100, "", "Leave it out.")] | None = None

    def local_evening(self) -> date:
        """Return the date of its evening by the zone alone: before noon it is yesterday's.

        Source: definition; for a place that is known ``evening_date`` says it exactly.
        """
        return (self.observed_at_utc.astimezone(ZoneInfo(self.zone)) - HALF_DAY).date()


def require_noted(observation: Observation, now_utc: datetime) -> None:
    """Raise ``OutOfRange`` for a note of a time when nobody can have looked: before 1900, or ahead.

    Source: rules.md#journal-bars.
    """
    latest = now_utc + AHEAD
    if not EARLIEST_UTC <= observation.observed_at_utc <= latest:
        raise OutOfRange(
            "observed_at_utc",
            f"{observation.observed_at_utc:%Y-%m-%d %H:%M} UTC",
            f"{EARLIEST_UTC:%Y-%m-%d} to {latest:%Y-%m-%d %H:%M} UTC",
            "Correct the date and time it was seen.",
        )
