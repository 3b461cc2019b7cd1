"""A list's log on paper and as CSV, in the columns award programmes ask for."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING

from jade_perch.core.evening.sketch import REACH, Sketch
from jade_perch.core.journal.award import NOT_YET, AwardLog, LogRow
from jade_perch.exchange.sheet import (
    Letters,
    Style,
    line_mm,
    lines_of,
    new_sheet,
    write,
)
from jade_perch.exchange.tables import write_table

if TYPE_CHECKING:
    from fpdf import FPDF

COLUMNS = (
    "number", "object", "date", "time", "place", "position", "telescope", "power", "sky",
    "steadiness", "observer", "description",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class _Column:
    title: str
    width_mm: float
    fields: tuple[str, ...]


# Fields that belong together share a column: each has a line of its own in it.
PAPER: tuple[_Column, ...] = (
    _Column("No.", 11, ("number",)),
    _Column("Object", 38, ("object",)),
    _Column("When", 27, ("date", "time")),
    _Column("Where", 40, ("place", "position")),
    _Column("With", 42, ("telescope", "power")),
    _Column("Sky · steadiness", 27, ("sky", "steadiness")),
    _Column("What was seen", 62, ("description", "observer")),
)
SKETCH_MM = 22.0
GAP_MM = 2.0
ROW_LETTERS = Letters(8.5, most_lines=38)  # of a page's 45: the longest note there is ends in dots
HEAD_LETTERS = Letters(8.5, bold=True)
MARGIN_MM = 12.0
PENCIL_MM = {"fine": 0.15, "soft": 0.3, "broad": 0.6}


def write_log_csv(log: AwardLog) -> str:
    """Return a log as CSV; open entries are rows with their number and name alone."""
    return "".join(log_lines({name: getattr(row, name) for name in COLUMNS} for row in log.rows))


def log_lines(rows: Iterable[Mapping[str, str]]) -> Iterator[str]:
    """Yield rows of a log, by column, as lines of CSV, the header first."""
    return write_table(COLUMNS, rows)


def write_log_pdf(log: AwardLog, *, with_sketches: bool) -> bytes:
    """Return a log on A4 lying down, one row an entry, the header on every page."""
    pdf = new_sheet(log.title, is_lying=True)
    paper = Style("A4", for_torch=False)
    bottom_mm = paper.width_mm - MARGIN_MM - 6  # the sheet lies: its width is its height
    y = _page(pdf, log, paper)
    for row in log.rows:
        cells = [_cell(pdf, row, column) for column in PAPER]
        has_sketch = with_sketches and bool(row.sketch)
        height = max(len(cell) for cell in cells) * line_mm(ROW_LETTERS) + GAP_MM
        height = max(height, SKETCH_MM + GAP_MM if has_sketch else 0.0)
        if y + height > bottom_mm:
            y = _page(pdf, log, paper)
        _row(pdf, y, cells, row.is_open)
        if has_sketch:
            x = MARGIN_MM + sum(column.width_mm for column in PAPER) + SKETCH_MM / 2 + 1
            _sketch(pdf, row.sketch, (x, y + SKETCH_MM / 2))
        y += height
        pdf.set_draw_color(200)
        pdf.set_line_width(0.1)
        pdf.line(MARGIN_MM, y - GAP_MM / 2, paper.height_mm - MARGIN_MM, y - GAP_MM / 2)
    return bytes(pdf.output())


def _cell(pdf: "FPDF", row: LogRow, column: _Column) -> list[str]:
    """Return the lines of one cell: each field of its own, an open entry says so once."""
    if row.is_open and column.fields[0] == "description":
        return [NOT_YET]
    texts = [getattr(row, name) for name in column.fields if getattr(row, name)]
    width = column.width_mm - GAP_MM
    lines = [line for text in texts for line in lines_of(pdf, width, text, ROW_LETTERS)]
    return lines[: ROW_LETTERS.most_lines]


def _row(pdf: "FPDF", y: float, cells: list[list[str]], is_open: bool) -> None:
    pdf.set_text_color(130 if is_open else 0)
    x = MARGIN_MM
    for column, lines in zip(PAPER, cells, strict=True):
        at = y
        for line in lines:
            at = write(pdf, (x, at), column.width_mm + 4, line, ROW_LETTERS)
        x += column.width_mm
    pdf.set_text_color(0)


def _page(pdf: "FPDF", log: AwardLog, paper: Style) -> float:
    """Begin a page with its heading; returns where its rows begin."""
    pdf.add_page()
    number = pdf.page_no()
    y = write(pdf, (MARGIN_MM, MARGIN_MM), 180, log.title, Letters(15, bold=True))
    write(
        pdf,
        (paper.height_mm - MARGIN_MM - 130, MARGIN_MM + 1.5),
        130,
        f"{log.words} Page {number}",
        Letters(8.5, align="R"),
    )
    y += 2
    x = MARGIN_MM
    for column in PAPER:
        write(pdf, (x, y), column.width_mm, column.title, HEAD_LETTERS)
        x += column.width_mm
    y += line_mm(HEAD_LETTERS) + 1
    pdf.set_draw_color(0)
    pdf.set_line_width(0.3)
    pdf.line(MARGIN_MM, y, paper.height_mm - MARGIN_MM, y)
    return y + GAP_MM


def _sketch(pdf: "FPDF", sketch: Sketch, middle: tuple[float, float]) -> None:
    """Draw a sketch in its round field, as it was drawn, black on white."""
    x, y = middle
    radius = SKETCH_MM / 2
    pdf.set_draw_color(0)
    pdf.set_line_width(0.2)
    pdf.ellipse(x - radius, y - radius, 2 * radius, 2 * radius)
    for stroke in sketch:
        pdf.set_line_width(PENCIL_MM[stroke.pencil])
        places = [
            (x + right / REACH * radius, y - up / REACH * radius)
            for right, up in zip(stroke.points[::2], stroke.points[1::2], strict=True)
        ]
        if len(places) == 1:
            places *= 2
        pdf.polyline(places)
