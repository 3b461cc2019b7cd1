"""CSV files with a header row (RFC 4180, UTF-8), and JSON documents with a format mark."""

import csv
import io
import json
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import islice
from typing import Any, Literal, TypeVar

from pydantic import ValidationError

from jade_perch.core.errors import FieldProblem, OutOfRange, field_problems
from jade_perch.core.fields import Frozen

T = TypeVar("T")
FileType = Literal["csv", "json"]
Mark = tuple[str, int]  # name of a format, and its version
MOST_BYTES = 1_000_000  # about five hundred bytes a row of the longest table


class FileRow(Frozen):
    """One row of a file: what it is for as written there, what becomes of it, what is wrong."""

    line: int
    name: str
    outcome: str
    problems: list[FieldProblem]


class FileReport(Frozen):
    """What reading a file would do, row by row; it is kept only when no row is refused.

    ``taken`` is how many things would be kept.
    """

    rows: list[FileRow]
    taken: int
    refused: int
    words: str
    applied: bool = False


def file_report(rows: Sequence[FileRow], taken: int, words: str) -> FileReport:
    """Return the report of a file; ``words`` hold where no row is refused."""
    refused = sum(bool(one.problems) for one in rows)
    if refused:
        words = f"Nothing can be kept: {refused} of {len(rows)} rows are refused. Mend the file."
    return FileReport(rows=list(rows), taken=taken, refused=refused, words=words)


def file_row(line: int, name: str, outcome: str, problems: list[FieldProblem]) -> FileRow:
    """Return one row of a report; one with problems is refused."""
    said = "is refused" if problems else outcome
    return FileRow(line=line, name=name, outcome=said, problems=problems)


@dataclass(frozen=True, slots=True)
class TableRow:
    """One line by column, or one object of a document by its place from 1.

    ``problem`` where a line's cells do not fit the header.
    """

    line: int
    values: Mapping[str, Any]
    problem: FieldProblem | None = None


def decoded(data: bytes, what: str) -> str:
    """Return a file's bytes as text; raises ``OutOfRange`` for size and broken UTF-8."""
    if len(data) > MOST_BYTES:
        raise OutOfRange(
            "file", f"{len(data)} bytes", f"up to {MOST_BYTES} bytes", f"Choose a {what}."
        )
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = data[: error.start].count(b"\n") + 1
        byte = f"byte 0x{data[error.start]:02x} in line {line}"
        raise OutOfRange("file", byte, "UTF-8 text", "Save the file as UTF-8.") from error


# What a spreadsheet would run, at a cell's beginning; some take the wide forms for the same.
FORMULA = ("=", "+", "-", "@", "\t", "\r", "\n", "＝", "＋", "－", "＠")


def defused(text: str) -> str:
    """Return text for a cell that no spreadsheet runs: an apostrophe before what looks like one.

    ``meant`` gives the text back as it was, whatever it was.
    """
    return f"'{text}" if text.lstrip("'").startswith(FORMULA) else text


def meant(cell: str) -> str:
    """Return the text that a cell stands for, without the apostrophe that defuses it."""
    is_defused = cell.startswith("'") and cell.lstrip("'").startswith(FORMULA)
    return cell[1:] if is_defused else cell


def safe_cells(row: Mapping[str, Any]) -> dict[str, Any]:
    """Return a row with every text defused; numbers stay numbers."""
    return {key: defused(one) if isinstance(one, str) else one for key, one in row.items()}


def csv_lines(data: bytes, what: str, wanted: str) -> list[tuple[int, list[str]]]:
    """Return the cells of every line of a CSV file that is not blank, by the line's number.

    Raises ``OutOfRange`` for size, encoding, broken quotes, and a file with nothing in it, which
    says what is ``wanted``.
    """
    reader = csv.reader(io.StringIO(decoded(data, what), newline=""), strict=True)
    try:
        rows = (list(map(meant, cells)) for cells in reader)
        lines = [(reader.line_num, cells) for cells in rows if any(c.strip() for c in cells)]
    except csv.Error as error:
        raise OutOfRange(
            "file", f"line {reader.line_num}", "RFC 4180 CSV", f"Mend the line: {error}."
        ) from error
    if not lines:
        raise OutOfRange("file", "empty", wanted, "Choose another file.")
    return lines


def read_table(
    data: bytes, columns: Sequence[str], key: str, most_rows: int, what: str
) -> list[TableRow]:
    """Return every line of a CSV file by its columns; ``key`` is the one that may not lack.

    Raises ``OutOfRange`` when the file as a whole cannot be read: size, encoding, header.
    """
    lines = csv_lines(data, what, "a header row and items")
    header = [cell.strip() for cell in lines[0][1]]
    _check_header(header, columns, key)
    if len(lines) - 1 > most_rows:
        raise OutOfRange("file", f"{len(lines) - 1} rows", f"up to {most_rows} rows", "Split it.")
    return [_row(number, header, cells) for number, cells in lines[1:]]


def _check_header(header: Sequence[str], columns: Sequence[str], key: str) -> None:
    unknown = [name for name in header if name not in columns]
    if unknown:
        raise OutOfRange("header", unknown[0], ", ".join(columns), "Rename or remove the column.")
    twice = [name for name in header if header.count(name) > 1]
    if twice:
        raise OutOfRange("header", twice[0], "each column once", "Remove one of the two.")
    if key not in header:
        raise OutOfRange("header", "(missing)", f"a column “{key}”", "Add it to every row.")


def _row(line: int, header: Sequence[str], cells: Sequence[str]) -> TableRow:
    values = {key: cell.strip() for key, cell in zip(header, cells, strict=False)}
    if len(cells) == len(header):
        return TableRow(line, values)
    cure = "Quote cells holding commas."
    problem = OutOfRange("row", f"{len(cells)} cells", f"{len(header)} cells", cure).problem()
    return TableRow(line, values, problem)


def read_document(data: bytes, mark: Mark, items: str, most: int, what: str) -> list[TableRow]:
    """Return the objects in a JSON document of a format and version, each as a row.

    Raises ``OutOfRange`` when the document as a whole cannot be read.
    """
    try:
        document = json.loads(decoded(data, what), parse_constant=str)
    except (ValueError, RecursionError) as error:
        raise OutOfRange("file", str(error), "a JSON document", "Mend the file.") from error
    is_object = isinstance(document, dict)
    marks = (document.get("format"), document.get("version")) if is_object else None
    if marks != mark:
        raise OutOfRange("format", marks, f"{mark[0]} version {mark[1]}", f"Choose a {what}.")
    found = document.get(items)
    if not isinstance(found, list) or not all(isinstance(one, dict) for one in found):
        raise OutOfRange(items, type(found).__name__, "a list of objects", "Mend the file.")
    if len(found) > most:
        raise OutOfRange(items, f"{len(found)}", f"up to {most}", "Split the file.")
    return [TableRow(place, one) for place, one in enumerate(found, 1)]


def tried(read: Callable[[], T], problems: list[FieldProblem]) -> T | None:
    """Return what a row makes, or None with what is wrong of it added to its problems."""
    try:
        return read()
    except ValidationError as error:
        problems.extend(field_problems(error.errors()))
    except OutOfRange as refusal:
        problems.append(refusal.problem())
    return None


LINES_AT_ONCE = 200


def write_table(columns: Sequence[str], rows: Iterable[Mapping[str, str]]) -> Iterator[str]:
    """Yield a CSV file some lines at a time, its header first, every cell defused."""
    out = io.StringIO(newline="")
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(columns)
    left = iter(rows)
    while together := list(islice(left, LINES_AT_ONCE)):
        writer.writerows([defused(row.get(name, "")) for name in columns] for row in together)
        yield out.getvalue()
        out.seek(0)
        out.truncate()
    yield out.getvalue()


def write_document(mark: Mark, items: str, found: Sequence[Any], **more: Any) -> str:
    """Return a JSON document of a format and version."""
    document = {"format": mark[0], "version": mark[1], **more, items: found}
    return json.dumps(document, indent=2, ensure_ascii=False) + "\n"


def document_schema(
    title: str, mark: Mark, items: str, most: int, item: dict[str, Any]
) -> dict[str, Any]:
    """Return the JSON Schema of a document whose items have a schema."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": title,
        "type": "object",
        "required": ["format", "version", items],
        "properties": {
            "format": {"const": mark[0]},
            "version": {"const": mark[1]},
            items: {"type": "array", "maxItems": most, "items": item},
        },
    }
