"""What is lent for a drill: an eyepiece, where nothing in the case fits the telescope."""

from dataclasses import replace

from jade_perch.core.evening.desk import Desk
from jade_perch.core.kit import Eyepiece

LENT_MM, LENT_FIELD_DEG = 25.0, 50.0  # a plain eyepiece as telescopes come with; our choice
LENT_WORDS = f"No eyepiece in your case fits: one of {LENT_MM:g} mm is lent for the drill."


def with_an_eyepiece(desk: Desk) -> tuple[Desk, str]:
    """Return a desk whose telescope can be looked through, and what was lent for it in words.

    A desk without a telescope, or with an eyepiece that fits, stays as it is.

    Source: rules.md#practice.
    """
    telescope, diagonal = desk.telescope, desk.diagonal
    if telescope is None or desk.ladder_of(telescope, diagonal).rungs:
        return desk, ""
    lent = Eyepiece(
        id=1,
        name="a lent one",
        focal_length_mm=LENT_MM,
        apparent_field_deg=LENT_FIELD_DEG,
        barrel_in=telescope.focuser_barrel_in if diagonal is None else diagonal.barrel_in,
    )
    return replace(desk, eyepieces=(lent,), amplifiers=()), LENT_WORDS
