"""The kit as one CSV file: UTF-8, a header row with units, one item a row (RFC 4180)."""

import csv
import io
from collections.abc import Iterable, Sequence
from typing import Any, Literal

from pydantic import ValidationError

from jade_perch.core.errors import FieldProblem, OutOfRange, field_problems, shown
from jade_perch.core.fields import Frozen, Item
from jade_perch.core.kit import Amplifier, Eyepiece, Telescope

MODELS: dict[str, type[Telescope | Eyepiece | Amplifier]] = {
    "telescope": Telescope,
    "eyepiece": Eyepiece,
    "amplifier": Amplifier,
}
COLUMNS = (
    "item",
    *dict.fromkeys(
        field for model in MODELS.values() for field in model.model_fields if field != "id"
    ),
)
MOST_ROWS = 2000  # far above any kit; a longer file is some other file
MOST_BYTES = 1_000_000  # about five hundred bytes a row

Outcome = Literal["new", "changed", "same", "refused"]


class Row(Frozen):
    """One line of the file: the item it describes, or what is wrong with it."""

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


class Parsed(Frozen):
    """A line read: the model, or the problems that keep it from becoming one."""

    line: int
    item: str
    name: str
    model: Telescope | Eyepiece | Amplifier | None
    problems: list[FieldProblem]


def write_kit(items: Iterable[Item]) -> str:
    """Return the kit as CSV text; reading it back gives the same items."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, COLUMNS, restval="", lineterminator="\r\n")
    writer.writeheader()
    kind_of: dict[type[Item], str] = {model: kind for kind, model in MODELS.items()}
    for item in items:
        values = {key: _written(value) for key, value in item.model_dump(exclude={"id"}).items()}
        writer.writerow({"item": kind_of[type(item)], **values})
    return out.getvalue()


def read_kit(data: bytes) -> list[Parsed]:
    """Return every line of a CSV file as an item or as its problems.

    Raises ``OutOfRange`` when the file as a whole cannot be read: size, encoding, header.
    """
    reader = csv.reader(io.StringIO(_decoded(data), newline=""), strict=True)
    try:
        lines = [(reader.line_num, cells) for cells in reader if any(c.strip() for c in cells)]
    except csv.Error as error:
        raise OutOfRange(
            "file", f"line {reader.line_num}", "RFC 4180 CSV", f"Mend the line: {error}."
        ) from error
    if not lines:
        raise OutOfRange("file", "empty", "a header row and items", "Choose another file.")
    header = [cell.strip() for cell in lines[0][1]]
    _check_header(header)
    if len(lines) - 1 > MOST_ROWS:
        raise OutOfRange("file", f"{len(lines) - 1} rows", f"up to {MOST_ROWS} rows", "Split it.")
    return _refuse_repeats([_parse(number, header, cells) for number, cells in lines[1:]])


def compare(parsed: Sequence[Parsed], kept: Sequence[Item]) -> ImportReport:
    """Return the row-by-row report of what importing would do to the kept kit.

    Items are matched by kind and name, without regard to upper and lower case.
    """
    kind_of: dict[type[Item], str] = {model: kind for kind, model in MODELS.items()}
    known = {(kind_of[type(i)], _folded(i)): i.model_copy(update={"id": None}) for i in kept}
    rows = [
        Row(
            line=one.line,
            item=one.item,
            name=one.name,
            outcome=_outcome(one, known),
            problems=one.problems,
        )
        for one in parsed
    ]
    count = {o: sum(r.outcome == o for r in rows) for o in ("new", "changed", "same", "refused")}
    return ImportReport(rows=rows, **count)


def _outcome(one: Parsed, known: dict[tuple[str, str], Item]) -> Outcome:
    if one.model is None:
        return "refused"
    match = known.get((one.item, _folded(one.model)))
    if match is None:
        return "new"
    return "same" if match == one.model else "changed"


def _folded(item: Item) -> str:
    return str(getattr(item, "name", "")).casefold()


def _written(value: Any) -> str:
    if value is None:
        return ""
    return repr(value).removesuffix(".0") if isinstance(value, float) else str(value)


def _decoded(data: bytes) -> str:
    if len(data) > MOST_BYTES:
        raise OutOfRange(
            "file", f"{len(data)} bytes", f"up to {MOST_BYTES} bytes", "Choose a kit file."
        )
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = data[: error.start].count(b"\n") + 1
        byte = f"byte 0x{data[error.start]:02x} in line {line}"
        raise OutOfRange("file", byte, "UTF-8 text", "Save the file as UTF-8.") from error


def _check_header(header: Sequence[str]) -> None:
    unknown = [name for name in header if name not in COLUMNS]
    if unknown:
        raise OutOfRange("header", unknown[0], ", ".join(COLUMNS), "Rename or remove the column.")
    twice = [name for name in header if header.count(name) > 1]
    if twice:
        raise OutOfRange("header", twice[0], "each column once", "Remove one of the two.")
    for needed in ("item", "name"):
        if needed not in header:
            raise OutOfRange("header", "(missing)", f"a column {needed}", f"Add {needed}.")


def _parse(line: int, header: Sequence[str], cells: Sequence[str]) -> Parsed:
    filled = {key: cell.strip() for key, cell in zip(header, cells, strict=False) if cell.strip()}
    kind, name = filled.pop("item", ""), filled.get("name", "")
    if len(cells) != len(header):
        problem = OutOfRange(
            "row", f"{len(cells)} cells", f"{len(header)} cells", "Quote cells holding commas."
        ).problem()
        return _refused(line, kind, name, [problem])
    model = MODELS.get(kind)
    if model is None:
        problem = OutOfRange("item", kind, ", ".join(MODELS), "Say what this row is.").problem()
        return _refused(line, kind, name, [problem])
    try:
        item = model.model_validate(filled)
    except ValidationError as error:
        return _refused(line, kind, name, field_problems(error.errors()))
    return Parsed.model_construct(line=line, item=kind, name=name, model=item, problems=[])


def _refused(line: int, kind: str, name: str, problems: list[FieldProblem]) -> Parsed:
    return Parsed(line=line, item=shown(kind), name=shown(name), model=None, problems=problems)


def _refuse_repeats(parsed: list[Parsed]) -> list[Parsed]:
    """Refuse the second of two rows with one kind and name: which one is meant is unknown."""
    seen: dict[tuple[str, str], int] = {}
    result = []
    for one in parsed:
        key = (one.item, one.name.casefold())
        first = seen.setdefault(key, one.line)
        if one.model is not None and first != one.line:
            problem = OutOfRange(
                "name", one.name, "a name used once", f"Line {first} has it too; rename one."
            ).problem()
            result.append(_refused(one.line, one.item, one.name, [problem]))
        else:
            result.append(one)
    return result
