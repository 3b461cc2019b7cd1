"""The kit as one JSON document with a published schema."""

from collections.abc import Sequence
from typing import Any

from jade_perch.core.fields import NOT_WRITTEN, Item
from jade_perch.core.records import MODELS, REFERENCES, Record, read_record, write_records
from jade_perch.exchange.kit_csv import KIT_FILE, MOST_ROWS
from jade_perch.exchange.tables import document_schema, read_document, write_document

MARK = ("jade-perch-kit", 1)


def write_kit_json(items: Sequence[Item]) -> str:
    """Return the kit as a JSON document; reading it back gives the same items."""
    records = [
        {key: value for key, value in record.items() if value is not None}
        for record in write_records(items)
    ]
    return write_document(MARK, "items", records)


def read_kit_json(data: bytes) -> list[Record]:
    """Return every item of a JSON document as a record; places count from 1.

    Raises ``OutOfRange`` when the document as a whole cannot be read.
    """
    rows = read_document(data, MARK, "items", MOST_ROWS, KIT_FILE)
    return [read_record(row.line, row.values) for row in rows]


def kit_schema() -> dict[str, Any]:
    """Return the JSON Schema of the document, from the models themselves."""
    return document_schema("Jade Perch kit", MARK, "items", MOST_ROWS, {"oneOf": _kinds()})


def _kinds() -> list[dict[str, Any]]:
    return [_kind_schema(kind, model) for kind, model in MODELS.items()]


def _kind_schema(kind: str, model: type[Item]) -> dict[str, Any]:
    schema = model.model_json_schema()
    properties = {"item": {"const": kind}}
    for field, described in schema["properties"].items():
        if field in REFERENCES:
            properties[REFERENCES[field][0]] = {"type": "string"}
        elif field not in NOT_WRITTEN:
            properties[field] = described
    required = [
        REFERENCES[field][0] if field in REFERENCES else field
        for field in schema.get("required", [])
    ]
    return {
        "title": model.__name__,
        "description": (model.__doc__ or "").split("\n", 1)[0],
        "type": "object",
        "properties": properties,
        "required": ["item", *required],
        "additionalProperties": False,
    }
