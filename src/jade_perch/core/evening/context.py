"""What is chosen once for an evening and read by every station."""

import datetime as dt
from typing import Annotated

from pydantic import AfterValidator

from jade_perch.core.fields import Frozen, Range
from jade_perch.core.optics.limits import School
from jade_perch.core.sky.ephemeris import covered_date

Steadiness = Annotated[int, Range(1, 5, "(1 boiling, 5 calm)", "Choose a step from 1 to 5.")]


class EveningChoice(Frozen):
    """The choices of the evening; no date means tonight, whatever the clock says."""

    site_id: int | None = None
    date: Annotated[dt.date, AfterValidator(covered_date)] | None = None
    telescope_id: int | None = None
    observer_id: int | None = None
    school: School = "comfort"
    steadiness: Steadiness = 3
    amplifiers_on: bool = True
