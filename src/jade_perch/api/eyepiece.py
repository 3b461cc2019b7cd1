"""Station eyepiece: one target, one step; presses; packing up; the thread of the evening."""

import sqlite3

from jade_perch.api.cases import case_of, plan_of
from jade_perch.api.dependencies import Db, TheCatalogue, TheDesk, TheReadyDesk, TheStage
from jade_perch.api.hours import Hours, TheHours
from jade_perch.api.stations import station
from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.context import EveningRow
from jade_perch.core.evening.desk import ReadyDesk, ready
from jade_perch.core.evening.plan import Plan
from jade_perch.core.evening.prospect import Case
from jade_perch.core.evening.prospects import make_prospects
from jade_perch.core.evening.rejudge import steps_of
from jade_perch.core.evening.setup import SetupReading, budget_readings
from jade_perch.core.eyepiece.coming import events_ahead
from jade_perch.core.eyepiece.packing import (
    LeftOpen,
    Packing,
    Used,
    drive_words,
    left_open,
    pack_items,
    totals_of,
)
from jade_perch.core.eyepiece.people import known_pivot_mm
from jade_perch.core.eyepiece.pointing import require_pointing
from jade_perch.core.eyepiece.screen import (
    Known,
    Offer,
    Screen,
    make_screen,
    offer_of,
    offers_off_list,
)
from jade_perch.core.eyepiece.sitting import Press, Sitting, Spot, moment_of
from jade_perch.core.eyepiece.thread import Known as Threads
from jade_perch.core.eyepiece.thread import Thread, next_block, spin
from jade_perch.core.kit import Mount, Telescope
from jade_perch.core.moments import Now
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.upkeep import due_tasks
from jade_perch.store.evening import EVENINGS, evening_of, keep_view
from jade_perch.store.items import find_item, list_items
from jade_perch.store.journal import count_notes
from jade_perch.store.kit import (
    AMPLIFIERS,
    EYEPIECES,
    FINDERS,
    LIGHT_FILTERS,
    MOUNTS,
    TELESCOPES,
    UPKEEPS,
    item_names,
)
from jade_perch.store.plan import plan_items
from jade_perch.store.setup import readings_of
from jade_perch.store.sittings import press, sitting_before, sitting_of
from jade_perch.store.uses import uses

router = station("/eyepiece", "eyepiece")


@router.get("")
def get_screen(db: Db, desk: TheDesk, catalogue: TheCatalogue, hours: TheHours) -> Screen | None:
    """Return the one screen of the dark hours; null without a place or telescope."""
    found = ready(desk)
    if found is None:
        return None
    sitting = sitting_of(db, found.evening).sitting
    case = case_of(db, found, catalogue, None)
    assert case is not None
    offers, words = ([], "") if sitting.spot else _offers(db, found, case, sitting, hours)
    readings = readings_of(db, found.evening.id, found.telescope.id)
    left = None if sitting.begun_utc else _left(db, found.evening)
    known = Known(
        case=case,
        sitting=sitting,
        readings=budget_readings(readings),
        pivot_mm=known_pivot_mm(readings, found.known_mount),
        air=hours.air_now(found),
        offers=offers,
        offer_words=words,
        left_words="" if left is None else left.words,
        wished=[one.target_key for one in plan_items(db, found.evening) if not one.is_skipped],
    )
    return make_screen(found, known)


def _offers(
    db: sqlite3.Connection, desk: ReadyDesk, case: Case, sitting: Sitting, hours: Hours
) -> tuple[list[Offer], str]:
    """Return what is offered between two targets: the plan's next, else the best that shows."""
    plan = _plan(db, desk, case.catalogue, hours)
    block = next_block(plan, sitting, desk.moment_utc)
    if block is not None:
        return [offer_of(block, desk.moment_utc, desk.place.zone)], ""
    found = offers_off_list(make_prospects(case, desk).prospects, sitting)
    done = "The plan is done. " if plan is not None and plan.blocks else ""
    if found:
        return found, f"{done}Pack up, or look on." if done else "Free observing: no plan is made."
    return [], f"{done}Nothing stands right just now. Warm up, or pack up."


def _plan(
    db: sqlite3.Connection, desk: ReadyDesk, catalogue: Catalogue, hours: Hours
) -> Plan | None:
    """Return the plan of an evening that is planned; None where nobody wished for anything."""
    if desk.evening.planned_from_utc is None:
        return None
    found = plan_of(db, desk, catalogue, hours)
    return None if found is None else found.plan


@router.post("/press")
def hear_press(
    given: Press, db: Db, desk: TheReadyDesk, catalogue: TheCatalogue, stage: TheStage
) -> Sitting:
    """Hear a press, once however often it is told; returns how its evening stands then.

    Going to a target is refused while the Sun forbids pointing at it.
    """
    stage.require_same(given.rehearsal)
    evening = desk.evening
    if given.date is not None:
        evening = evening_of(db, given.date, given.site_id)
    meant = _by_its_key(given, catalogue)
    _require_known(meant, desk, catalogue)
    sitting = press(db, evening, desk.telescope.id, meant, desk.moment_utc)
    if meant.what == "go" and sitting.spot is not None and meant.spot == sitting.spot:
        _look_along(db, desk, sitting.spot)
    return sitting


def _look_along(db: sqlite3.Connection, desk: ReadyDesk, spot: Spot) -> None:
    """Let the other stations look at the same target through the same rung."""
    changes: dict[str, object] = {}
    if desk.choice.target_key != spot.target_key:
        changes["target_key"] = spot.target_key
    own = str(desk.telescope.id)
    if spot.rung_key and desk.choice.rungs.get(own) != spot.rung_key:
        changes["rungs"] = {own: spot.rung_key}
    if changes:
        keep_view(db, changes)


def _by_its_key(given: Press, catalogue: Catalogue) -> Press:
    """Return a press with its target by its key, whatever name it was meant by.

    Raises ``OutOfRange`` for a target nobody knows.
    """
    update: dict[str, object] = {}
    if given.target_key:
        update["target_key"] = catalogue.get(given.target_key).key
    if given.spot is not None:
        key = catalogue.get(given.spot.target_key).key
        update["spot"] = given.spot.model_copy(update={"target_key": key})
    return given.model_copy(update=update)


def _require_known(given: Press, desk: ReadyDesk, catalogue: Catalogue) -> None:
    """Raise for a press that names what is not there, or might not be pointed at when it was made.

    What stands now is judged anew with every screen.
    """
    if given.spot is not None:
        target = catalogue.get(given.spot.target_key)
        keys = [one.key for one in desk.ladder.rungs]
        if given.spot.rung_key and given.spot.rung_key not in keys:
            cure = "The case has changed: look again at what is shown."
            raise OutOfRange("spot.rung_key", given.spot.rung_key, "a rung of the ladder", cure)
        if given.what == "go" and given.spot.kind != "note":
            made = Now(moment_of(given, desk.moment_utc), desk.clock)
            require_pointing(target, desk.place, made)
    everybody = {one.id for one in desk.everybody}
    for one in (*([] if given.person_id is None else [given.person_id]), *given.people_ids):
        if one not in everybody:
            raise OutOfRange("person_id", one, "somebody who is known", "Choose them again.")


@router.get("/thread")
def get_thread(db: Db, desk: TheDesk, catalogue: TheCatalogue, hours: TheHours) -> Thread:
    """Return the one next step of the whole evening."""
    found = ready(desk)
    sitting = sitting_of(db, desk.evening).sitting
    readings: list[SetupReading] = []
    if found is not None:
        readings = readings_of(db, found.evening.id, found.telescope.id)
    return spin(
        Threads(
            now_utc=desk.moment_utc,
            zone="UTC" if desk.place is None else desk.place.zone,
            has_place=desk.place is not None,
            has_telescope=desk.telescope is not None,
            night=desk.night,
            steps=[] if found is None else steps_of(found, readings),
            readings=readings,
            make_plan=lambda: None if found is None else _plan(db, found, catalogue, hours),
            sitting=sitting,
            events=[]
            if found is None
            else events_ahead(
                found.night,
                sitting,
                hours.air_now(found),
                found.moment_utc,
                found.units,
                None,
                found.place.skyline,
            ),
        )
    )


@router.get("/packing")
def get_packing(db: Db, desk: TheReadyDesk) -> Packing:
    """Return the list for packing up, made from what was really used tonight."""
    sitting = sitting_of(db, desk.evening).sitting
    used = _used(db, desk.telescope, desk.mount)
    items = pack_items(used, sitting)
    now = desk.moment_utc
    return Packing(
        items=items,
        due=due_tasks(list_items(db, UPKEEPS), item_names(db), now.date(), uses(db)),
        drive_words=drive_words(sitting, now, desk.place.zone),
        totals=totals_of(sitting, count_notes(db, desk.evening.id), now),
        closed_at_utc=sitting.closed_at_utc,
        left=_left(db, desk.evening),
    )


def _used(db: sqlite3.Connection, telescope: Telescope | None, mount: Mount | None) -> Used:
    telescope_id = None if telescope is None else telescope.id
    return Used(
        telescope=telescope,
        mount=mount,
        finders=[one for one in list_items(db, FINDERS) if one.telescope_id == telescope_id],
        eyepieces=list_items(db, EYEPIECES),
        amplifiers=list_items(db, AMPLIFIERS),
        filters=list_items(db, LIGHT_FILTERS),
    )


def _left(db: sqlite3.Connection, evening: EveningRow) -> LeftOpen | None:
    """Return what the evening before left undone."""
    row = sitting_before(db, evening)
    if row is None:
        return None
    before = find_item(db, EVENINGS, row.evening_id)
    telescope = find_item(db, TELESCOPES, row.telescope_id)
    mount = None if telescope is None else find_item(db, MOUNTS, telescope.mount_id)
    return None if before is None else left_open(_used(db, telescope, mount), row.sitting, before)
