"""Records of what was seen."""

from typing import Annotated

from jade_perch.core.evening.context import Steadiness
from jade_perch.core.fields import Item, Label, Name, Range, UtcTime, Words, Zone


class Observation(Item):
    """What was seen; names are kept as written, so a record outlives the kit it was made with."""

    observed_at_utc: UtcTime
    object_name: Name
    telescope_name: Label = ""
    glass: Label = ""
    magnification: (
        Annotated[float, Range(0.5, 5000, "×", "Leave it empty when you do not know it.")] | None
    ) = None
    steadiness: Steadiness | None = None
    words: Words = ""
    site_name: Label = ""
    zone: Zone = "UTC"
