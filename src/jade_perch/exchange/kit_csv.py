"""The kit as one CSV file: UTF-8, a header row with units, one item a row (RFC 4180)."""

import csv
import io
from collections.abc import Sequence
from typing import Any

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Item
from jade_perch.core.records import (
    MODELS,
    Record,
    read_record,
    record_fields,
    refused_record,
    write_records,
)

COLUMNS = ("item", *dict.fromkeys(field for kind in MODELS for field in record_fields(kind)))
MOST_ROWS = 2000  # far above any kit; a longer file is some other file
MOST_BYTES = 1_000_000  # about five hundred bytes a row


def write_kit(items: Sequence[Item]) -> str:
    """Return the kit as CSV text; reading it back gives the same items."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, COLUMNS, restval="", lineterminator="\r\n")
    writer.writeheader()
    for record in write_records(items):
        writer.writerow({key: _written(value) for key, value in record.items()})
    return out.getvalue()


def read_kit(data: bytes) -> list[Record]:
    """Return every line of a CSV file as a record.

    Raises ``OutOfRange`` when the file as a whole cannot be read: size, encoding, header.
    """
    reader = csv.reader(io.StringIO(decoded(data), newline=""), strict=True)
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
    return [_parse(number, header, cells) for number, cells in lines[1:]]


def decoded(data: bytes) -> str:
    """Return a file's bytes as text; raises ``OutOfRange`` for size and broken UTF-8."""
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


def _written(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return repr(value).removesuffix(".0") if isinstance(value, float) else str(value)


def _check_header(header: Sequence[str]) -> None:
    unknown = [name for name in header if name not in COLUMNS]
    if unknown:
        raise OutOfRange("header", unknown[0], ", ".join(COLUMNS), "Rename or remove the column.")
    twice = [name for name in header if header.count(name) > 1]
    if twice:
        raise OutOfRange("header", twice[0], "each column once", "Remove one of the two.")
    if "item" not in header:
        raise OutOfRange("header", "(missing)", "a column “item”", "Add it: telescope, eyepiece …")


def _parse(line: int, header: Sequence[str], cells: Sequence[str]) -> Record:
    values = {key: cell.strip() for key, cell in zip(header, cells, strict=False)}
    if len(cells) != len(header):
        problem = OutOfRange(
            "row", f"{len(cells)} cells", f"{len(header)} cells", "Quote cells holding commas."
        ).problem()
        return refused_record(line, values.get("item", ""), values.get("name", ""), [problem])
    return read_record(line, values)
