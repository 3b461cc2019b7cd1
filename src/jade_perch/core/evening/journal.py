"""Records of what was seen."""

from datetime import date, timedelta
from typing import Annotated
from zoneinfo import ZoneInfo

from jade_perch.core.evening.context import Steadiness
from jade_perch.core.fields import Item, Label, Name, Range, UtcTime, Words, Zone

HALF_DAY = timedelta(hours=12)


class Observation(Item):
    """What was seen; names are kept as written, so a record outlives the kit it was made with.

    ``target_key`` is the known target its name means, ``evening_id`` the evening it belongs to;
    both are found when it is stored.
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
    words: Words = ""
    site_name: Label = ""
    zone: Zone = "UTC"
    evening_id: int | None = None

    def local_evening(self) -> date:
        """Return the date of its evening by the zone alone: before noon it is yesterday's.

        Source: definition; for a place that is known ``evening_date`` says it exactly.
        """
        return (self.observed_at_utc.astimezone(ZoneInfo(self.zone)) - HALF_DAY).date()
