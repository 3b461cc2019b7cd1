"""The kit as one CSV file: UTF-8, a header row with units, one item a row (RFC 4180)."""

import csv
import io
from collections.abc import Sequence
from typing import Any

from jade_perch.core.fields import Item
from jade_perch.core.records import (
    MODELS,
    Record,
    read_record,
    record_fields,
    refused_record,
    write_records,
)
from jade_perch.exchange.tables import defused, read_table

COLUMNS = ("item", *dict.fromkeys(field for kind in MODELS for field in record_fields(kind)))
MOST_ROWS = 2000  # far above any kit; a longer file is some other file
KIT_FILE = "kit file"


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
    return [
        refused_record(
            row.line, row.values.get("item", ""), row.values.get("name", ""), [row.problem]
        )
        if row.problem
        else read_record(row.line, row.values)
        for row in read_table(data, COLUMNS, "item", MOST_ROWS, KIT_FILE)
    ]


def _written(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, str):
        return defused(value)
    if isinstance(value, bool):
        return "yes" if value else "no"
    return repr(value).removesuffix(".0") if isinstance(value, float) else str(value)
