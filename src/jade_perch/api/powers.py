"""Station powers: the ladder and the sums behind its figures."""

import sqlite3
from typing import Annotated

from fastapi import APIRouter, Query

from jade_perch.api.dependencies import Db
from jade_perch.core.evening.context import EveningChoice
from jade_perch.core.fields import Range
from jade_perch.core.kit import Telescope
from jade_perch.core.optics.ladder import Ladder, build_ladder
from jade_perch.core.optics.limits import eye_pupil
from jade_perch.core.optics.sums import DriftField, Figure, Sum, measured_field, rung_sum
from jade_perch.store.evening import chosen_observer, get_choice
from jade_perch.store.items import get_item, list_items
from jade_perch.store.kit import AMPLIFIERS, EYEPIECES, TELESCOPES

router = APIRouter(prefix="/powers", tags=["powers"])


@router.get("/ladders")
def get_ladders(db: Db, telescope_id: Annotated[list[int], Query()] = []) -> list[Ladder]:  # noqa: B006
    """Return the ladders of the named telescopes, or of all, for tonight's eye and air."""
    choice = get_choice(db)
    telescopes = [get_item(db, TELESCOPES, one) for one in telescope_id]
    return ladders_of(db, telescopes or list_items(db, TELESCOPES), choice)


def ladders_of(
    db: sqlite3.Connection, telescopes: list[Telescope], choice: EveningChoice
) -> list[Ladder]:
    """Return the ladders of telescopes with the whole case, amplifiers as chosen."""
    eyepieces = list_items(db, EYEPIECES)
    amplifiers = list_items(db, AMPLIFIERS)
    pupil = eye_pupil(chosen_observer(db, choice))
    return [
        build_ladder(
            telescope,
            eyepieces,
            amplifiers if choice.uses_amplifiers(telescope) else [],
            pupil,
            choice.steadiness,
        )
        for telescope in telescopes
    ]


@router.get("/sums/{figure}")
def get_sum(
    figure: Figure, telescope_id: int, eyepiece_id: int, db: Db, amplifier_id: int | None = None
) -> Sum:
    """Return the sum behind one figure of one combination."""
    amplifier = None if amplifier_id is None else get_item(db, AMPLIFIERS, amplifier_id)
    return rung_sum(
        figure,
        get_item(db, TELESCOPES, telescope_id),
        get_item(db, EYEPIECES, eyepiece_id),
        amplifier,
        eye_pupil(chosen_observer(db, get_choice(db))),
    )


Elapsed = Annotated[float, Range(1, 86400, "s", "Time one star from edge to edge.")]
Declination = Annotated[float, Range(-89, 89, "°", "Type the star's declination.")]


@router.get("/drift")
def get_drift_field(elapsed_s: Elapsed, declination_deg: Declination = 0.0) -> DriftField:
    """Return the true field that goes with a timed drift."""
    return measured_field(elapsed_s, declination_deg)
