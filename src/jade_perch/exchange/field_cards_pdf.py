"""Field cards as a PDF: three targets a page, black on white or for a red torch."""

from typing import TYPE_CHECKING

from jade_perch.core.evening.fieldcards import FieldCard, FieldCards
from jade_perch.exchange.charts_pdf import draw_chart, draw_disc
from jade_perch.exchange.sheet import (
    LEADING,
    LETTERS,
    POINT_MM,
    Letters,
    Point,
    Style,
    new_sheet,
    write,
)

if TYPE_CHECKING:
    from fpdf import FPDF

A_PAGE = 3
MOST_CHARTS = 3  # by eye and two finders; a third finder is not carried
NAME_SHARE, CHARTS_SHARE = 0.72, 0.74  # of a card's width
LINE_MM = 7.5  # between the lines for notes on A4
OUTCOMES = "seen · glimpsed · not seen"


def write_field_cards(cards: FieldCards, style: Style) -> bytes:
    """Return the cards as the bytes of a PDF."""
    pdf = new_sheet(cards.title, style.paper)
    pages = -(-len(cards.cards) // A_PAGE)
    for page in range(pages):
        pdf.add_page()
        top, bottom = _frame(pdf, cards, style, f"{page + 1} of {pages}")
        height = (bottom - top) / A_PAGE
        for place, card in enumerate(cards.cards[page * A_PAGE : (page + 1) * A_PAGE]):
            _card(pdf, card, top + place * height, height, style)
    return bytes(pdf.output())


def _frame(pdf: "FPDF", cards: FieldCards, style: Style, page: str) -> tuple[float, float]:
    """Write what stands above and below the cards; returns where they begin and end."""
    left, width = style.margin_mm, style.width_mm - 2 * style.margin_mm
    head = f"{cards.title} · {cards.subtitle}"
    points, above = style.points(11), style.margin_mm - 3
    line = Letters(points, bold=True, most_lines=1)
    top = write(pdf, (left, above), width * 0.8, head, line)
    write(pdf, (left, above), width, page, Letters(points, align="R"))
    foot = style.points(9)
    bottom = style.height_mm - style.margin_mm - foot * POINT_MM
    write(pdf, (left, bottom + 1), width, cards.footer, Letters(foot, most_lines=1))
    return top + 1, bottom


def _card(pdf: "FPDF", card: FieldCard, top: float, height: float, style: Style) -> None:
    left, width = style.margin_mm, style.width_mm - 2 * style.margin_mm
    pdf.set_draw_color(0)
    pdf.set_line_width(style.stroke_mm(0.35))
    pdf.line(left, top, left + width, top)
    name = Letters(style.points(16), bold=True, most_lines=1)
    when = Letters(style.points(13), bold=True, align="R", most_lines=1)
    y = write(pdf, (left, top + 1.2), width * NAME_SHARE, card.label, name)
    column = left + width * NAME_SHARE
    write(pdf, (column, top + 1.6), width * (1 - NAME_SHARE), card.when, when)
    words = f"{card.word} · {card.detail} · {card.glass}"
    y = write(pdf, (left, y), width, words, Letters(style.points(11.5), most_lines=2))
    below = _charts(pdf, card, (left, y + 1.5), width * CHARTS_SHARE, top + height - y - 3, style)
    column = left + width * CHARTS_SHARE + 3
    y = _expect(pdf, card, (column, y + 1.5), left + width - column, style)
    gap = LINE_MM * LETTERS[style.paper]
    pdf.set_line_width(style.stroke_mm(0.2))
    y += gap
    while y <= top + height - 4:
        starts = column if y < below + gap / 2 else left
        pdf.line(starts, y, left + width, y)
        y += gap


def _charts(
    pdf: "FPDF", card: FieldCard, at: Point, width: float, height: float, style: Style
) -> float:
    """Draw the finding path and the view in one row, words under each; returns where it ends."""
    charts = [] if card.path is None else card.path.charts[:MOST_CHARTS]
    count = len(charts) + (card.disc is not None)
    if not count:
        words = "No bright star stands clear then: point by direction and height."
        return write(pdf, at, width, words, Letters(style.points(10.5)))
    points = style.points(8.6)
    words_mm = 7 * points * POINT_MM * LEADING
    cell = width / count
    radius = min(cell / 2 - 1.5, (height - words_mm) / 2)
    start = "" if card.path is None else card.path.start_label
    ends = at[1]
    for place in range(count):
        middle = (at[0] + (place + 0.5) * cell, at[1] + radius)
        if place < len(charts):
            draw_chart(pdf, middle, radius, charts[place], start, style)
            title, words = charts[place].title, charts[place].words
        elif card.disc is not None:
            draw_disc(pdf, middle, radius, card.disc, style)
            title, words = card.start_label, f"field {card.disc.field_deg:.1f}°"
        below = (at[0] + place * cell + 0.5, at[1] + 2 * radius + 0.8)
        y = write(pdf, below, cell - 1, title, Letters(points, bold=True, align="C", most_lines=2))
        y = write(pdf, (below[0], y), cell - 1, words, Letters(points, align="C", most_lines=5))
        ends = max(ends, y)
    return ends


def _expect(pdf: "FPDF", card: FieldCard, at: Point, width: float, style: Style) -> float:
    """Write what to expect and the words to ring; returns where they end."""
    y = write(pdf, at, width, card.expected, Letters(style.points(12), most_lines=6))
    return write(pdf, (at[0], y + 1.5), width, OUTCOMES, Letters(style.points(9), most_lines=2))
