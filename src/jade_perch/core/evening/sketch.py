"""A sketch drawn in a round field: strokes as they were drawn, nothing of a picture file."""

from typing import Annotated, Literal

from pydantic import AfterValidator, WithJsonSchema

from jade_perch.core.fields import Frozen, UpTo, refused

REACH = 1000  # a point's place counts in thousandths of the field's radius
MOST_POINTS, MOST_STROKES = 20_000, 2_000
# every number is looked at by ``_inside``, all of a stroke at once
Place = Annotated[int, WithJsonSchema({"type": "integer", "minimum": -REACH, "maximum": REACH})]
Pencil = Literal["fine", "soft", "broad"]


def _inside(points: list[int]) -> list[int]:
    if not points or len(points) % 2:
        cure = "Give each point as two numbers, right and up."
        raise refused("points", f"{len(points)} numbers", "pairs of numbers", cure)
    low, high = min(points), max(points)
    if low < -REACH or high > REACH:
        worst = low if low < -REACH else high
        cure = "Draw inside the round field."
        raise refused("points", worst, f"-{REACH} to {REACH} thousandths of the field", cure)
    return points


class Stroke(Frozen):
    """One line drawn without lifting: right and up in turn, in thousandths of the field."""

    points: Annotated[list[Place], UpTo(2 * MOST_POINTS, "numbers"), AfterValidator(_inside)]
    pencil: Pencil = "soft"


def _not_too_much(strokes: tuple[Stroke, ...]) -> tuple[Stroke, ...]:
    count = sum(len(one.points) // 2 for one in strokes)
    if count > MOST_POINTS:
        allowed = f"up to {MOST_POINTS} points in {MOST_STROKES} strokes"
        given = f"{count} points in {len(strokes)} strokes"
        raise refused("sketch", given, allowed, "Leave some of it to the words.")
    return strokes


Sketch = Annotated[tuple[Stroke, ...], UpTo(MOST_STROKES, "strokes"), AfterValidator(_not_too_much)]
