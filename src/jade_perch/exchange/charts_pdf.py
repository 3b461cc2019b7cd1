"""Round charts on paper: the way to a target, and the view through the start glass."""

from math import cos, hypot, pi, radians, sin
from typing import TYPE_CHECKING

from jade_perch.core.evening.disc import DiscBody, DiscObject, DiscStar
from jade_perch.core.evening.finding import Chart
from jade_perch.core.evening.view import Disc
from jade_perch.exchange.sheet import FACE, Point, Style, printable

if TYPE_CHECKING:
    from fpdf import FPDF

GREY = 205  # of a glow on paper; a torch's page has none
LEAST_BODY_MM = 0.5
CURVE = 24  # points of half a limb


def draw_chart(
    pdf: "FPDF", middle: Point, radius: float, chart: Chart, start: str, style: Style
) -> None:
    """Draw a chart of the way: stars, the star one starts from by name, a ring at the target."""
    with pdf.round_clip(middle[0] - radius, middle[1] - radius, 2 * radius):
        _stars(pdf, middle, radius, chart.stars, style, bright=1.25, fade=0.17)
        _way(pdf, middle, radius, chart, style)
    _ring(pdf, middle, radius, style)
    is_inside = hypot(chart.start_x, chart.start_y) < 0.92
    if is_inside:
        at = _on(middle, radius, chart.start_x, chart.start_y)
        _name(pdf, middle, radius, at, start, style)


def draw_disc(pdf: "FPDF", middle: Point, radius: float, disc: Disc, style: Style) -> None:
    """Draw what stands in the field of the start glass, with north and west at its edge."""
    with pdf.round_clip(middle[0] - radius, middle[1] - radius, 2 * radius):
        for thing in disc.objects:
            _object(pdf, middle, radius, thing, style)
        _stars(pdf, middle, radius, disc.stars, style, bright=1.0, fade=0.085)
        for body in disc.bodies:
            _body(pdf, middle, radius, body, style)
    _ring(pdf, middle, radius, style)
    for letter, angle in (("N", disc.north_deg), ("W", disc.west_deg)):
        x, y = _on(middle, radius, 0.86 * cos(radians(angle)), 0.86 * sin(radians(angle)))
        _letters(pdf, (x, y), letter, style.points(8))


def _on(middle: Point, radius: float, x: float, y: float) -> Point:
    return middle[0] + x * radius, middle[1] - y * radius


def _ring(pdf: "FPDF", middle: Point, radius: float, style: Style) -> None:
    pdf.set_draw_color(0)
    pdf.set_line_width(style.stroke_mm(0.5))
    pdf.circle(middle[0], middle[1], radius)


def _stars(
    pdf: "FPDF",
    middle: Point,
    radius: float,
    stars: list[DiscStar],
    style: Style,
    *,
    bright: float,
    fade: float,
) -> None:
    """Draw stars as dots, larger where brighter, in mm for a chart of 19 mm."""
    pdf.set_fill_color(0)
    least = 0.3 if style.for_torch else 0.2
    for star in stars:
        size = max(least, bright - fade * star.mag) * radius / 19
        x, y = _on(middle, radius, star.x, star.y)
        pdf.circle(x, y, size, style="F")


def _way(pdf: "FPDF", middle: Point, radius: float, chart: Chart, style: Style) -> None:
    start = _on(middle, radius, chart.start_x, chart.start_y)
    goal = _on(middle, radius, chart.target_x, chart.target_y)
    ring = 0.09 * radius
    pdf.set_draw_color(0)
    pdf.set_line_width(style.stroke_mm(0.45))
    pdf.circle(goal[0], goal[1], ring)
    length = hypot(goal[0] - start[0], goal[1] - start[1])
    if length > 3 * ring:
        step = ((goal[0] - start[0]) / length, (goal[1] - start[1]) / length)
        pdf.set_line_width(style.stroke_mm(0.3))
        with pdf.local_context():
            pdf.set_dash_pattern(dash=1.2, gap=0.9)
            pdf.line(
                start[0] + 1.4 * ring * step[0],
                start[1] + 1.4 * ring * step[1],
                goal[0] - ring * step[0],
                goal[1] - ring * step[1],
            )


def _name(pdf: "FPDF", middle: Point, radius: float, at: Point, words: str, style: Style) -> None:
    """Write a star's name under it, or over it near the lower edge, inside the chart's square."""
    down = 0.26 * radius if at[1] < middle[1] + 0.6 * radius else -0.26 * radius
    points = style.points(8)
    pdf.set_font(FACE, "B", points)
    half = pdf.get_string_width(printable(words)) / 2
    x = min(max(at[0], middle[0] - radius + half), middle[0] + radius - half)
    _letters(pdf, (x, at[1] + down), words, points)


def _letters(pdf: "FPDF", at: Point, words: str, points: float) -> None:
    """Write a word around a place, white behind it so that it reads over stars."""
    pdf.set_font(FACE, "B", points)
    text = printable(words)
    width, height = pdf.get_string_width(text) + 0.8, points * 0.36
    pdf.set_fill_color(255)
    pdf.rect(at[0] - width / 2, at[1] - height / 2, width, height, style="F")
    pdf.set_xy(at[0] - width / 2, at[1] - height / 2)
    pdf.cell(width, height, text, align="C")


def _object(pdf: "FPDF", middle: Point, radius: float, thing: DiscObject, style: Style) -> None:
    x, y = _on(middle, radius, thing.x, thing.y)
    across, high = max(0.5, thing.major * radius), max(0.5, thing.minor * radius)
    is_glow = thing.shape != "cluster"
    pdf.set_draw_color(0)
    pdf.set_line_width(style.stroke_mm(0.45 if thing.is_target else 0.25))
    with pdf.local_context(), pdf.rotation(thing.angle_deg, x, y):
        if not is_glow:
            pdf.set_dash_pattern(dash=0.8, gap=0.8)
        fill = is_glow and not style.for_torch
        pdf.set_fill_color(GREY if fill else 255)
        pdf.ellipse(x - across, y - high, 2 * across, 2 * high, style="DF" if fill else "D")


def _body(pdf: "FPDF", middle: Point, radius: float, body: DiscBody, style: Style) -> None:
    x, y = _on(middle, radius, body.x, body.y)
    size = max(LEAST_BODY_MM, body.radius * radius)
    pdf.set_draw_color(0)
    pdf.set_line_width(style.stroke_mm(0.35))
    pdf.set_fill_color(0)
    if body.pole_deg is None:
        pdf.circle(x, y, size)
        pdf.polygon(_unlit((x, y), size, body), style="F")
    else:
        _planet(pdf, (x, y), size, body)
    for moon in body.moons:
        at = _on(middle, radius, moon.x, moon.y)
        pdf.circle(at[0], at[1], 0.3, style="F")


def _planet(pdf: "FPDF", at: Point, size: float, body: DiscBody) -> None:
    x, y = at
    high = size * body.polar_share
    pole = body.pole_deg or 90.0
    with pdf.rotation(pole - 90, x, y):
        pdf.ellipse(x - size, y - high, 2 * size, 2 * high, style="F")
        if body.ring_outer is not None and body.ring_tilt_deg is not None:
            out = body.ring_outer * size
            flat = out * abs(sin(radians(body.ring_tilt_deg)))
            pdf.ellipse(x - out, y - flat, 2 * out, 2 * flat)


def _unlit(at: Point, size: float, body: DiscBody) -> list[Point]:
    """Return the outline of the part of a disc that the Sun does not light."""
    bulge = (1 - 2 * body.lit) * size
    turn = radians(body.bright_limb_deg)
    angles = [pi / 2 + pi * n / CURVE for n in range(CURVE + 1)]
    limb = [(size * cos(one), size * sin(one)) for one in angles]
    edge = [(bulge * cos(one), size * sin(one)) for one in reversed([a - pi for a in angles])]
    return [
        (at[0] + x * cos(turn) - y * sin(turn), at[1] - (x * sin(turn) + y * cos(turn)))
        for x, y in [*limb, *edge]
    ]
