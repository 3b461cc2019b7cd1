"""A list of targets out of a CSV file: one name a row."""

from dataclasses import dataclass

from jade_perch.core.errors import FieldProblem, OutOfRange
from jade_perch.core.fields import NAME_CHARS
from jade_perch.core.journal.lists import MOST_ENTRIES, ListEntry, identity_of, resolved
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.exchange.tables import FileReport, FileRow, csv_lines, file_report, file_row

HEADS = ("name", "object", "target")
LIST_FILE = "list of targets"


@dataclass(frozen=True, slots=True)
class ReadList:
    """What a file gives: its entries, and the report of its rows."""

    entries: tuple[ListEntry, ...]
    report: FileReport


def read_list(data: bytes, catalogue: Catalogue) -> ReadList:
    """Return the entries of a CSV file, from the column "name" or "object", else the first one.

    What the catalogue does not know is kept by its name, and said so; what stands in it twice is
    left out the second time.  Raises ``OutOfRange`` when the file as a whole cannot be read.
    """
    rows: list[FileRow] = []
    entries: dict[str, ListEntry] = {}
    for line, name in _names(data):
        problems = _problems(name)
        if problems:
            rows.append(file_row(line, name[:NAME_CHARS], "", problems))
            continue
        entry = resolved(name, catalogue)
        identity = identity_of(entry)
        if identity in entries:
            rows.append(file_row(line, name, "stands above already; left out here", []))
            continue
        entries[identity] = entry
        rows.append(file_row(line, name, _outcome(entry, catalogue), []))
    if not rows:
        raise OutOfRange("file", "no names", "one name a row", "Choose another file.")
    if len(entries) > MOST_ENTRIES:
        allowed = f"up to {MOST_ENTRIES} entries"
        raise OutOfRange("file", f"{len(entries)} entries", allowed, "Split the list.")
    unknown = sum(one.target_key is None for one in entries.values())
    known = len(entries) - unknown
    words = f"{known} of {len(entries)} entries are in the catalogue."
    if unknown:
        words += (
            f" {unknown} {'is' if unknown == 1 else 'are'} kept by name alone:"
            " no place to look for, and seen when a note has the same name."
        )
    return ReadList(tuple(entries.values()), file_report(rows, len(entries), words))


def _outcome(entry: ListEntry, catalogue: Catalogue) -> str:
    row = None if entry.target_key is None else catalogue.row_of(entry.target_key)
    return "is not in the catalogue; kept by name" if row is None else f"is {catalogue.labels[row]}"


def _names(data: bytes) -> list[tuple[int, str]]:
    """Return line and name of every row that has one."""
    lines = csv_lines(data, LIST_FILE, "one name a row")
    head = [cell.strip().casefold() for cell in lines[0][1]]
    column = next((head.index(name) for name in HEADS if name in head), None)
    if column is not None:
        lines = lines[1:]
    at = column or 0
    return [(number, cells[at].strip() if at < len(cells) else "") for number, cells in lines]


def _problems(name: str) -> list[FieldProblem]:
    if 0 < len(name) <= NAME_CHARS and "\x00" not in name:
        return []
    allowed = f"1 to {NAME_CHARS} characters"
    return [OutOfRange("name", name, allowed, "Shorten or fill in the name.").problem()]
