"""What every step of the bench answers: one thing to do with the hands, and the sums behind it."""

from math import isfinite
from typing import Self

import numpy as np

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen
from jade_perch.core.sums import Sum

COMPASS_8 = (
    "north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west",
)  # fmt: skip
QUARTERS = {
    0.0: "", 0.125: "⅛", 0.25: "¼", 0.375: "⅜", 0.5: "½", 0.625: "⅝", 0.75: "¾", 0.875: "⅞",
}  # fmt: skip
MOST_WORDS = 15  # longest instruction that is read at one glance; design of the product


class Advice(Frozen):
    """One instruction of at most 15 words, what goes with it, and whether the step is good.

    ``note`` is what is written down when the step is recorded, the instruction where it is empty.
    ``simulated`` names what it rests on that nobody measured, such as "level"; empty for none.
    """

    instruction: str
    detail: str
    is_done: bool
    sums: list[Sum]
    note: str = ""
    simulated: str = ""

    def resting_on_simulated(self, what: str) -> Self:
        """Return the same, saying in every sentence and sum that ``what`` is only simulated.

        Source: rules.md#simulated.
        """
        said = f"Simulated {what}"
        return self.model_copy(
            update={
                "simulated": what,
                "instruction": f"Simulated: {self.instruction}",
                "sums": [
                    one.model_copy(
                        update={
                            "result": f"{one.result} (simulated)",
                            "note": f"{said}: nobody measured this. {one.note}".strip(),
                            "sureness": "estimate",
                        }
                    )
                    for one in self.sums
                ],
            }
        )

    @classmethod
    def of_words(cls, words: str) -> "Advice":
        """Return the advice of a step that is done as soon as it is said.

        Source: rules.md#words.
        """
        return cls(instruction=words, detail="", is_done=True, sums=[])

    def noted(self) -> str:
        """Return in a few words what is written down when the step is recorded.

        Source: rules.md#words.
        """
        return self.note or self.instruction

    def written(self) -> str:
        """Return what is written down, said to be simulated where it rests on a stand-in.

        Source: rules.md#simulated.
        """
        said = self.noted()
        return f"Simulated {self.simulated}: {said}" if self.simulated else said

    def holds(self) -> bool:
        """Return whether the step is good once it is recorded as it stands.

        Source: rules.md#words.
        """
        return self.is_done

    def figures(self) -> dict[str, float]:
        """Return the figures that other steps read, by name with unit.  Source: rules.md#words."""
        return {}


def require_practice(advice: Advice, *, as_practice: bool) -> None:
    """Raise ``OutOfRange`` for an advice that rests on something simulated, unless as practice.

    Source: rules.md#simulated.
    """
    if advice.simulated and not as_practice:
        cure = "Record it as practice, or read a real instrument."
        allowed = f"true for what rests on a simulated {advice.simulated}"
        raise OutOfRange("as_practice", False, allowed, cure)


def compass_word(azimuth_deg: float) -> str:
    """Return the eight-point name of an azimuth in degrees from north through east.

    Source: rules.md#words.
    """
    return COMPASS_8[round(azimuth_deg / 45) % 8]


def told_turns(turns: float) -> float:
    """Return a number of turns as hands make it: eighths below one, quarters above, never none.

    Source: rules.md#words.
    """
    part = 8 if abs(turns) < 1 else 4
    return max(1 / 8, round(abs(turns) * part) / part)


def turns_words(turns: float) -> str:
    """Return a number of turns as hands make it, such as ``2½ turns``.

    Source: rules.md#words.
    """
    return f"{turns_number(turns)} {'turn' if told_turns(turns) <= 1 else 'turns'}"


def turns_number(turns: float) -> str:
    """Return a number of turns as hands make it, such as ``2½`` or ``⅛``.

    Source: rules.md#words.
    """
    whole, part = divmod(told_turns(turns), 1)
    return f"{int(whole) or ''}{QUARTERS[part]}"


def clock_hour(right: float, up: float) -> int:
    """Return the hour of a clock face, 1 to 12, toward which an offset (right, up) points.

    Source: rules.md#words.
    """
    return round(float(np.degrees(np.arctan2(right, up))) / 30) % 12 or 12


def clock_direction(hour: float) -> tuple[float, float]:
    """Return the unit offset (right, up) of an hour on a clock face.  Source: rules.md#words."""
    angle = np.radians(30.0 * hour)
    return float(np.sin(angle)), float(np.cos(angle))


def minutes_words(minutes: float) -> str:
    """Return a length of time in minutes as people say it.  Source: rules.md#words."""
    if not isfinite(minutes):
        return "all night"
    if minutes < 1:
        return f"{60 * minutes:.0f} s"
    return f"{minutes:.0f} min" if minutes < 120 else f"{minutes / 60:.1f} h"
