"""Records of what was seen."""

from datetime import date, timedelta
from typing import Annotated, Literal
from zoneinfo import ZoneInfo

from jade_perch.core.evening.context import Steadiness, Transparency
from jade_perch.core.evening.sketch import Sketch
from jade_perch.core.fields import Frozen, Item, Label, Loaded, Name, Range, UtcTime, Words, Zone

Outcome = Literal["seen", "glimpsed", "not seen"]
HALF_DAY = timedelta(hours=12)


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
    made by who sends it, so that what is sent twice is stored once.
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
    evening_id: int | None = None

    def local_evening(self) -> date:
        """Return the date of its evening by the zone alone: before noon it is yesterday's.

        Source: definition; for a place that is known ``evening_date`` says it exactly.
        """
        return (self.observed_at_utc.astimezone(ZoneInfo(self.zone)) - HALF_DAY).date()
