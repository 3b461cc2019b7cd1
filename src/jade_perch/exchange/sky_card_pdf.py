"""The whole sky of an hour as one printed page."""

from math import hypot
from typing import TYPE_CHECKING

from jade_perch.core.evening.skycard import SkyCard, SkyDot
from jade_perch.exchange.sheet import (
    FACE,
    LEADING,
    POINT_MM,
    Letters,
    Point,
    Style,
    new_sheet,
    printable,
    write,
)

if TYPE_CHECKING:
    from fpdf import FPDF

Box = tuple[float, float, float, float]
COLUMNS = 3  # of the plan under the map
ROOF_GREY = 225  # a torch's page has an outline instead
SIDES = (("North", 0, 1), ("East", -1, 0), ("South", 0, -1), ("West", 1, 0))


def write_sky_card(card: SkyCard, style: Style) -> bytes:
    """Return the map as the bytes of a PDF with exactly one page."""
    pdf = new_sheet(card.title, style.paper)
    pdf.add_page()
    left, width = style.margin_mm, style.width_mm - 2 * style.margin_mm
    y = write(pdf, (left, style.margin_mm), width, card.title, Letters(style.points(24), bold=True))
    y = write(pdf, (left, y), width, card.subtitle, Letters(style.points(13)))
    radius = width / 2 - style.points(4)
    middle = (style.width_mm / 2, y + radius + style.points(6))
    _map(pdf, middle, radius, card, style)
    words = (left, middle[1] + radius + style.points(6))
    y = write(pdf, words, width, card.words, Letters(style.points(11.5)))
    _planned(pdf, card, (left, y + style.points(0.8)), width, style)
    return bytes(pdf.output())


def _planned(pdf: "FPDF", card: SkyCard, at: Point, width: float, style: Style) -> None:
    """Write the plan's times in columns, as many lines as the page has left."""
    letters = Letters(style.points(11.5), most_lines=1)
    step = letters.points * POINT_MM * LEADING
    room = int((style.height_mm - style.margin_mm - at[1]) / step)
    lines = max(1, min(room, -(-len(card.planned) // COLUMNS)))
    for number, words in enumerate(card.planned[: lines * COLUMNS]):
        column, line = divmod(number, lines)
        place = (at[0] + column * width / COLUMNS, at[1] + line * step)
        write(pdf, place, width / COLUMNS - 2, words, letters)


def _map(pdf: "FPDF", middle: Point, radius: float, card: SkyCard, style: Style) -> None:
    def at(x: float, y: float) -> Point:
        return middle[0] + x * radius, middle[1] - y * radius

    pdf.set_draw_color(0)
    pdf.set_line_width(style.stroke_mm(0.5))
    pdf.set_fill_color(255 if style.for_torch else ROOF_GREY)
    pdf.circle(*middle, radius, style="DF")
    pdf.set_fill_color(255)
    pdf.set_line_width(style.stroke_mm(0.3))
    pdf.polygon([at(*point) for point in card.skyline], style="DF")
    pdf.set_fill_color(0)
    least = 0.32 if style.for_torch else 0.18
    for star in card.stars:
        pdf.circle(*at(star.x, star.y), max(least, 1.25 - 0.24 * star.mag) * radius / 93, style="F")
    size = radius / 93
    labels = _Labels(middle, radius)
    for dot, half in [*((one, 2.0) for one in card.bodies), *((one, 1.3) for one in card.targets)]:
        labels.keep(at(dot.x, dot.y), half * size)
    for body in card.bodies:
        pdf.set_line_width(style.stroke_mm(0.5))
        pdf.circle(*at(body.x, body.y), 2.0 * size)
        labels.write(pdf, at(body.x, body.y), 3.2 * size, body, style.points(12))
    for target in card.targets:
        x, y = at(target.x, target.y)
        pdf.set_line_width(style.stroke_mm(0.35))
        pdf.rect(x - 1.3 * size, y - 1.3 * size, 2.6 * size, 2.6 * size)
        labels.write(pdf, (x, y), 2.4 * size, target, style.points(10))
    told = {one.label for one in card.targets}
    for star in (one for one in card.named if one.label not in told):
        labels.write(pdf, at(star.x, star.y), 2.2 * size, star, style.points(9), is_star=True)
    for word, x, y in SIDES:
        _side(pdf, at(1.045 * x, 1.045 * y), word, style)


class _Labels:
    """Words beside dots, none over another and all inside the map."""

    def __init__(self, middle: Point, radius: float) -> None:
        self.middle, self.radius = middle, radius
        self.taken: list[Box] = []

    def keep(self, at: Point, half: float) -> None:
        """Keep the room of a mark free."""
        self.taken.append((at[0] - half, at[1] - half, at[0] + half, at[1] + half))

    def write(
        self, pdf: "FPDF", at: Point, away: float, dot: SkyDot, points: float, *,
        is_star: bool = False,
    ) -> None:  # fmt: skip
        """Write a word where there is room; a star without room has none."""
        pdf.set_font(FACE, "" if is_star else "B", points)
        text = printable(dot.label)
        width, height = pdf.get_string_width(text) + 0.6, points * 0.38
        x, y = at
        places = [
            (x + away, y - height / 2),
            (x - away - width, y - height / 2),
            (x - width / 2, y + away * 0.7),
            (x - width / 2, y - away * 0.7 - height),
            (x + away * 0.6, y + away * 0.5),
            (x + away * 0.6, y - away * 0.5 - height),
            (x - away * 0.6 - width, y + away * 0.5),
            (x - away * 0.6 - width, y - away * 0.5 - height),
        ]
        boxes: list[Box] = [(left, top, left + width, top + height) for left, top in places]
        inside = [box for box in boxes if self._is_inside(box)]
        free = [box for box in inside if not any(_overlap(box, other) for other in self.taken)]
        if not free and is_star:
            return
        box = (free or inside or boxes)[0]
        self.taken.append(box)
        pdf.set_xy(box[0], box[1])
        pdf.cell(width, height, text)

    def _is_inside(self, box: Box) -> bool:
        corners = ((box[0], box[1]), (box[2], box[1]), (box[0], box[3]), (box[2], box[3]))
        return all(hypot(x - self.middle[0], y - self.middle[1]) <= self.radius for x, y in corners)


def _overlap(one: Box, other: Box) -> bool:
    return one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]


def _side(pdf: "FPDF", at: Point, word: str, style: Style) -> None:
    points = style.points(12)
    pdf.set_font(FACE, "B", points)
    width, height = pdf.get_string_width(word) + 1, points * 0.4
    turned = {"East": 90, "West": -90}.get(word, 0)
    with pdf.rotation(turned, *at):
        pdf.set_xy(at[0] - width / 2, at[1] - height / 2)
        pdf.cell(width, height, word, align="C")
