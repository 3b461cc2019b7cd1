"""Where an evening at the eyepiece stands, and what each press makes of it.

A press says where somebody now is, not how far to move on: the same press told twice, or by two
hands at once, leads to the same place.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Annotated, Literal

from pydantic import Field

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Day, Frozen, Id, Item, Label, Loaded, Name, UtcTime

SpotKind = Literal["point", "put", "focus", "centre", "look", "note"]
AT_THE_GLASS: tuple[SpotKind, ...] = ("focus", "centre", "look")  # an eyepiece is in for these
Pressed = Literal[
    "go", "centred", "done", "skip", "later", "light", "turn", "queue", "break",
    "pack", "unpack", "close", "reopen",
]  # fmt: skip
BEGINS: tuple[Pressed, ...] = ("go", "centred", "done", "turn")  # a sitting begins with these
LATEST = timedelta(hours=24)  # a press made longer ago is no press of this evening
MOST_LOOKS, MOST_DONE, MOST_LIGHTS, MOST_QUEUE, MOST_PACKED = 400, 200, 60, 40, 200


class Spot(Frozen):
    """A step at a target: what is done, on which rung, and whether on the way down again."""

    target_key: Name
    kind: SpotKind
    rung_key: Label = ""
    is_down: bool = False


class Looked(Frozen):
    """One rung that was in for one target, and since when."""

    target_key: Name
    rung_key: Label
    at_utc: UtcTime


class WhiteLight(Frozen):
    """When somebody last saw white light; nobody named is everybody."""

    person_id: int | None
    at_utc: UtcTime


class Sitting(Frozen):
    """An evening at the eyepiece as it stands; lists only grow, but for the queue and the packing.

    ``spot`` None is between two targets; ``passed`` are those put off or left out.
    ``centred_at_utc`` is when the target was last put in
    the middle, None while nobody said so.  ``person_id`` is who looks, ``queue`` who comes next.
    """

    begun_utc: UtcTime | None = None
    spot: Spot | None = None
    since_utc: UtcTime | None = None
    centred_at_utc: UtcTime | None = None
    looks: list[Looked] = Field(default_factory=list)
    done: list[Name] = Field(default_factory=list)
    passed: list[Name] = Field(default_factory=list)
    person_id: int | None = None
    turn_since_utc: UtcTime | None = None
    queue: list[int] = Field(default_factory=list)
    lights: list[WhiteLight] = Field(default_factory=list)
    break_utc: UtcTime | None = None
    packed: list[Name] = Field(default_factory=list)
    closed_at_utc: UtcTime | None = None


class SittingRow(Item):
    """The sitting of one evening with one telescope as it is kept."""

    evening_id: int
    telescope_id: Id | None = None
    sitting: Annotated[Sitting, Loaded] = Sitting()


class Press(Frozen):
    """One press: ``key`` names it for good, so that told twice it counts once.

    ``made_at_utc`` is when it was made, where it is told later; ``after_key`` names the press that
    was made before it by the same hand, where that is known; ``rehearsal`` names the rehearsal
    it belongs to, empty for the evening itself; ``date`` and ``site_id`` the evening, where it is
    not the chosen one.  Of the rest each kind of press names its own:
    ``spot`` where somebody now is (None between targets), ``person_id`` whose eyes or turn,
    ``people_ids`` the queue, ``item`` what is packed, ``target_key`` what is done with.
    """

    key: Name
    what: Pressed
    made_at_utc: UtcTime | None = None
    after_key: Label = ""
    rehearsal: Label = ""
    date: Day | None = None
    site_id: Id | None = None
    spot: Spot | None = None
    person_id: Id | None = None
    people_ids: Annotated[list[Id], Field(max_length=MOST_QUEUE)] = Field(default_factory=list)
    item: Label = ""
    target_key: Label = ""


def moment_of(press: Press, now_utc: datetime) -> datetime:
    """Return when a press was made: never later than now, and not from another day.

    Source: rules.md#presses.
    """
    made = press.made_at_utc
    return now_utc if made is None or not now_utc - LATEST <= made <= now_utc else made


def dated(press: Press, followed_utc: datetime | None, now_utc: datetime) -> Press:
    """Return a press with its moment, never earlier than that of the press it follows.

    The one before may have been dated when it arrived, after this one was made.  ``followed_utc``
    is None where nothing was followed; what lies ahead of now is followed by nothing.

    Source: rules.md#presses.
    """
    made = moment_of(press, now_utc)
    if followed_utc is not None and made < followed_utc <= now_utc:
        made = followed_utc
    return press.model_copy(update={"made_at_utc": made})


def pressed(sitting: Sitting, press: Press, now_utc: datetime) -> Sitting:
    """Return what a press makes of a sitting.

    A press made before the step that stands now moves nothing, however late it is told; what was
    looked at before still counts.  A step of the future, after a clock was set back, holds nobody.
    Raises ``OutOfRange`` for a press that lacks what its kind needs.

    Source: rules.md#presses.
    """
    at_utc = moment_of(press, now_utc)
    after = PRESSES[press.what](_Given(sitting, press, at_utc, now_utc))
    if after.begun_utc is not None or press.what not in BEGINS:
        return after
    return after.model_copy(update={"begun_utc": at_utc})


def _is_late(since_utc: datetime | None, at_utc: datetime, now_utc: datetime) -> bool:
    """Return whether something newer stands already; what lies ahead of now stands for nothing."""
    return since_utc is not None and at_utc < since_utc <= now_utc


@dataclass(frozen=True, slots=True)
class _Given:
    """One press on one sitting: when it was made, and now."""

    sitting: Sitting
    press: Press
    at_utc: datetime
    now_utc: datetime


def _go(given: _Given) -> Sitting:
    spot = given.press.spot
    update: dict[str, object] = {}
    if spot is not None and spot.kind in AT_THE_GLASS and spot.rung_key:
        update["looks"] = _looks(given.sitting, spot, given.at_utc)
    if _is_late(given.sitting.since_utc, given.at_utc, given.now_utc):
        return given.sitting.model_copy(update=update)
    update |= {"spot": spot, "since_utc": given.at_utc, "closed_at_utc": None}
    update["centred_at_utc"] = _centred(given.sitting, spot, given.at_utc)
    return given.sitting.model_copy(update=update)


def _centred(sitting: Sitting, spot: Spot | None, at_utc: datetime) -> datetime | None:
    """Return since when a target drifts from the middle: from the look on, on that rung alone."""
    before = sitting.spot
    if spot is None or spot.kind != "look":
        is_same = before is not None and spot is not None and before.target_key == spot.target_key
        return sitting.centred_at_utc if is_same and spot and spot.kind == "note" else None
    is_again = before is not None and before == spot
    return sitting.centred_at_utc if is_again and sitting.centred_at_utc else at_utc


def _looks(sitting: Sitting, spot: Spot, at_utc: datetime) -> list[Looked]:
    known = any(
        one.target_key == spot.target_key and one.rung_key == spot.rung_key for one in sitting.looks
    )
    if known or len(sitting.looks) >= MOST_LOOKS:
        return sitting.looks
    look = Looked(target_key=spot.target_key, rung_key=spot.rung_key, at_utc=at_utc)
    return [*sitting.looks, look]


def _recentred(given: _Given) -> Sitting:
    if given.sitting.spot is None or _is_late(
        given.sitting.centred_at_utc, given.at_utc, given.now_utc
    ):
        return given.sitting
    return given.sitting.model_copy(update={"centred_at_utc": given.at_utc})


def _done(given: _Given) -> Sitting:
    return _leave(given, "done")


def _pass(given: _Given) -> Sitting:
    return _leave(given, "passed")


def _leave(given: _Given, listed: Literal["done", "passed"]) -> Sitting:
    """Be done with a target, or pass it by: it is listed, and left where somebody stands at it."""
    key = _named("target_key", given.press.target_key)
    update: dict[str, object] = {}
    before: list[str] = getattr(given.sitting, listed)
    if key not in before and len(before) < MOST_DONE:
        update[listed] = [*before, key]
    is_here = given.sitting.spot is not None and given.sitting.spot.target_key == key
    if is_here and not _is_late(given.sitting.since_utc, given.at_utc, given.now_utc):
        update |= {"spot": None, "since_utc": given.at_utc, "centred_at_utc": None}
    return given.sitting.model_copy(update=update)


def _light(given: _Given) -> Sitting:
    """White light seen: one's own eyes begin anew, or everybody's."""
    who = given.press.person_id
    kept = [one for one in given.sitting.lights if one.at_utc <= given.now_utc]
    known = next((one for one in kept if one.person_id == who), None)
    if known is not None and known.at_utc >= given.at_utc:
        return given.sitting
    others = [one for one in kept if one.person_id != who][-(MOST_LIGHTS - 1) :]
    lights = [*others, WhiteLight(person_id=who, at_utc=given.at_utc)]
    return given.sitting.model_copy(update={"lights": lights})


def _turn(given: _Given) -> Sitting:
    """Somebody steps up: whoever looked goes to the end of the queue."""
    if (
        _is_late(given.sitting.turn_since_utc, given.at_utc, given.now_utc)
        or given.press.person_id == given.sitting.person_id
    ):
        return given.sitting
    before = [] if given.sitting.person_id is None else [given.sitting.person_id]
    queue = [one for one in given.sitting.queue if one not in (given.press.person_id, *before)]
    update = {
        "person_id": given.press.person_id,
        "turn_since_utc": given.at_utc,
        "queue": [*queue, *before] if given.press.person_id is not None else queue,
    }
    return given.sitting.model_copy(update=update)


def _queue(given: _Given) -> Sitting:
    queue = [one for one in dict.fromkeys(given.press.people_ids) if one != given.sitting.person_id]
    return given.sitting.model_copy(update={"queue": queue})


def _break(given: _Given) -> Sitting:
    if _is_late(given.sitting.break_utc, given.at_utc, given.now_utc):
        return given.sitting
    return given.sitting.model_copy(update={"break_utc": given.at_utc})


def _pack(given: _Given) -> Sitting:
    item = _named("item", given.press.item)
    if item in given.sitting.packed or len(given.sitting.packed) >= MOST_PACKED:
        return given.sitting
    return given.sitting.model_copy(update={"packed": [*given.sitting.packed, item]})


def _unpack(given: _Given) -> Sitting:
    item = _named("item", given.press.item)
    packed = [one for one in given.sitting.packed if one != item]
    return given.sitting.model_copy(update={"packed": packed})


def _close(given: _Given) -> Sitting:
    if _is_late(given.sitting.since_utc, given.at_utc, given.now_utc):
        return given.sitting
    update = {
        "spot": None,
        "since_utc": given.at_utc,
        "centred_at_utc": None,
        "closed_at_utc": given.at_utc,
    }
    return given.sitting.model_copy(update=update)


def _reopen(given: _Given) -> Sitting:
    return given.sitting.model_copy(update={"closed_at_utc": None})


def _named(field: str, value: str) -> str:
    if not value:
        raise OutOfRange(field, "(nothing)", "a name", "Say which one it is.")
    return value


PRESSES: dict[Pressed, Callable[[_Given], Sitting]] = {
    "go": _go,
    "centred": _recentred,
    "done": _done,
    "skip": _pass,
    "later": _pass,
    "light": _light,
    "turn": _turn,
    "queue": _queue,
    "break": _break,
    "pack": _pack,
    "unpack": _unpack,
    "close": _close,
    "reopen": _reopen,
}


def used_rungs(sitting: Sitting) -> list[str]:
    """Return the keys of the rungs that were in tonight, in order of first use.

    Source: rules.md#packing.
    """
    return list(dict.fromkeys(one.rung_key for one in sitting.looks))


def seen_targets(sitting: Sitting) -> Sequence[str]:
    """Return the keys of the targets that were looked at.  Source: rules.md#packing."""
    return list(dict.fromkeys(one.target_key for one in sitting.looks))
