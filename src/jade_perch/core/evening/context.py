"""What is chosen once for an evening and read by every station."""

import datetime as dt
from typing import Annotated

from pydantic import AfterValidator

from jade_perch.core.fields import Frozen, Range
from jade_perch.core.kit import Telescope
from jade_perch.core.optics.limits import School
from jade_perch.core.sky.ephemeris import covered_date

Steadiness = Annotated[int, Range(1, 5, "(1 boiling, 5 calm)", "Choose a step from 1 to 5.")]


class EveningChoice(Frozen):
    """The choices of the evening; no date means tonight, whatever the clock says.

    ``amplifiers_on`` None lets the kit decide: off while the telescope is marked as new.
    """

    site_id: int | None = None
    date: Annotated[dt.date, AfterValidator(covered_date)] | None = None
    telescope_id: int | None = None
    observer_id: int | None = None
    school: School = "comfort"
    steadiness: Steadiness = 3
    amplifiers_on: bool | None = None

    def uses_amplifiers(self, telescope: Telescope) -> bool:
        """Return whether amplifiers stand on this telescope's ladder tonight."""
        return not telescope.is_new if self.amplifiers_on is None else self.amplifiers_on
