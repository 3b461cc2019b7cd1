"""The kit as one JSON document with a published schema."""

import json
from collections.abc import Sequence
from typing import Any

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import NOT_WRITTEN, Item
from jade_perch.core.records import MODELS, REFERENCES, Record, read_record, write_records
from jade_perch.exchange.kit_csv import MOST_ROWS, decoded

FORMAT, VERSION = "jade-perch-kit", 1


def write_kit_json(items: Sequence[Item]) -> str:
    """Return the kit as a JSON document; reading it back gives the same items."""
    records = [
        {key: value for key, value in record.items() if value is not None}
        for record in write_records(items)
    ]
    document = {"format": FORMAT, "version": VERSION, "items": records}
    return json.dumps(document, indent=2, ensure_ascii=False) + "\n"


def read_kit_json(data: bytes) -> list[Record]:
    """Return every item of a JSON document as a record; places count from 1.

    Raises ``OutOfRange`` when the document as a whole cannot be read.
    """
    try:
        document = json.loads(decoded(data), parse_constant=str)
    except (json.JSONDecodeError, RecursionError) as error:
        raise OutOfRange("file", str(error), "a JSON document", "Mend the file.") from error
    marks = (document.get("format"), document.get("version")) if _is_object(document) else None
    if marks != (FORMAT, VERSION):
        raise OutOfRange("format", marks, f"{FORMAT} version {VERSION}", "Choose a kit file.")
    items = document.get("items")
    if not isinstance(items, list) or not all(_is_object(item) for item in items):
        raise OutOfRange("items", type(items).__name__, "a list of objects", "Mend the file.")
    if len(items) > MOST_ROWS:
        raise OutOfRange("items", f"{len(items)}", f"up to {MOST_ROWS}", "Split the file.")
    return [read_record(place, item) for place, item in enumerate(items, 1)]


def _is_object(value: object) -> bool:
    return isinstance(value, dict)


def kit_schema() -> dict[str, Any]:
    """Return the JSON Schema of the document, from the models themselves."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Jade Perch kit",
        "type": "object",
        "required": ["format", "version", "items"],
        "properties": {
            "format": {"const": FORMAT},
            "version": {"const": VERSION},
            "items": {"type": "array", "maxItems": MOST_ROWS, "items": {"oneOf": _kinds()}},
        },
    }


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
