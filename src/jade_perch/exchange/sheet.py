"""What printed pages share: paper sizes, the embedded type, strokes and words."""

from dataclasses import dataclass
from datetime import UTC, datetime
from importlib.resources import as_file, files
from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    from fpdf import FPDF

FONTS = files("jade_perch.exchange") / "data"
FACE = "card"
MISSING = {"′": "'", "″": '"', "Δ": "d", "→": ">", "−": "-", "½": "1/2"}
FIXED_DATE = datetime(2027, 1, 1, tzinfo=UTC)  # so that the same card is the same file
PaperSize = Literal["A4", "A5"]
SIZES_MM: dict[PaperSize, tuple[float, float]] = {"A4": (210.0, 297.0), "A5": (148.0, 210.0)}
MARGIN_MM: dict[PaperSize, float] = {"A4": 12.0, "A5": 8.0}
LETTERS: dict[PaperSize, float] = {"A4": 1.0, "A5": 0.78}  # of the sizes named for A4
BOLDER, LARGER = 1.9, 1.12  # strokes and letters of what a red torch lights
POINT_MM = 25.4 / 72
LEADING = 1.22  # of the letters' size, from line to line
Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Style:
    """How a page is printed.

    ``for_torch`` is to be read by a red torch: all black, no grey and no thin line, larger and
    bolder, since dim red light shows neither colour nor grey.
    """

    paper: PaperSize
    for_torch: bool

    @property
    def width_mm(self) -> float:
        return SIZES_MM[self.paper][0]

    @property
    def height_mm(self) -> float:
        return SIZES_MM[self.paper][1]

    @property
    def margin_mm(self) -> float:
        return MARGIN_MM[self.paper]

    def points(self, size: float) -> float:
        """Return the size of letters for one named for A4, in points."""
        return size * LETTERS[self.paper] * (LARGER if self.for_torch else 1.0)

    def stroke_mm(self, width: float) -> float:
        """Return the width of a line for one named for plain paper, in mm."""
        return width * LETTERS[self.paper] * (BOLDER if self.for_torch else 1.0)


def new_sheet(title: str, paper: PaperSize = "A4", *, is_lying: bool = False) -> "FPDF":
    """Return an empty document of a paper size, its type embedded, breaks left to the caller."""
    from fpdf import FPDF  # a third of a second: taken when first printed, not at every start

    pdf = FPDF("landscape" if is_lying else "portrait", format=SIZES_MM[paper])
    pdf.set_creation_date(FIXED_DATE)
    pdf.set_title(printable(title))
    pdf.set_auto_page_break(False)
    for style, name in (("", "card-regular.ttf"), ("B", "card-bold.ttf")):
        with as_file(FONTS / name) as path:
            pdf.add_font(FACE, style, path)
    return pdf


def printable(text: str) -> str:
    """Return text in the letters the type has."""
    for sign, plain in MISSING.items():
        text = text.replace(sign, plain)
    return text


@dataclass(frozen=True, slots=True)
class Letters:
    """How words are set; lines beyond ``most_lines`` end in an ellipsis."""

    points: float
    bold: bool = False
    align: Literal["L", "C", "R"] = "L"
    most_lines: int = 40


def line_mm(letters: Letters) -> float:
    """Return from line to line, in mm."""
    return letters.points * POINT_MM * LEADING


def lines_of(pdf: "FPDF", width_mm: float, text: str, letters: Letters) -> list[str]:
    """Return words as the lines they take in a column; the last kept one may end in an ellipsis."""
    pdf.set_font(FACE, "B" if letters.bold else "", letters.points)
    found = pdf.multi_cell(
        width_mm, line_mm(letters), printable(text), dry_run=True, output="LINES"
    )
    lines = [str(line) for line in found] if isinstance(found, list) else []
    kept = lines[: letters.most_lines]
    if len(lines) > len(kept):
        kept[-1] = kept[-1].rstrip(" .,;:") + "…"
    return kept


def write(pdf: "FPDF", at: Point, width_mm: float, text: str, letters: Letters) -> float:
    """Write words into a column from a place down; returns where they end, in mm from the top."""
    lines = lines_of(pdf, width_mm, text, letters)
    pdf.set_fill_color(0)
    x, y = at
    for line in lines:
        pdf.set_xy(x, y)
        pdf.cell(width_mm, line_mm(letters), line, align=letters.align)
        y += line_mm(letters)
    return y
