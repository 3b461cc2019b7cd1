"""Sweeping for what is not in the field: a spiral whose arms overlap, one field at a time."""

OVERLAP = 0.65  # of a round field a step goes; from 1/√2 on things fall between four looks
ARMS = ("right", "up", "left", "down")
WAYS = {"right": (1.0, 0.0), "up": (0.0, 1.0), "left": (-1.0, 0.0), "down": (0.0, -1.0)}


def spiral_way(step: int) -> str:
    """Return which way the next step of a spiral goes: right, up, twice left, twice down …

    ``step`` counts the steps made from the middle.

    Source: rules.md#spiral.
    """
    arm, length, done = 0, 1, 0
    while done + length <= step:
        done += length
        arm += 1
        length = arm // 2 + 1
    return ARMS[arm % 4]


def spiral_push(step: int, field_arcmin: float) -> tuple[float, float]:
    """Return the next push of a spiral, (right, up) in arcmin, for a field's width.

    Source: rules.md#spiral.
    """
    right, up = WAYS[spiral_way(step)]
    return right * OVERLAP * field_arcmin, up * OVERLAP * field_arcmin


def spiral_words(step: int, field: str) -> str:
    """Return the next step of a spiral as an instruction.  Source: rules.md#spiral."""
    if step == 0:
        return f"Sweep a spiral: push the tube one {field} field right."
    return f"The spiral goes on: one {field} field {spiral_way(step)}."
