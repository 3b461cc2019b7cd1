"""Everything in one archive: which kinds of things, in which order, and their numbers anew."""

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from jade_perch.core.bench.focus import Parfocal
from jade_perch.core.bench.solar import SolarSession
from jade_perch.core.errors import FieldProblem, OutOfRange
from jade_perch.core.evening.context import EveningRow
from jade_perch.core.evening.journal import Observation
from jade_perch.core.evening.onway import StepMark
from jade_perch.core.evening.plan import PlanItem
from jade_perch.core.evening.setup import SetupReading
from jade_perch.core.eyepiece.sitting import SittingRow
from jade_perch.core.fields import Item
from jade_perch.core.journal.lists import TargetList
from jade_perch.core.kit import (
    Amplifier,
    Diagonal,
    Eyepiece,
    Finder,
    LightFilter,
    Mount,
    Observer,
    Telescope,
    Upkeep,
)
from jade_perch.core.optics.drift import TimedDrift
from jade_perch.core.practice.run import DrillRun
from jade_perch.core.site import Site
from jade_perch.core.weather import TypedHour, WeatherFile

CHOICE = "usual_choice"  # the one kind of which there is one thing alone
NOTHING = 0  # the number of what is not there; nothing that is kept ever has it


@dataclass(frozen=True, slots=True)
class KeptKind:
    """One kind of thing in an archive: its model, what people call many of it, what tells one.

    ``identity`` are the fields by which the same thing is known again; of what ``repeats`` there
    may be several alike.  Things that are ``is_referred`` to are in it even when they were taken
    out, so that what refers to them stays true.
    """

    model: type[Item]
    title: str
    identity: tuple[str, ...] = ("name",)
    is_referred: bool = False
    repeats: bool = False


# In an order in which everything referred to comes before what refers to it.
KINDS: dict[str, KeptKind] = {
    "mount": KeptKind(Mount, "mounts", is_referred=True),
    "diagonal": KeptKind(Diagonal, "diagonals", is_referred=True),
    "telescope": KeptKind(Telescope, "telescopes", is_referred=True),
    "finder": KeptKind(Finder, "finders", is_referred=True),
    "eyepiece": KeptKind(Eyepiece, "eyepieces", is_referred=True),
    "amplifier": KeptKind(Amplifier, "amplifiers", is_referred=True),
    "light_filter": KeptKind(LightFilter, "filters", is_referred=True),
    "observer": KeptKind(Observer, "people", is_referred=True),
    "upkeep": KeptKind(Upkeep, "tasks of upkeep", ("item_kind", "item_id", "task")),
    "site": KeptKind(Site, "places", is_referred=True),
    "evening": KeptKind(EveningRow, "evenings", ("date", "site_id"), is_referred=True),
    "plan_item": KeptKind(PlanItem, "wishes of plans", ("evening_id", "target_key")),
    "setup_reading": KeptKind(
        SetupReading,
        "readings of the set-up",
        ("evening_id", "telescope_id", "step", "recorded_at_utc"),
        repeats=True,
    ),
    "step_mark": KeptKind(
        StepMark,
        "rounds on the way through a step",
        ("evening_id", "telescope_id", "step", "subject", "marked_at_utc"),
        repeats=True,
    ),
    "parfocal": KeptKind(
        Parfocal,
        "ways of focus",
        ("telescope_id", "from_eyepiece_id", "to_eyepiece_id"),
        repeats=True,
    ),
    "timed_drift": KeptKind(
        TimedDrift, "timed drifts", ("timed_at_utc", "eyepiece_id"), repeats=True
    ),
    "solar_session": KeptKind(
        SolarSession,
        "solar sessions",
        ("opened_at_utc", "telescope_name", "filter_name"),
        repeats=True,
    ),
    "weather_file": KeptKind(
        WeatherFile, "weather files", ("site_id", "name", "read_at_utc"), repeats=True
    ),
    "typed_hour": KeptKind(TypedHour, "typed hours of weather", ("site_id", "hour_utc")),
    "sitting": KeptKind(SittingRow, "evenings at the eyepiece", ("evening_id",)),
    "drill_run": KeptKind(
        DrillRun, "rounds of practice", ("begun_at_utc", "drill", "seed"), repeats=True
    ),
    "target_list": KeptKind(TargetList, "lists of your own"),
    "observation": KeptKind(
        Observation,
        "observations",
        ("observed_at_utc", "object_name", "telescope_name", "observer_name", "words"),
        repeats=True,
    ),
}
# Which kind of thing a field names by its number; a test finds every field that is not here.
NAMED: dict[str, str] = {
    "telescope_id": "telescope",
    "mount_id": "mount",
    "diagonal_id": "diagonal",
    "finder_id": "finder",
    "eyepiece_id": "eyepiece",
    "from_eyepiece_id": "eyepiece",
    "to_eyepiece_id": "eyepiece",
    "amplifier_id": "amplifier",
    "filter_id": "light_filter",
    "observer_id": "observer",
    "person_id": "observer",
    "people_ids": "observer",
    "queue": "observer",
    "site_id": "site",
    "evening_id": "evening",
}
PACKED = {"tube": "telescope"}  # what is packed is named by its kind, but for this one
Numbers = Mapping[tuple[str, int], int]


@dataclass(slots=True)
class Counted:
    """What became of the things of one kind: new ones, the same here already, others kept as here.

    ``ahead`` are observations of a time that is still to come.
    """

    new: int = 0
    same: int = 0
    differs: int = 0
    ahead: int = 0

    def words(self) -> str:
        """Return it as a report says it.  Source: rules.md#archive."""
        parts = [f"{self.new} new"] if self.new else []
        if self.same:
            parts.append(f"{self.same} here already")
        if self.differs:
            parts.append(f"{self.differs} differ: yours stay as they are")
        if self.ahead:
            parts.append(f"{self.ahead} of a time still to come")
        return ", ".join(parts) or "nothing"


@dataclass(slots=True)
class Merged:
    """What taking an archive in came to, by kind; ``problems`` go by kind and line."""

    counts: dict[str, Counted]
    problems: list[tuple[str, int, list[FieldProblem]]]

    @property
    def new(self) -> int:
        """How many things are new altogether.  Source: rules.md#archive."""
        return sum(one.new for one in self.counts.values())


def renumbered(values: Mapping[str, Any], numbers: Numbers) -> dict[str, Any]:
    """Return a thing's values with every number of another thing as it is in this database.

    ``numbers`` gives it by kind and number in the archive.  What is not there is named by
    nothing; lists leave it out.

    Source: rules.md#archive.
    """
    if "item_kind" in values and "item_id" in values:
        kind = str(values["item_kind"])
        values = {**values, "item_id": _number(kind, values["item_id"], numbers)}
    return {key: _anew(key, value, numbers) for key, value in values.items()}


def _anew(key: str, value: Any, numbers: Numbers) -> Any:
    special = SPECIAL.get(key)
    if special is not None and isinstance(value, str | dict | list):
        return special(value, numbers)
    kind = NAMED.get(key)
    if kind is not None and isinstance(value, list):
        found = [_number(kind, one, numbers) for one in value]
        return [one for one in found if one != NOTHING]
    if kind is not None and value is not None:
        found_one = _number(kind, value, numbers)
        return found_one if found_one != NOTHING else None
    if isinstance(value, dict):
        return renumbered(value, numbers)
    if isinstance(value, list):
        return [renumbered(one, numbers) if isinstance(one, dict) else one for one in value]
    return value


def _number(kind: str, number: Any, numbers: Numbers) -> Any:
    if not isinstance(number, int) or isinstance(number, bool):
        return number  # the model will say what is wrong with it
    return numbers.get((kind, number), NOTHING)


def rung_anew(key: str, numbers: Numbers) -> str:
    """Return a rung's key with its eyepiece and amplifiers as they are numbered here.

    Source: see ``Combination.key``.
    """
    kinds = {"e": "eyepiece", "a": "amplifier"}
    return re.sub(
        r"([ea])(\d+)",
        lambda one: f"{one[1]}{_number(kinds[one[1]], int(one[2]), numbers)}",
        key,
    )


def _rung(value: Any, numbers: Numbers) -> Any:
    return rung_anew(value, numbers) if isinstance(value, str) else value


def _rungs(value: Any, numbers: Numbers) -> Any:
    """The chosen rung of each telescope, by its number."""
    if not isinstance(value, dict):
        return value
    found = {
        str(_number("telescope", int(own), numbers)): rung_anew(str(key), numbers)
        for own, key in value.items()
        if str(own).isdecimal()
    }
    return {own: key for own, key in found.items() if own != str(NOTHING)}


def _packed(value: Any, numbers: Numbers) -> Any:
    """What is packed, each as its kind and number; other words stay as they are."""
    if not isinstance(value, list):
        return value
    return [_packed_one(one, numbers) for one in value]


def _packed_one(item: Any, numbers: Numbers) -> Any:
    found = re.fullmatch(r"([a-z_]+)-(\d+)", item) if isinstance(item, str) else None
    if found is None:
        return item
    kind = PACKED.get(found[1], found[1])
    return f"{found[1]}-{_number(kind, int(found[2]), numbers)}"


def _subject(value: Any, numbers: Numbers) -> Any:
    found = re.fullmatch(r"finder (\d+)", value) if isinstance(value, str) else None
    return value if found is None else f"finder {_number('finder', int(found[1]), numbers)}"


SPECIAL: dict[str, Callable[[Any, Numbers], Any]] = {
    "rung_key": _rung,
    "rungs": _rungs,
    "packed": _packed,
    "subject": _subject,
}


def require_kept(item: Item) -> None:
    """Raise ``OutOfRange`` for what no archive may bring, though its model allows it.

    A solar session that is still open is never taken over: what was checked for it was checked
    elsewhere.

    Source: rules.md#archive.
    """
    if isinstance(item, SolarSession) and item.closed_at_utc is None:
        cure = "End the session where it was opened, and export again."
        raise OutOfRange("closed_at_utc", "(nothing)", "a session that has ended", cure)
