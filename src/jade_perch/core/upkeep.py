"""What the kit asks for before an evening: batteries, cleaning, collimation, inspections."""

from collections.abc import Mapping, Sequence
from datetime import date, datetime, timedelta
from types import MappingProxyType

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Upkeep

TASK_WORDS = {
    "battery": "change the battery",
    "cleaning": "clean it, brush before fluid",
    "collimation": "check the collimation",
    "inspection": "inspect it against a bright lamp",
}


Uses = Mapping[tuple[str, int], Sequence[date]]  # evenings of use, oldest first, by kind and id
NEVER_USED: Uses = MappingProxyType({})
FIRST_ZONE = timedelta(hours=14)  # where on Earth a day begins first


class Due(Frozen):
    """One task, and by how many days it is due (negative: still to come; None: never done)."""

    upkeep: Upkeep
    item_name: str
    due_since_days: int | None
    words: str


def upkeep_state(upkeep: Upkeep, item_name: str, today: date, used: Sequence[date] = ()) -> Due:
    """Return how a task stands on ``today``; what was never done is due, or noted ahead of time.

    ``used`` are the evenings on which the thing was used.

    Source: rules.md#upkeep.
    """
    task = TASK_WORDS[upkeep.task]
    if upkeep.last_done is None:
        words = f"{item_name}: {task} (never noted as done)."
        return Due(upkeep=upkeep, item_name=item_name, due_since_days=None, words=words)
    if upkeep.last_done > today + timedelta(days=1):
        words = f"{item_name}: {task} (noted for a day still to come; correct it)."
        return Due(upkeep=upkeep, item_name=item_name, due_since_days=None, words=words)
    since = (today - (upkeep.last_done + timedelta(days=upkeep.every_days))).days
    after = [day for day in used if upkeep.last_done < day <= today]
    by_use = upkeep.every_uses is not None and len(after) >= upkeep.every_uses
    if by_use:
        since = max(since, (today - after[(upkeep.every_uses or 1) - 1]).days)
    when = f"due for {since} days" if since > 0 else "due today" if since == 0 else "not yet due"
    times = f"; used on {len(after)} evening{'' if len(after) == 1 else 's'} since" if after else ""
    words = f"{item_name}: {task} ({when}; last {upkeep.last_done.isoformat()}{times})."
    return Due(upkeep=upkeep, item_name=item_name, due_since_days=since, words=words)


def require_done(upkeep: Upkeep, now_utc: datetime) -> None:
    """Raise ``OutOfRange`` for an inspection noted on a day that has begun nowhere yet.

    Other tasks noted ahead of time count as due instead.

    Source: rules.md#upkeep.
    """
    latest = (now_utc + FIRST_ZONE).date()
    done = upkeep.last_done
    if upkeep.task == "inspection" and done is not None and done > latest:
        cure = "Note it once it was done."
        raise OutOfRange("last_done", done.isoformat(), f"up to {latest}", cure)


def due_tasks(
    upkeeps: Sequence[Upkeep],
    names: Mapping[tuple[str, int], str],
    today: date,
    uses: Uses = NEVER_USED,
) -> list[Due]:
    """Return what is due on ``today``, longest due first, inspections before everything else.

    ``names`` gives the name of each living item by kind and id; tasks of others are left out.
    ``uses`` are the evenings on which each was used.

    Source: rules.md#upkeep.
    """
    states = [
        upkeep_state(
            one,
            names[one.item_kind, one.item_id],
            today,
            uses.get((one.item_kind, one.item_id), ()),
        )
        for one in upkeeps
        if (one.item_kind, one.item_id) in names
    ]
    return sorted((one for one in states if is_due(one)), key=_urgency)


def is_due(state: Due) -> bool:
    """Return whether a task is due today or longer, or was never done.  Source: rules.md#upkeep."""
    return state.due_since_days is None or state.due_since_days >= 0


def _urgency(due: Due) -> tuple[bool, bool, int]:
    days = due.due_since_days
    return (due.upkeep.task != "inspection", days is not None, -(days or 0))
