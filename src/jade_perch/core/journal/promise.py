"""What was promised of a target when it was noted, so that notes can correct the promise."""

from datetime import datetime

import numpy as np

from jade_perch.core.evening.prospect import Case
from jade_perch.core.optics.rungs import glasses_of
from jade_perch.core.optics.viewer import field_factor
from jade_perch.core.sky.nightsky import STEP_S
from jade_perch.core.sky.seen import MISSING, see
from jade_perch.core.sky.sources import sources_of


def promised_margin(case: Case, target_key: str, rung_label: str, at_utc: datetime) -> float | None:
    """Return log10 of a target's light over a perfect eye's threshold, as it stood when noted.

    Through the rung named in the note, with the night's sky and air.  None where that cannot be
    said: no such rung, a moment at which nothing of it is known, a body or what lies on it.

    Source: rules.md#seen; rules.md#learned-eye.
    """
    row = case.catalogue.row_of(target_key)
    rung = next((one for one in case.rungs if one.label == rung_label), None)
    if row is None or rung is None or case.catalogue.bodies[row] is not None:
        return None
    looks = case.sky.looks(row)
    seconds = case.sky.unix_s[case.sky.step[looks]]
    if not seconds.size:
        return None
    nearest = int(np.abs(seconds - at_utc.timestamp()).argmin())
    if abs(seconds[nearest] - at_utc.timestamp()) > STEP_S:
        return None
    at = slice(looks.start + nearest, looks.start + nearest + 1)
    haze = case.viewer.field_factor / field_factor(case.viewer.observer)
    sources = sources_of(case.catalogue, np.array([row]))
    sky, dimmed = case.sky.sky_cd_m2[at], case.sky.dimmed_mag[at]
    margin = float(see(sources, glasses_of([rung]), sky, dimmed, haze).best[0])
    return margin if margin > MISSING else None
