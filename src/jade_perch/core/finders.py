"""Finders by kind: one row says everything that depends on it."""

from dataclasses import dataclass
from typing import Literal


@dataclass(frozen=True, slots=True)
class FinderTraits:
    """What one kind of finder is.

    ``mark`` is what one puts on the target, ``view`` how it shows the sky, ``is_sight`` that it
    does not magnify, ``off_words`` what is switched off afterwards.  ``power``, ``screws``,
    ``offset_mm`` and ``hour`` are what is usual where nobody said: our estimates.
    """

    title: str
    mark: str
    view: Literal["turned", "mirrored", "upright"]
    is_sight: bool = False
    off_words: str = ""
    power: float = 6.0
    screws: int = 3
    offset_mm: float = 100.0
    hour: int = 10
    has_battery: bool = False
    at_right_angle: bool = False


FINDER_TRAITS: dict[str, FinderTraits] = {
    "straight": FinderTraits("Magnifying, straight (turned view)", "cross", "turned"),
    "right_angle": FinderTraits(
        "Magnifying, right angle (mirrored view)", "cross", "mirrored", at_right_angle=True
    ),
    "right_angle_correct": FinderTraits(
        "Magnifying, right angle, correct view", "cross", "upright", at_right_angle=True
    ),
    "dot": FinderTraits(
        title="Dot sight",
        mark="dot",
        view="upright",
        is_sight=True,
        off_words="Switch the dot off afterwards.",
        power=1.0,
        screws=2,
        offset_mm=80.0,
        has_battery=True,
    ),
    "ring": FinderTraits(
        title="Ring sight",
        mark="rings",
        view="upright",
        is_sight=True,
        off_words="Switch its lamp off afterwards.",
        power=1.0,
        screws=3,
        offset_mm=120.0,
        has_battery=True,
    ),
}
