"""Station powers: ladders, sums, audits, the case for tonight."""

import sqlite3
from dataclasses import dataclass
from typing import Annotated, Any

from fastapi import Depends, Query, Response

from jade_perch.api.dependencies import Db, TheCatalogue, TheClock, TheDesk
from jade_perch.api.downloads import download
from jade_perch.api.stations import station
from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.case import CaseAdvice, best_case
from jade_perch.core.evening.desk import Desk
from jade_perch.core.evening.view import (
    Disc,
    Mode,
    Through,
    course_of,
    disc_moment,
    make_disc,
)
from jade_perch.core.fields import Frozen, Id, Label, Range, UpTo, UtcTime
from jade_perch.core.kit import Diagonal, Telescope
from jade_perch.core.optics.audit import (
    Audit,
    audit_amplifier,
    audit_eyepiece_power,
    audit_largest_power,
)
from jade_perch.core.optics.combinations import Combination, find_way
from jade_perch.core.optics.drift import DriftField, kept_drift, measured_field, with_stop
from jade_perch.core.optics.ladder import Ladder, Ways
from jade_perch.core.optics.rung_sums import Figure, rung_sum
from jade_perch.core.optics.rungs import make_rungs
from jade_perch.core.optics.table import amplification_of
from jade_perch.core.optics.viewer import Course
from jade_perch.core.sums import Sum
from jade_perch.exchange.ladder_csv import write_ladders
from jade_perch.store.evening import LONGEST_DRIFT, drift_started, keep_view, start_drift
from jade_perch.store.items import add_item, find_item, get_item, list_items
from jade_perch.store.kit import DIAGONALS, MOUNTS, TELESCOPES, TIMED_DRIFTS

router = station("/powers", "powers")

SHORTEST_DRIFT_S, LONGEST_DRIFT_S = 1.0, LONGEST_DRIFT.total_seconds()
DRIFT_CURE = "Time one star from edge to edge."
Elapsed = Annotated[float, Range(SHORTEST_DRIFT_S, LONGEST_DRIFT_S, "s", DRIFT_CURE)]
Declination = Annotated[float, Range(-90, 90, "°", "Type the star's declination.")]
MOST_NAMED = 200  # things asked for at once
Ids = Annotated[Annotated[list[Id], UpTo(MOST_NAMED)] | None, Query()]
PrintedPower = Annotated[float, Range(1, 5000, "×", "Type the number the label prints.")]
PrintedFactor = Annotated[float, Range(1.1, 10, "×", "Type the number before the ×.")]
FocalLength = Annotated[float, Range(1.5, 100, "mm", "Type the millimetres on the eyepiece.")]
Factor = Annotated[float, Range(1, 10, "×", "Type the Barlow's number, 1 without.")]
CaseSize = Annotated[int, Range(1, 8, "eyepieces", "Choose how many you will carry.")]


async def asked_ways(ahead: bool = False, masked: bool = False, stacked: bool = False) -> Ways:
    """Return the ways named in the query."""
    return Ways(ahead=ahead, masked=masked, stacked=stacked)


AskedWays = Annotated[Ways, Depends(asked_ways)]


async def asked_course(declination_deg: Declination = 0.0, of_moon: bool = False) -> Course:
    """Return how what is looked at goes through the field, as named in the query."""
    return Course(declination_deg=declination_deg, of_moon=of_moon)


AskedCourse = Annotated[Course, Depends(asked_course)]


@dataclass(frozen=True)
class Look:
    """What a disc is asked for, as named in the query."""

    telescope_id: Id
    rung: Label
    target: Label
    mode: Mode = "eyepiece"
    at_utc: UtcTime | None = None


@router.get("/ladders")
def get_ladders(
    db: Db,
    desk: TheDesk,
    ways: AskedWays,
    course: AskedCourse,
    telescope_id: Ids = None,
) -> list[Ladder]:
    """Return the ladders of the named telescopes, or of all, for tonight's eye and air."""
    return _named_ladders(db, desk, telescope_id, ways, course)


@router.get("/ladders.csv", response_class=Response)
def get_ladders_csv(
    db: Db,
    desk: TheDesk,
    ways: AskedWays,
    course: AskedCourse,
    telescope_id: Ids = None,
) -> Response:
    """Return the same as a table."""
    text = write_ladders(_named_ladders(db, desk, telescope_id, ways, course))
    return download(text, "text/csv; charset=utf-8", "jade-perch-powers.csv")


def _named_ladders(
    db: sqlite3.Connection,
    desk: Desk,
    telescope_ids: list[int] | None,
    ways: Ways,
    course: Course,
) -> list[Ladder]:
    telescopes = [get_item(db, TELESCOPES, one) for one in telescope_ids or []]
    return [
        desk.ladder_of(one, find_item(db, DIAGONALS, one.diagonal_id), ways, course)
        for one in telescopes or list_items(db, TELESCOPES)
    ]


def _through(
    db: sqlite3.Connection, desk: Desk, telescope_id: int, rung: str
) -> tuple[Telescope, Diagonal | None, Combination]:
    """Return a telescope, the diagonal it wears, and the combination a rung's key names."""
    telescope = get_item(db, TELESCOPES, telescope_id)
    diagonal = find_item(db, DIAGONALS, telescope.diagonal_id)
    return telescope, diagonal, find_way(telescope, desk.eyepieces, desk.amplifiers, diagonal, rung)


@router.get("/sums/{figure}")
def get_sum(
    figure: Figure,
    telescope_id: Id,
    rung: Label,
    db: Db,
    desk: TheDesk,
    course: AskedCourse,
) -> Sum:
    """Return the sum behind one figure of one rung."""
    _, diagonal, combination = _through(db, desk, telescope_id, rung)
    return rung_sum(figure, combination, diagonal, desk.viewer(course))


@router.get("/drift")
def get_drift_field(elapsed_s: Elapsed, course: AskedCourse) -> DriftField:
    """Return the true field that goes with a timed drift."""
    return measured_field(elapsed_s, course)


@router.post("/drift/start", status_code=204)
def start_the_drift(db: Db, clock: TheClock) -> None:
    """Start timing a star, or start over; it runs on through closed lids and other pages."""
    start_drift(db, clock.real_utc())


@router.post("/drift/stop")
def stop_the_drift(
    db: Db,
    clock: TheClock,
    desk: TheDesk,
    catalogue: TheCatalogue,
    from_centre: bool = False,
) -> DriftField:
    """End the running drift; returns the field it gives on the chosen target, and the stop.

    It was timed from edge to edge, or from the middle to the edge, which is half of it.

    Less than a second is refused and changes nothing: the drift runs on.
    """
    now_utc = clock.real_utc()
    started = drift_started(db, now_utc)
    if started is None:
        raise OutOfRange("drift", "(not running)", "a running drift", "Start it at the edge.")
    elapsed_s = (now_utc - started).total_seconds()
    if elapsed_s < SHORTEST_DRIFT_S:
        allowed = f"{SHORTEST_DRIFT_S:g} to {LONGEST_DRIFT_S:g} s"
        raise OutOfRange("elapsed_s", f"{elapsed_s:.1f}", allowed, f"It runs on. {DRIFT_CURE}")
    start_drift(db, None)
    target = catalogue.get(desk.choice.target_key)
    course = course_of(target, desk.place, desk.moment_utc)
    across_s = round(elapsed_s, 1) * (2 if from_centre else 1)
    found = measured_field(across_s, course, target.label)
    way = _standing_on(desk)
    if way is None:
        return found
    factor, _ = amplification_of(way, desk.diagonal)
    told = with_stop(found, way, factor)
    kept = kept_drift(told, way.telescope, desk.moment_utc)
    if kept is not None:
        add_item(db, TIMED_DRIFTS, kept)
    return told


def _standing_on(desk: Desk) -> Combination | None:
    """Return the rung one stands on with tonight's telescope, or None without any."""
    tube = desk.telescope
    if tube is None:
        return None
    start = desk.ladder_of(tube, desk.diagonal).start
    for key in (desk.choice.rungs.get(str(tube.id)), None if start is None else start.key):
        try:
            if key is not None:
                return find_way(tube, desk.eyepieces, desk.amplifiers, desk.diagonal, key)
        except OutOfRange:
            continue  # the glass of that rung is gone
    return None


@router.get("/case")
def get_case(
    db: Db,
    desk: TheDesk,
    telescope_id: Id,
    most_eyepieces: CaseSize = 3,
    picked_id: Ids = None,
) -> CaseAdvice | None:
    """Return the best few eyepieces for tonight, and the score of a hand-picked set."""
    telescope = get_item(db, TELESCOPES, telescope_id)
    ladder = desk.ladder_of(telescope, find_item(db, DIAGONALS, telescope.diagonal_id))
    return best_case(ladder, most_eyepieces, desk.amplifiers, picked_id or [])


@router.get("/audit/eyepiece")
def get_eyepiece_audit(
    db: Db,
    telescope_id: Id,
    focal_length_mm: FocalLength,
    printed: PrintedPower,
    factor: Factor = 1.0,
) -> Audit:
    """Return whether a power printed for an eyepiece is true in this telescope."""
    telescope = get_item(db, TELESCOPES, telescope_id)
    return audit_eyepiece_power(telescope, focal_length_mm, printed, factor)


@router.get("/audit/largest")
def get_largest_audit(db: Db, telescope_id: Id, printed: PrintedPower) -> Audit:
    """Return whether a printed largest power can be used."""
    return audit_largest_power(get_item(db, TELESCOPES, telescope_id), printed)


@router.get("/audit/amplifier")
def get_amplifier_audit(db: Db, desk: TheDesk, telescope_id: Id, printed: PrintedFactor) -> Audit:
    """Return with how many owned eyepieces a Barlow of a printed factor stays useful."""
    telescope = get_item(db, TELESCOPES, telescope_id)
    return audit_amplifier(telescope, desk.eyepieces, printed)


class View(Frozen):
    """What one looks at, and the rung one stands on; None stays as it is."""

    telescope_id: Id | None = None
    rung_key: Label | None = None
    target_key: Label | None = None


@router.put("/view", status_code=204)
def change_view(view: View, db: Db, catalogue: TheCatalogue) -> None:
    """Keep the rung one stands on, for its telescope, and the target one looks at."""
    changes: dict[str, Any] = {}
    if view.target_key is not None:
        changes["target_key"] = catalogue.get(view.target_key).key
    if view.telescope_id is not None and view.rung_key is not None:
        get_item(db, TELESCOPES, view.telescope_id)
        changes["rungs"] = {str(view.telescope_id): view.rung_key}
    keep_view(db, changes)


@router.get("/disc")
def get_disc(
    db: Db, desk: TheDesk, catalogue: TheCatalogue, look: Annotated[Look, Depends()]
) -> Disc:
    """Return what stands in a rung's field around a target, as the eye sees it.

    Shown is the chosen evening: now where that is tonight, else when looking begins, or at a
    wished moment of it.
    """
    found = catalogue.get(look.target)
    telescope, diagonal, combination = _through(db, desk, look.telescope_id, look.rung)
    course = Course(of_moon=found.body == "moon")
    (made,) = make_rungs([combination], {telescope.diagonal_id: diagonal}, desk.viewer(course))
    mount = find_item(db, MOUNTS, telescope.mount_id)
    through = Through(telescope, diagonal, made, mount is not None and mount.traits.has_polar_axis)
    moment = disc_moment(desk.night, desk.moment_utc, look.at_utc)
    is_now = moment == desk.moment_utc
    return make_disc(
        through, found, catalogue, desk.place_tonight, moment, look.mode, is_now=is_now
    )
