"""Everything that is kept: out as lines, and in from lines, whatever is here already."""

import json
import sqlite3
from collections import deque
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager, nullcontext
from datetime import datetime
from typing import Any, get_args

from pydantic import ValidationError

from jade_perch.core.errors import OutOfRange, field_problems
from jade_perch.core.evening.context import EveningOnly, UsualChoice
from jade_perch.core.evening.journal import AHEAD, Observation, Picture
from jade_perch.core.fields import Item, Loaded, folded
from jade_perch.core.journal.archive import (
    CHOICE,
    KINDS,
    Counted,
    Merged,
    renumbered,
    require_kept,
)
from jade_perch.store.errors import Unreadable
from jade_perch.store.evening import EVENINGS, KEEP_USUAL, SITES, USUAL, usual_choice
from jade_perch.store.items import ItemTable, plain, unreadable
from jade_perch.store.journal import ADD_PICTURE, OBSERVATIONS
from jade_perch.store.kit import TABLES as KIT
from jade_perch.store.kit import TIMED_DRIFTS
from jade_perch.store.lists import TARGET_LISTS
from jade_perch.store.plan import PLAN_ITEMS
from jade_perch.store.practice import RUNS
from jade_perch.store.setup import PARFOCALS, READINGS, SOLAR_SESSIONS, STEP_MARKS
from jade_perch.store.sittings import SITTINGS
from jade_perch.store.weather import TYPED_HOURS, WEATHER_FILES

TABLES: dict[str, ItemTable[Any]] = {
    table.kind: table
    for table in (
        *KIT, SITES, EVENINGS, PLAN_ITEMS, READINGS, STEP_MARKS, PARFOCALS, TIMED_DRIFTS, RUNS,
        SOLAR_SESSIONS, WEATHER_FILES, TYPED_HOURS, SITTINGS, TARGET_LISTS, OBSERVATIONS,
    )
}  # fmt: skip
WRITTEN = json.JSONEncoder(ensure_ascii=False, separators=(",", ":")).encode
MOST_TOLD = 200  # lines that are refused and told; the rest are of the same make
SENT_KEYS = "SELECT sent_key, id FROM observation WHERE sent_key != ''"
PICTURES = "SELECT name, media_type, width, height, content FROM picture ORDER BY name"
ADDING = "SELECT sql FROM sqlite_master WHERE name = 'observation_added'"
PICTURE_NAMES = "SELECT name FROM picture"
OPEN_SESSIONS = " AND closed_at_utc IS NOT NULL"
FILL_IN = (
    "UPDATE evening SET "
    + ", ".join(f"{name} = coalesce({name}, :{name})" for name in EveningOnly.model_fields)
    + " WHERE id = :id"
)


def count_everything(db: sqlite3.Connection) -> int:
    """Return about how many things an export has to write, for its progress."""
    counts = [f"(SELECT count(*) FROM {kind})" for kind in (*TABLES, "picture")]
    return int(db.execute(f"SELECT {' + '.join(counts)}").fetchone()[0])


def lines_of(db: sqlite3.Connection, kind: str) -> Iterator[str]:
    """Yield everything of one kind as lines of JSON, by number.

    Of what others refer to also what was taken out, with when; of solar sessions those that ended.
    """
    if kind == CHOICE:
        if db.execute(USUAL).fetchone() is not None:
            yield usual_choice(db).model_dump_json()
        return
    table = TABLES[kind]
    living = "1" if KINDS[kind].is_referred else "deleted_at_utc IS NULL"
    ended = OPEN_SESSIONS if table is SOLAR_SESSIONS else ""
    listed = ", ".join(table.columns)
    statement = f"SELECT id, deleted_at_utc, {listed} FROM {kind} WHERE {living}{ended} ORDER BY id"
    from_column = _from_column(table)
    for row in db.execute(statement):
        told = dict(row)
        if told["deleted_at_utc"] is None:
            del told["deleted_at_utc"]
        for name, read in from_column.items():
            if told[name] is not None:
                told[name] = read(told[name])
        yield WRITTEN(told)


def _from_column(table: ItemTable[Any]) -> dict[str, Callable[[Any], Any]]:
    """Return how to read those columns that are kept otherwise than JSON writes them.

    So no model has to be made of every row: what is kept was judged when it came.
    """
    found: dict[str, Callable[[Any], Any]] = {}
    for name in table.columns:
        field = table.model.model_fields[name]
        if Loaded in field.metadata:
            found[name] = json.loads
        elif bool in (field.annotation, *get_args(field.annotation)):
            found[name] = bool
    return found


def all_unreadable(db: sqlite3.Connection) -> list[Unreadable]:
    """Return what is wrong with every record that cannot be read, of whatever kind."""
    return [one for table in TABLES.values() for one in unreadable(db, table)]


def pictures_of(db: sqlite3.Connection) -> Iterator[Picture]:
    """Yield every picture, one after the other."""
    for row in db.execute(PICTURES):
        yield Picture.model_validate(dict(row))


def take_in(
    db: sqlite3.Connection,
    lines: Callable[[str], Iterable[tuple[int, dict[str, Any]]]],
    pictures: Iterable[Picture],
    now_utc: datetime,
    *,
    keep: bool,
) -> Merged:
    """Take an archive in, kind by kind: all of it, or where a line is refused nothing.

    Without ``keep`` it is only tried.
    """
    db.execute("BEGIN IMMEDIATE")
    try:
        merge = Merge(db, now_utc)
        for kind in (*KINDS, CHOICE):
            merge.kind(kind, lines(kind))
        merge.pictures(pictures)
    except BaseException:
        db.rollback()
        raise
    if keep and not merge.merged.problems:
        db.commit()
    else:
        db.rollback()
    return merge.merged


class Merge:
    """An archive being taken in, kind by kind, inside a transaction of the caller's.

    A thing that is here already stays as it is here; an evening of which less was said is filled
    in.  New things keep their numbers where those are free.
    """

    def __init__(self, db: sqlite3.Connection, now_utc: datetime) -> None:
        self.db, self.latest = db, now_utc + AHEAD
        self.numbers: dict[tuple[str, int], int] = {}
        self.merged = Merged(counts={}, problems=[])

    def kind(self, kind: str, lines: Iterable[tuple[int, dict[str, Any]]]) -> None:
        """Take in everything of one kind; kinds come in the order of ``KINDS``."""
        if kind == CHOICE:
            self._choice(lines)
            return
        here = _Here(self.db, kind)
        counted = self.merged.counts[kind] = Counted()
        with _words_at_once(self.db) if kind == "observation" else nullcontext():
            self._lines(here, lines, counted)

    def _lines(
        self, here: "_Here", lines: Iterable[tuple[int, dict[str, Any]]], counted: Counted
    ) -> None:
        kind = here.kind
        for line, values in lines:
            try:
                self._one(here, values, counted)
            except ValidationError as error:
                self._refused(kind, line, field_problems(error.errors()))
            except OutOfRange as refusal:
                self._refused(kind, line, [refusal.problem()])
            except (sqlite3.IntegrityError, OverflowError) as error:
                cure = "Export again; this line belongs to nothing that is in the file."
                problem = OutOfRange("line", str(error), "what the kit and evenings allow", cure)
                self._refused(kind, line, [problem.problem()])

    def pictures(self, pictures: Iterable[Picture]) -> None:
        """Take in pictures; one that is here already is the same by its name."""
        known = {row["name"] for row in self.db.execute(PICTURE_NAMES)}
        counted = self.merged.counts["picture"] = Counted()
        for one in pictures:
            if one.name in known:
                counted.same += 1
                continue
            counted.new += 1
            self.db.execute(ADD_PICTURE, one.model_dump())

    def _one(self, here: "_Here", values: dict[str, Any], counted: Counted) -> None:
        number, gone = _number_of(values), values.pop("deleted_at_utc", None)
        if gone is not None and (not KINDS[here.kind].is_referred or not _is_time(gone)):
            cure = "Leave what was taken out where it is."
            raise OutOfRange("deleted_at_utc", gone, "nothing, or the time of its deletion", cure)
        item = here.table.model.model_validate(renumbered(values, self.numbers))
        require_kept(item)
        if isinstance(item, Observation) and item.observed_at_utc > self.latest:
            counted.ahead += 1
        columns = {name: plain(getattr(item, name)) for name in here.table.columns}
        known = here.find(gone, item, columns)
        if known is None:
            known = here.add(number, gone, item, columns)
            counted.new += 1
        elif here.is_same(known, columns):
            counted.same += 1
        else:
            counted.differs += 1
            if here.kind == "evening":
                self.db.execute(FILL_IN, {**columns, "id": known})
        self.numbers[here.kind, number] = known

    def _choice(self, lines: Iterable[tuple[int, dict[str, Any]]]) -> None:
        """Take over what was usually chosen, where nothing was chosen here yet."""
        for line, values in lines:
            try:
                choice = UsualChoice.model_validate(renumbered(values, self.numbers))
            except ValidationError as error:
                self._refused(CHOICE, line, field_problems(error.errors()))
                continue
            if self.db.execute(USUAL).fetchone() is None:
                kept = {name: plain(getattr(choice, name)) for name in UsualChoice.model_fields}
                self.db.execute(KEEP_USUAL, kept)

    def _refused(self, kind: str, line: int, problems: list[Any]) -> None:
        if len(self.merged.problems) < MOST_TOLD:
            self.merged.problems.append((kind, line, problems))


@contextmanager
def _words_at_once(db: sqlite3.Connection) -> Iterator[None]:
    """Take the words of many notes into the index at the end: ten times as quick as one by one.

    Inside the caller's transaction, as everything here: what fails leaves the index as it was.
    """
    (trigger,) = db.execute(ADDING).fetchone()
    db.execute("DROP TRIGGER observation_added")
    yield
    db.execute(trigger)
    db.execute("INSERT INTO observation_text (observation_text) VALUES ('rebuild')")


class _Here:
    """What is here already of one kind, by what tells it apart, and which numbers are free.

    What was taken out is only ever the same as what was taken out then.
    """

    def __init__(self, db: sqlite3.Connection, kind: str) -> None:
        self.db, self.kind, self.table = db, kind, TABLES[kind]
        self.fields, self.repeats = KINDS[kind].identity, KINDS[kind].repeats
        self.ids: set[int] = set()
        self.known: dict[tuple[Any, ...], deque[int]] = {}
        self.sent: dict[str, int] = {}
        if self.table is OBSERVATIONS:
            self.sent = {row["sent_key"]: row["id"] for row in db.execute(SENT_KEYS)}
        listed = f"SELECT id, deleted_at_utc, {', '.join(self.fields)} FROM {kind} ORDER BY id"
        for row in db.execute(listed):
            self.ids.add(row["id"])
            self._know(row["id"], row["deleted_at_utc"], dict(row))
        self.top = max(self.ids, default=0)
        columns = ", ".join(f":{name}" for name in self.table.written)
        self.insert = (
            f"INSERT INTO {kind} (id, deleted_at_utc, {', '.join(self.table.written)}) "
            f"VALUES (:id, :deleted_at_utc, {columns})"
        )
        self.one = f"SELECT {', '.join(self.table.columns)} FROM {kind} WHERE id = :id"

    def _identity(self, gone: Any, columns: dict[str, Any]) -> tuple[Any, ...]:
        parts = (columns[name] for name in self.fields)
        return gone, *(folded(one) if isinstance(one, str) else one for one in parts)

    def _know(self, number: int, gone: Any, columns: dict[str, Any]) -> None:
        self.known.setdefault(self._identity(gone, columns), deque()).append(number)

    def find(self, gone: Any, item: Item, columns: dict[str, Any]) -> int | None:
        """Return the number here of the same thing, or None where there is none.

        Of several alike each is the same as one only, so that as many are here afterwards.
        """
        sent = getattr(item, "sent_key", "")
        if sent in self.sent:
            return self.sent[sent]
        alike = self.known.get(self._identity(gone, columns))
        if not alike:
            return None
        return alike.popleft() if self.repeats or gone is not None else alike[0]

    def is_same(self, known: int, columns: dict[str, Any]) -> bool:
        """Return whether a thing here is the same in every field."""
        row = self.db.execute(self.one, {"id": known}).fetchone()
        return dict(row) == columns

    def add(self, number: int, gone: Any, item: Item, columns: dict[str, Any]) -> int:
        """Store a new thing, under its own number where that is free; returns the number."""
        free = number if number not in self.ids else self.top + 1
        values = {**self.table.to_write(columns), "id": free, "deleted_at_utc": gone}
        self.db.execute(self.insert, values)
        self.ids.add(free)
        self.top = max(self.top, free)
        if not self.repeats and gone is None:
            self._know(free, gone, columns)
        sent = getattr(item, "sent_key", "")
        if sent:
            self.sent[sent] = free
        return free


def _number_of(values: dict[str, Any]) -> int:
    number = values.pop("id", None)
    if not isinstance(number, int) or isinstance(number, bool) or not 0 < number < 2**62:
        raise OutOfRange("id", number, "a whole number from 1 on", "Export again.")
    return number


def _is_time(text: Any) -> bool:
    try:
        return datetime.fromisoformat(text).tzinfo is not None
    except (TypeError, ValueError):
        return False
