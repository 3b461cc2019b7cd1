"""The set-up card as a PDF page of A4, its type embedded."""

from typing import TYPE_CHECKING

from jade_perch.core.evening.card import SetupCard
from jade_perch.exchange.sheet import FACE, new_sheet, printable

if TYPE_CHECKING:
    from fpdf import FPDF

LEFT_MM, RIGHT_MM, TOP_MM = 16.0, 194.0, 14.0
BOX_MM = 5.0
COLUMNS_MM = (70.0, 30.0, 34.0, 34.0)


def write_setup_card(card: SetupCard) -> bytes:
    """Return a card as the bytes of a PDF with exactly one page."""
    pdf = new_sheet(card.title)
    pdf.set_margins(LEFT_MM, TOP_MM, LEFT_MM)
    pdf.add_page()
    _head(pdf, card)
    for step in card.steps:
        _step(pdf, step.title, step.words)
    _ladder(pdf, card)
    _line(pdf, card.footer, size=9)
    return bytes(pdf.output())


def _line(pdf: "FPDF", text: str, *, size: float, bold: bool = False, indent_mm: float = 0) -> None:
    pdf.set_font(FACE, "B" if bold else "", size)
    pdf.set_x(LEFT_MM + indent_mm)
    width = RIGHT_MM - LEFT_MM - indent_mm
    pdf.multi_cell(width, size * 0.46, printable(text), new_x="LMARGIN", new_y="NEXT", align="L")


def _head(pdf: "FPDF", card: SetupCard) -> None:
    _line(pdf, card.title, size=24, bold=True)
    _line(pdf, card.subtitle, size=11)
    pdf.ln(3)
    top = pdf.get_y()
    pdf.set_y(top + 2.5)
    _line(pdf, card.caution, size=12, bold=True, indent_mm=4)
    pdf.set_line_width(1.2)
    pdf.rect(LEFT_MM, top, RIGHT_MM - LEFT_MM, pdf.get_y() - top + 2.5)
    pdf.set_line_width(0.3)
    pdf.set_y(pdf.get_y() + 6)


def _step(pdf: "FPDF", title: str, words: str) -> None:
    top = pdf.get_y()
    pdf.rect(LEFT_MM, top + 0.4, BOX_MM, BOX_MM)
    _line(pdf, title, size=13, bold=True, indent_mm=BOX_MM + 3)
    _line(pdf, words, size=11, indent_mm=BOX_MM + 3)
    pdf.ln(2.5)


def _ladder(pdf: "FPDF", card: SetupCard) -> None:
    pdf.ln(1)
    head = ("Eyepiece", "Power", "True field", "Exit pupil")
    for row, bold in [(head, True), *((one, False) for one in card.rungs)]:
        pdf.set_font(FACE, "B" if bold else "", 10.5)
        pdf.set_x(LEFT_MM)
        for width, text in zip(COLUMNS_MM, row, strict=True):
            pdf.cell(width, 5.2, printable(text))
        pdf.ln(5.2)
    pdf.ln(3)
