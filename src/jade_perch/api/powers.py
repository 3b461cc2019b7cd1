"""Station powers: ladders, sums, audits, the case for tonight."""

import sqlite3
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Response

from jade_perch.api.dependencies import Db, TheClock
from jade_perch.core.evening.case import CaseAdvice, best_case
from jade_perch.core.evening.context import EveningChoice
from jade_perch.core.evening.view import Disc, Mode, TargetName, make_disc, target_names
from jade_perch.core.fields import Range
from jade_perch.core.kit import Telescope
from jade_perch.core.optics.audit import (
    Audit,
    audit_amplifier,
    audit_eyepiece_power,
    audit_largest_power,
)
from jade_perch.core.optics.combinations import find_way
from jade_perch.core.optics.ladder import Ladder, Ways, build_ladder
from jade_perch.core.optics.rung_sums import DriftField, Figure, measured_field, rung_sum
from jade_perch.core.optics.rungs import make_rungs
from jade_perch.core.optics.viewer import Viewer, make_viewer
from jade_perch.core.sums import Sum
from jade_perch.exchange.ladder_csv import write_ladders
from jade_perch.store.evening import chosen_observer, chosen_site, get_choice
from jade_perch.store.items import find_item, get_item, list_items
from jade_perch.store.kit import AMPLIFIERS, DIAGONALS, EYEPIECES, TELESCOPES

router = APIRouter(prefix="/powers", tags=["powers"])

Elapsed = Annotated[float, Range(1, 86400, "s", "Time one star from edge to edge.")]
Declination = Annotated[float, Range(-90, 90, "°", "Type the star's declination.")]
Ids = Annotated[list[int] | None, Query()]
PrintedPower = Annotated[float, Range(1, 5000, "×", "Type the number the label prints.")]
PrintedFactor = Annotated[float, Range(1.1, 10, "×", "Type the number before the ×.")]
FocalLength = Annotated[float, Range(1.5, 100, "mm", "Type the millimetres on the eyepiece.")]
Factor = Annotated[float, Range(1, 10, "×", "Type the Barlow's number, 1 without.")]
CaseSize = Annotated[int, Range(1, 8, "eyepieces", "Choose how many you will carry.")]


def asked_ways(ahead: bool = False, masked: bool = False, stacked: bool = False) -> Ways:
    """Return the ways named in the query."""
    return Ways(ahead=ahead, masked=masked, stacked=stacked)


AskedWays = Annotated[Ways, Depends(asked_ways)]


@router.get("/ladders")
def get_ladders(
    db: Db,
    ways: AskedWays,
    telescope_id: Ids = None,
    declination_deg: Declination = 0.0,
) -> list[Ladder]:
    """Return the ladders of the named telescopes, or of all, for tonight's eye and air."""
    return _named_ladders(db, telescope_id, ways, declination_deg)


@router.get("/ladders.csv", response_class=Response)
def get_ladders_csv(
    db: Db,
    ways: AskedWays,
    telescope_id: Ids = None,
    declination_deg: Declination = 0.0,
) -> Response:
    """Return the same as a table."""
    text = write_ladders(_named_ladders(db, telescope_id, ways, declination_deg))
    headers = {"Content-Disposition": 'attachment; filename="jade-perch-powers.csv"'}
    return Response(text, headers=headers, media_type="text/csv; charset=utf-8")


def _named_ladders(
    db: sqlite3.Connection, telescope_ids: list[int] | None, ways: Ways, declination_deg: float
) -> list[Ladder]:
    telescopes = [get_item(db, TELESCOPES, one) for one in telescope_ids or []]
    choice = get_choice(db)
    return ladders_of(db, telescopes or list_items(db, TELESCOPES), choice, ways, declination_deg)


def ladders_of(
    db: sqlite3.Connection,
    telescopes: list[Telescope],
    choice: EveningChoice,
    ways: Ways | None = None,
    declination_deg: float = 0.0,
) -> list[Ladder]:
    """Return the ladders of telescopes with the whole case, amplifiers as chosen."""
    eyepieces, amplifiers = list_items(db, EYEPIECES), list_items(db, AMPLIFIERS)
    viewer = viewer_of(db, choice, declination_deg)
    return [
        build_ladder(
            telescope,
            eyepieces,
            amplifiers if choice.uses_amplifiers(telescope) else [],
            viewer,
            find_item(db, DIAGONALS, telescope.diagonal_id),
            ways,
        )
        for telescope in telescopes
    ]


def viewer_of(
    db: sqlite3.Connection, choice: EveningChoice, declination_deg: float = 0.0
) -> Viewer:
    """Return who looks tonight, through what air and sky."""
    site, observer = chosen_site(db, choice), chosen_observer(db, choice)
    return make_viewer(observer, site, choice.steadiness, declination_deg)


@router.get("/sums/{figure}")
def get_sum(
    figure: Figure, telescope_id: int, rung: str, db: Db, declination_deg: Declination = 0.0
) -> Sum:
    """Return the sum behind one figure of one rung."""
    telescope = get_item(db, TELESCOPES, telescope_id)
    diagonal = find_item(db, DIAGONALS, telescope.diagonal_id)
    eyepieces, amplifiers = list_items(db, EYEPIECES), list_items(db, AMPLIFIERS)
    combination = find_way(telescope, eyepieces, amplifiers, diagonal, rung)
    viewer = viewer_of(db, get_choice(db), declination_deg)
    return rung_sum(figure, combination, diagonal, viewer)


@router.get("/drift")
def get_drift_field(elapsed_s: Elapsed, declination_deg: Declination = 0.0) -> DriftField:
    """Return the true field that goes with a timed drift."""
    return measured_field(elapsed_s, declination_deg)


@router.get("/case")
def get_case(
    db: Db, telescope_id: int, most_eyepieces: CaseSize = 3, picked_id: Ids = None
) -> CaseAdvice | None:
    """Return the best few eyepieces for tonight, and the score of a hand-picked set."""
    telescope = get_item(db, TELESCOPES, telescope_id)
    (ladder,) = ladders_of(db, [telescope], get_choice(db))
    return best_case(ladder, most_eyepieces, picked_id or [])


@router.get("/audit/eyepiece")
def get_eyepiece_audit(
    db: Db,
    telescope_id: int,
    focal_length_mm: FocalLength,
    printed: PrintedPower,
    factor: Factor = 1.0,
) -> Audit:
    """Return whether a power printed for an eyepiece is true in this telescope."""
    telescope = get_item(db, TELESCOPES, telescope_id)
    return audit_eyepiece_power(telescope, focal_length_mm, printed, factor)


@router.get("/audit/largest")
def get_largest_audit(db: Db, telescope_id: int, printed: PrintedPower) -> Audit:
    """Return whether a printed largest power can be used."""
    return audit_largest_power(get_item(db, TELESCOPES, telescope_id), printed)


@router.get("/audit/amplifier")
def get_amplifier_audit(db: Db, telescope_id: int, printed: PrintedFactor) -> Audit:
    """Return with how many owned eyepieces a Barlow of a printed factor stays useful."""
    telescope = get_item(db, TELESCOPES, telescope_id)
    return audit_amplifier(telescope, list_items(db, EYEPIECES), printed)


@router.get("/targets")
def get_targets() -> list[TargetName]:
    """Return everything the view disc can be centred on."""
    return target_names()


@router.get("/disc")
def get_disc(
    db: Db, clock: TheClock, telescope_id: int, rung: str, target: str, mode: Mode = "eyepiece"
) -> Disc:
    """Return what stands in a rung's field around a target, as the eye sees it."""
    telescope = get_item(db, TELESCOPES, telescope_id)
    diagonal = find_item(db, DIAGONALS, telescope.diagonal_id)
    eyepieces, amplifiers = list_items(db, EYEPIECES), list_items(db, AMPLIFIERS)
    combination = find_way(telescope, eyepieces, amplifiers, diagonal, rung)
    choice = get_choice(db)
    (made,) = make_rungs([combination], {telescope.diagonal_id: diagonal}, viewer_of(db, choice))
    site = chosen_site(db, choice)
    return make_disc(telescope, diagonal, made, target, site, clock.now_utc(), mode)
