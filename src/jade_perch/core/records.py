"""The kit as flat records: one per item, references by name, the same for every file format."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime
from typing import Any, Literal

from pydantic import ConfigDict, Field, ValidationError

from jade_perch.core.errors import FieldProblem, OutOfRange, field_problems, shown
from jade_perch.core.fields import NOT_WRITTEN, Frozen, Item, folded
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
from jade_perch.core.optics.combinations import require_diagonal_fits, require_possible_stop
from jade_perch.core.upkeep import require_done

# In an order in which everything referred to comes before what refers to it.
MODELS: dict[str, type[Item]] = {
    "mount": Mount,
    "diagonal": Diagonal,
    "telescope": Telescope,
    "finder": Finder,
    "eyepiece": Eyepiece,
    "amplifier": Amplifier,
    "light_filter": LightFilter,
    "observer": Observer,
    "upkeep": Upkeep,
}
KIND_OF = {model: kind for kind, model in MODELS.items()}
# Field that holds an id -> field of the record that holds a name, and the kind it names.
REFERENCES = {
    "mount_id": ("mount_name", "mount"),
    "diagonal_id": ("diagonal_name", "diagonal"),
    "telescope_id": ("telescope_name", "telescope"),
    "item_id": ("item_name", ""),
}
SOME_ID = 1  # stands for a reference while a record is checked

Key = tuple[str, str]
Outcome = Literal["new", "changed", "same", "refused"]


class Record(Frozen):
    """One record read: its model and references by name, or the problems that forbid it.

    ``place`` says where it stood: a line of a table, or a position in a document.
    """

    model_config = ConfigDict(frozen=True, arbitrary_types_allowed=True)

    place: int
    item: str
    name: str
    model: Item | None = None
    references: dict[str, Key] = Field(default_factory=dict)
    problems: list[FieldProblem] = Field(default_factory=list)


class Row(Frozen):
    """One line of an import report."""

    line: int
    item: str
    name: str
    outcome: Outcome
    problems: list[FieldProblem]


class ImportReport(Frozen):
    """What an import would do, row by row; it is applied only when no row is refused."""

    rows: list[Row]
    new: int
    changed: int
    same: int
    refused: int
    applied: bool = False


def record_fields(kind: str) -> list[str]:
    """Return the field names of a kind's records, references by name, in order.

    Source: rules.md#files.
    """
    fields = [name for name in MODELS[kind].model_fields if name not in NOT_WRITTEN]
    return [REFERENCES[name][0] if name in REFERENCES else name for name in fields]


def write_records(items: Sequence[Item]) -> list[dict[str, Any]]:
    """Return one flat record per item, with ``item`` for its kind and names for references.

    Upkeep of something that is not among the items, because it was deleted, is left out.

    Source: rules.md#files.
    """
    names = _names_of(items)
    return [_written(item, names) for item in items if not _is_orphan(item, names)]


def _names_of(items: Sequence[Item]) -> dict[tuple[str, int | None], str]:
    return {(KIND_OF[type(item)], item.id): item.name for item in items if hasattr(item, "name")}


def _is_orphan(item: Item, names: Mapping[tuple[str, int | None], str]) -> bool:
    return isinstance(item, Upkeep) and (item.item_kind, item.item_id) not in names


def _written(item: Item, names: Mapping[tuple[str, int | None], str]) -> dict[str, Any]:
    record: dict[str, Any] = {"item": KIND_OF[type(item)]}
    for field, value in item.model_dump(mode="json", exclude=set(NOT_WRITTEN)).items():
        if field not in REFERENCES:
            record[field] = value
            continue
        field_of_name, kind = REFERENCES[field]
        record[field_of_name] = names.get((kind or getattr(item, "item_kind", ""), value))
    return record


def read_record(place: int, values: Mapping[str, Any]) -> Record:
    """Return a flat record as a model, or with the problems that keep it from being one.

    Values may be text or numbers; None and empty text are nothing.

    Source: rules.md#files.
    """
    filled = {key: value for key, value in values.items() if value not in (None, "")}
    kind = filled.pop("item", "")
    model = MODELS.get(kind) if isinstance(kind, str) else None
    if model is None:
        problem = OutOfRange("item", kind, ", ".join(MODELS), "Say what this is.").problem()
        return refused_record(place, str(kind), str(filled.get("name", "")), [problem])
    references: dict[str, Key] = {}
    for field, (field_of_name, of_kind) in REFERENCES.items():
        if field_of_name in filled and field in model.model_fields:
            name = str(filled.pop(field_of_name))
            references[field] = (of_kind or str(filled.get("item_kind", "")), name)
            filled[field] = SOME_ID
    name = _name_of(kind, filled, references)
    try:
        item = model.model_validate(filled)
    except ValidationError as error:
        return refused_record(place, kind, name, field_problems(error.errors()))
    return Record(place=place, item=kind, name=name, model=item, references=references)


def refused_record(place: int, kind: str, name: str, problems: list[FieldProblem]) -> Record:
    """Return the record of something that cannot be taken.  Source: rules.md#files."""
    return Record(place=place, item=shown(kind), name=shown(name), problems=problems)


def _name_of(kind: str, filled: Mapping[str, Any], references: Mapping[str, Key]) -> str:
    if kind != "upkeep":
        return str(filled.get("name", "")).strip()
    of_kind, of_name = references.get("item_id", ("", ""))
    return f"{filled.get('task', '')} of {of_kind} {of_name}"


def check_together(
    records: Iterable[Record], kept: Sequence[Item], now_utc: datetime
) -> list[Record]:
    """Refuse what only shows among the others: a name used twice, a reference to nothing.

    Upkeep noted as done in days to come is refused too.

    Source: rules.md#files.
    """
    records = list(records)
    known = set(kept_ids(kept)) | {(one.item, folded(one.name)) for one in records}
    first: dict[Key, int] = {}
    diagonals = {folded(one.name): one for one in kept if isinstance(one, Diagonal)}
    diagonals |= {folded(one.name): one.model for one in records if isinstance(one.model, Diagonal)}
    checked = [_checked(one, known, first) for one in records]
    return [_agreeing(one, diagonals, now_utc) for one in checked]


def _checked(one: Record, known: set[Key], first: dict[Key, int]) -> Record:
    place = first.setdefault((one.item, folded(one.name)), one.place)
    if one.model is None:
        return one
    if place != one.place:
        problem = OutOfRange(
            "name", one.name, "a name used once", f"Line {place} has it too; rename one."
        )
        return refused_record(one.place, one.item, one.name, [problem.problem()])
    for field, (kind, name) in one.references.items():
        if (kind, folded(name)) not in known:
            problem = OutOfRange(
                REFERENCES[field][0], name, f"a {kind} in the kit or in the file", "Correct it."
            )
            return refused_record(one.place, one.item, one.name, [problem.problem()])
    return one


def _agreeing(one: Record, diagonals: Mapping[str, Diagonal], now_utc: datetime) -> Record:
    """Refuse what does not agree with the day, or with what it refers to."""
    try:
        if isinstance(one.model, Upkeep):
            require_done(one.model, now_utc)
        if isinstance(one.model, Eyepiece):
            require_possible_stop(one.model)
        if isinstance(one.model, Telescope) and "diagonal_id" in one.references:
            _, name = one.references["diagonal_id"]
            require_diagonal_fits(one.model, diagonals.get(folded(name)))
    except OutOfRange as wrong:
        return refused_record(one.place, one.item, one.name, [wrong.problem()])
    return one


def kept_ids(items: Sequence[Item]) -> dict[Key, int | None]:
    """Return the id of each kept item by kind and name, lower case.  Source: rules.md#files."""
    names = _names_of(items)
    return {
        (record["item"], folded(_key_name(record))): item.id
        for item in items
        if not _is_orphan(item, names)
        for record in [_written(item, names)]
    }


def _key_name(record: Mapping[str, Any]) -> str:
    if record["item"] != "upkeep":
        return str(record["name"])
    return f"{record['task']} of {record['item_kind']} {record['item_name']}"


def compare(records: Sequence[Record], kept: Sequence[Item]) -> ImportReport:
    """Return the row-by-row report of what importing would do to the kept kit.

    Items are matched by kind and name, without regard to upper and lower case.

    Source: rules.md#files.
    """
    known = {(record["item"], folded(_key_name(record))): record for record in write_records(kept)}
    rows = [
        Row(
            line=one.place,
            item=one.item,
            name=one.name,
            outcome=_outcome(one, known),
            problems=one.problems,
        )
        for one in records
    ]
    count = {o: sum(r.outcome == o for r in rows) for o in ("new", "changed", "same", "refused")}
    return ImportReport(rows=rows, **count)


def _outcome(one: Record, known: Mapping[Key, Mapping[str, Any]]) -> Outcome:
    if one.model is None:
        return "refused"
    match = known.get((one.item, folded(one.name)))
    if match is None:
        return "new"
    names: dict[tuple[str, int | None], str] = {
        (kind, SOME_ID): name for kind, name in one.references.values()
    }
    return "same" if _written(one.model, names) == match else "changed"
