"""What is chosen once and read by every station: what stays as it is, and what is one evening's."""

import datetime as dt
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from jade_perch.core.bench.landmark import BearingBy, FarWord, HeightWord
from jade_perch.core.bench.seat import People
from jade_perch.core.fields import Frozen, Id, Item, Label, Loaded, Range, UpTo, UtcTime
from jade_perch.core.kit import Telescope
from jade_perch.core.optics.limits import School
from jade_perch.core.sky.cover import covered_date
from jade_perch.core.units import LengthUnit, TemperatureUnit

ListName = Literal["usual", "first", "city"]
Steadiness = Annotated[int, Range(1, 5, "(1 boiling, 5 calm)", "Choose a step from 1 to 5.")]


Transparency = Annotated[
    int, Range(1, 5, "(1 thick haze, 5 crystal)", "Choose a step from 1 to 5.")
]
FaintestSeen = Annotated[
    float, Range(2, 8, "mag", "The faintest star you hold overhead with the eye alone.")
]


MOST_RUNGS = 1000  # one a telescope; our choice
Rungs = Annotated[dict[Label, Label], UpTo(MOST_RUNGS, "telescopes")]


class TypedLandmark(Frozen):
    """A landmark as it was typed, not judged yet; empty until somebody typed."""

    bearing_deg: Label = ""
    bearing_by: BearingBy = "sun"
    height: HeightWord | None = None
    altitude_deg: Label = ""
    far: FarWord | None = None
    distance_m: Label = ""
    job_minutes: Label = ""


class UsualChoice(Frozen):
    """What stays chosen from evening to evening; no date means tonight, whatever the clock says.

    ``amplifiers_on`` None lets the kit decide: off while the telescope is marked as new.
    ``rungs`` is the key of the rung one stands on, by telescope id.  ``listed`` is the list of
    targets, None lets kit and sky choose.
    """

    site_id: Id | None = None
    date: Annotated[dt.date, AfterValidator(covered_date)] | None = None
    telescope_id: Id | None = None
    observer_id: Id | None = None
    school: School = "comfort"
    amplifiers_on: bool | None = None
    rungs: Annotated[Rungs, Loaded] = Field(default_factory=dict)
    target_key: Label = "moon"
    listed: ListName | None = None
    length_unit: LengthUnit = "metric"
    temperature_unit: TemperatureUnit = "celsius"

    def uses_amplifiers(self, telescope: Telescope) -> bool:
        """Return whether amplifiers stand on this telescope's ladder tonight.

        Source: rules.md#desk.
        """
        return not telescope.is_new if self.amplifiers_on is None else self.amplifiers_on


class EveningOnly(Frozen):
    """What holds for one evening at one place and for no other; None is not said yet.

    ``people_ids`` None is everybody known; ``faintest_seen_mag`` is tonight's faintest star
    overhead and wins over what is known of the place.
    """

    steadiness: Steadiness | None = None
    transparency: Transparency | None = None
    faintest_seen_mag: FaintestSeen | None = None
    people_ids: Annotated[People | None, Loaded] = None
    landmark: Annotated[TypedLandmark | None, Loaded] = None


class EveningChoice(UsualChoice, EveningOnly):
    """Everything chosen, as a page sees it; a change names only the fields it changes."""


class EveningRow(EveningOnly, Item):
    """One evening at one place; both are None for what was chosen before there was a place.

    ``planned_from_utc`` is from when on its plan runs; None is not planned yet.
    """

    date: dt.date | None
    site_id: Id | None
    planned_from_utc: UtcTime | None = None
