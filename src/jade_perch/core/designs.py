"""Telescopes by design: one row says everything that depends on it."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class DesignTraits:
    """What one optical design is.

    ``tube_share`` is the tube's length over the focal length where nobody measured it, our
    estimate.  ``transmission`` is that of its own glass before any obstruction, an estimate.
    ``usual_angle_deg`` is where its eyepiece points, clockwise from up as seen from behind.
    ``cool_share`` is how much longer than an open tube it takes to cool, our estimate.
    """

    title: str
    is_lens: bool
    eyepiece_at_side: bool
    usual_angle_deg: float
    tube_share: float
    transmission: float
    cool_share: float = 1.0


T_LENS, T_MIRROR_PAIR = 0.95, 0.80
CLOSED_TUBE = 1.3  # a corrector at the front keeps warm air in; our estimate
DESIGN_TRAITS: dict[str, DesignTraits] = {
    "refractor": DesignTraits(
        title="Refractor (lens)",
        is_lens=True,
        eyepiece_at_side=False,
        usual_angle_deg=0.0,
        tube_share=1.0,
        transmission=T_LENS,
    ),
    "newtonian": DesignTraits(
        title="Newtonian (mirror, eyepiece at the side)",
        is_lens=False,
        eyepiece_at_side=True,
        usual_angle_deg=90.0,
        tube_share=1.0,
        transmission=T_MIRROR_PAIR,
    ),
    "catadioptric": DesignTraits(
        title="Catadioptric (short tube, eyepiece behind)",
        is_lens=False,
        eyepiece_at_side=False,
        usual_angle_deg=0.0,
        tube_share=0.2,
        transmission=T_MIRROR_PAIR,
        cool_share=CLOSED_TUBE,
    ),
}
