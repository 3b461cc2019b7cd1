"""What the plan's routes are told by: a night's case, and the plan made of it."""

import datetime as dt
import sqlite3
from dataclasses import dataclass

from jade_perch.api.hours import Hours
from jade_perch.core.evening.desk import Desk
from jade_perch.core.evening.outlook import make_outlook
from jade_perch.core.evening.plan import Plan, PlanItem, default_start, make_plan
from jade_perch.core.evening.prospect import Case
from jade_perch.core.evening.prospects import make_case, make_prospects
from jade_perch.core.evening.tonight import Tonight, make_tonight
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.store.journal import noted_targets
from jade_perch.store.plan import plan_items


@dataclass(frozen=True, slots=True)
class Planned:
    """A plan with the case it was made for, and the wishes it was made of."""

    case: Case
    plan: Plan
    items: list[PlanItem]


def case_of(
    db: sqlite3.Connection, desk: Desk, catalogue: Catalogue, at_utc: dt.datetime | None
) -> Case | None:
    """Return what a desk's night is judged by, told for a moment of it; None without a place."""
    if desk.place is None or desk.night is None:
        return None
    ladder = desk.ladder_of(desk.telescope, desk.diagonal) if desk.telescope else None
    tonight = tonight_of(desk, catalogue, ladder, at_utc)
    return make_case(desk, catalogue, tonight, ladder, noted_targets(db))


def tonight_of(
    desk: Desk, catalogue: Catalogue, ladder: Ladder | None, at_utc: dt.datetime | None
) -> Tonight:
    """Return Moon and planets of a desk's night; the desk has a place."""
    assert desk.place is not None and desk.night is not None
    at = (desk.place, desk.night, desk.now, ladder, desk.choice.school, at_utc)
    return make_tonight(catalogue.bodies_only(), *at)


def plan_of(
    db: sqlite3.Connection, desk: Desk, catalogue: Catalogue, hours: Hours
) -> Planned | None:
    """Return the plan of a desk's evening with what it was made of; None without a place."""
    planned, night = desk.evening.planned_from_utc, desk.night
    is_inside = planned and night and night.start_utc <= planned <= night.end_utc
    case = case_of(db, desk, catalogue, planned if is_inside else None)
    if case is None or night is None:
        return None
    start = default_start(case, planned or desk.moment_utc)
    clearest = make_outlook(hours.of_night(desk), night, desk).clearest
    items = plan_items(db, desk.evening)
    listed = make_prospects(case, desk)
    plan = make_plan(case, items, desk.known_mount, start, listed, clearest)
    return Planned(case=case, plan=plan, items=items)
