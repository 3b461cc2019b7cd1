"""Finders by kind: one row says everything that depends on it."""

from dataclasses import dataclass
from typing import Literal


@dataclass(frozen=True, slots=True)
class FinderTraits:
    """What one kind of finder is.

    ``mark`` is what one puts on the target, ``view`` how it shows the sky, ``is_sight`` that it
    does not magnify, ``off_words`` what is switched off afterwards.
    """

    title: str
    mark: str
    view: Literal["turned", "mirrored", "upright"]
    is_sight: bool = False
    off_words: str = ""


FINDER_TRAITS: dict[str, FinderTraits] = {
    "straight": FinderTraits("Magnifying, straight (turned view)", "cross", "turned"),
    "right_angle": FinderTraits("Magnifying, right angle (mirrored view)", "cross", "mirrored"),
    "right_angle_correct": FinderTraits(
        "Magnifying, right angle, correct view", "cross", "upright"
    ),
    "dot": FinderTraits("Dot sight", "dot", "upright", True, "Switch the dot off afterwards."),
    "ring": FinderTraits("Ring sight", "rings", "upright", True, "Switch its lamp off afterwards."),
}
