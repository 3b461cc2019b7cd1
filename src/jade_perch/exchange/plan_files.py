"""A plan as CSV, as a JSON document with a schema, and as iCalendar (RFC 5545)."""

import csv
import io
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime
from functools import partial
from typing import Any

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.plan import MOST_ITEMS, SKIPPED, Block, Plan, PlanItem
from jade_perch.core.fields import NOT_WRITTEN
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.night import Night, require_inside
from jade_perch.exchange.ics import Entry, write_events
from jade_perch.exchange.tables import (
    FileReport,
    FileRow,
    FileType,
    defused,
    document_schema,
    file_report,
    file_row,
    read_document,
    read_table,
    tried,
    write_document,
)

PLAN_FILE = "plan file"
MARK = ("jade-perch-plan", 1)
COLUMNS = (
    "starts_utc", "ends_utc", "minutes", "kind", "target_key", "target", "glass", "word",
    "is_pinned", "why_left_out",
)  # fmt: skip
LEFT_OUT = (*NOT_WRITTEN, "evening_id")


def _at(moment: datetime) -> str:
    return moment.strftime("%Y-%m-%dT%H:%MZ")


def write_plan_csv(plan: Plan) -> str:
    """Return the plan as CSV text: its blocks in order, then what was left out and why."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, COLUMNS, restval="", lineterminator="\r\n")
    writer.writeheader()
    for block in plan.blocks:
        writer.writerow(
            {
                "starts_utc": _at(block.starts_utc),
                "ends_utc": _at(block.ends_utc),
                "minutes": block.minutes,
                "kind": block.kind,
                "target_key": block.target_key or "",
                "target": defused(block.label),
                "glass": defused(block.rung_label),
                "word": block.word or "",
                "is_pinned": "yes" if block.is_pinned else "no",
            }
        )
    for one in plan.left_out:
        writer.writerow(
            {"kind": "left out", "target_key": one.target_key, "target": one.label,
             "why_left_out": one.why}
        )  # fmt: skip
    return out.getvalue()


def write_plan_json(plan: Plan, items: list[PlanItem], site: Site, date: str) -> str:
    """Return the plan as a JSON document: the wishes, and the order made of them."""
    wishes = [one.model_dump(mode="json", exclude=set(LEFT_OUT)) for one in items]
    return write_document(
        MARK, "wishes", wishes, date=date, place=site.name, plan=plan.model_dump(mode="json")
    )


@dataclass(frozen=True, slots=True)
class ReadPlan:
    """The wishes of a file that could be read, and its report."""

    report: FileReport
    items: tuple[PlanItem, ...]


def read_plan(data: bytes, file_type: FileType, catalogue: Catalogue, night: Night) -> ReadPlan:
    """Return the wishes of a plan file for a night, with a report of each row.

    Raises ``OutOfRange`` when the file as a whole cannot be read.
    """
    if file_type == "json":
        rows = read_document(data, MARK, "wishes", MOST_ITEMS, PLAN_FILE)
    else:
        table = read_table(data, COLUMNS, "target_key", 3 * MOST_ITEMS, PLAN_FILE)
        rows = [
            replace(row, values=_wish_of(row.values))
            for row in table
            if row.problem or row.values["target_key"]
        ]
    told: list[FileRow] = []
    items: dict[str, PlanItem] = {}
    for row in rows:
        problems = [row.problem] if row.problem else []
        read = partial(_item, row.values, catalogue, night)
        item = None if problems else tried(read, problems)
        if item is not None and item.target_key in items:
            again = OutOfRange("target_key", item.target_key, "each target once", "Keep one row.")
            problems.append(again.problem())
        elif item is not None:
            items[item.target_key] = item
        named = str(row.values.get("target_key", ""))
        told.append(file_row(row.line, named, "is wished for", problems))
    if not told:
        raise OutOfRange("file", "no targets", "at least one target", "Choose another file.")
    words = f"{len(items)} targets for this evening; those planned already take these minutes."
    return ReadPlan(file_report(told, len(items), words), tuple(items.values()))


def _wish_of(row: Mapping[str, str]) -> dict[str, Any]:
    """Return a line of the CSV as the wish it was made of."""
    wish: dict[str, Any] = {"target_key": row.get("target_key", "")}
    if row.get("minutes"):
        wish["minutes"] = row["minutes"]
    if row.get("is_pinned") == "yes":
        wish["pinned_utc"] = row.get("starts_utc")
    if row.get("why_left_out") == SKIPPED:
        wish["is_skipped"] = True
    return wish


def _item(values: Mapping[str, Any], catalogue: Catalogue, night: Night) -> PlanItem:
    own = {name: value for name, value in values.items() if name not in LEFT_OUT}
    item = PlanItem.model_validate(own)
    if item.pinned_utc is not None:
        require_inside(night, item.pinned_utc)
    return item.model_copy(update={"target_key": catalogue.get(item.target_key).key})


def plan_schema() -> dict[str, Any]:
    """Return the JSON Schema of the document, from the models themselves."""
    wish = PlanItem.model_json_schema()
    wish["properties"] = {k: v for k, v in wish["properties"].items() if k not in LEFT_OUT}
    schema = document_schema("Jade Perch plan", MARK, "wishes", MOST_ITEMS, wish)
    plan = Plan.model_json_schema(mode="serialization", ref_template="#/$defs/{model}")
    schema["$defs"] = plan.pop("$defs")
    schema["properties"] |= {
        "date": {"type": "string", "format": "date"},
        "place": {"type": "string"},
        "plan": plan,
    }
    return schema


def write_plan_ics(plan: Plan, site: Site, now_utc: datetime) -> bytes:
    """Return each block of the plan as an event at its place."""
    return write_events(map(_entry, plan.blocks), site, now_utc)


def _entry(block: Block) -> Entry:
    name = f"{block.target_key or block.kind}-{block.starts_utc:%Y%m%d%H%M}"
    said = ", ".join(part for part in (block.rung_label, block.word) if part)
    return Entry(name, block.starts_utc, block.ends_utc, block.label, said)
