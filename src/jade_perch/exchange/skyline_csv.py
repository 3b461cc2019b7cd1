"""The skyline as CSV: azimuth and altitude in degrees, a point a line, a header or none."""

import csv
import io

from pydantic import ValidationError

from jade_perch.core.errors import OutOfRange
from jade_perch.core.skyline import MOST_POINTS, Skyline, SkylinePoint, ordered

COLUMNS = ("azimuth_deg", "altitude_deg")
SEPARATORS = str.maketrans({"\t": ",", ";": ",", "°": " "})


def write_skyline(points: Skyline) -> str:
    """Return a skyline as CSV text; reading it back gives the same points."""
    out = io.StringIO(newline="")
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    writer.writerows((f"{one.azimuth_deg:g}", f"{one.altitude_deg:g}") for one in points)
    return out.getvalue()


def read_skyline(text: str) -> Skyline:
    """Return the points of CSV text, in order of azimuth; blanks, tabs and semicolons part too.

    Raises ``OutOfRange`` naming the line, the value and what is allowed.
    """
    points: list[SkylinePoint] = []
    for number, line in enumerate(text.translate(SEPARATORS).splitlines(), 1):
        cells = [cell for cell in line.replace(",", " ").split() if cell]
        if not cells or (not points and cells[0].lower().startswith("azimuth")):
            continue
        if len(cells) != 2:
            cure = "Write azimuth and altitude, such as 95, 22."
            raise OutOfRange("skyline", f"line {number}: {line}", "two numbers a line", cure)
        points.append(_point(number, cells))
        if len(points) > MOST_POINTS:
            cure = "Leave out points where the line is straight."
            raise OutOfRange("skyline", f"line {number}", f"up to {MOST_POINTS} points", cure)
    return ordered(points)


def _point(number: int, cells: list[str]) -> SkylinePoint:
    try:
        return SkylinePoint.model_validate(dict(zip(COLUMNS, cells, strict=True)))
    except ValidationError as error:
        first = error.errors()[0]
        context = first.get("ctx", {})
        value = f"line {number}: {' '.join(cells)}"
        cure = str(context.get("cure", "Write numbers in degrees."))
        raise OutOfRange(
            str(first["loc"][0]), value, str(context.get("allowed", "numbers")), cure
        ) from error
