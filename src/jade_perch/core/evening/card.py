"""The set-up card: what one telescope wants, on one printed page."""

from collections.abc import Sequence

from jade_perch.core.bench.finder import needed_distance_m
from jade_perch.core.bench.north import NorthBoard
from jade_perch.core.evening.setup import Step
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Finder, Mount, Telescope
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.safety import CAUTION

MOST_RUNGS = 12  # more do not fit the page; the widest field comes first


class CardStep(Frozen):
    """One line to tick: the step, what to do, with this telescope's figures."""

    title: str
    words: str


class SetupCard(Frozen):
    """Everything on the page, in the order it is printed."""

    title: str
    subtitle: str
    caution: str
    steps: list[CardStep]
    rungs: list[tuple[str, str, str, str]]
    footer: str


def make_card(
    telescope: Telescope,
    mount: Mount,
    finders: Sequence[Finder],
    ladder: Ladder,
    steps: Sequence[Step],
    north: NorthBoard,
    where: str,
) -> SetupCard:
    """Return the set-up card of a telescope; ``where`` names the place and the evening."""
    longest_deg = max((rung.true_field_deg for rung in ladder.rungs), default=1.0)
    need_arcmin = mount.traits.level_need_arcmin
    words = {
        "level": f"Bubble centred; this mount wants {need_arcmin:.0f} arcmin or less.",
        "balance": "Heavy eyepiece in, slide the tube until it stays. Set screws, not barrels.",
        "sun": "A landmark 30° or more from the Sun for the whole job, or wait until it is down.",
        "finder": _finder_words(finders, longest_deg),
        "north": _north_words(north, mount),
        "power": " ".join(north.order),
        "stand": "Open, solid ground; tray locked; legs not fully out.",
        "focus": "Smallest star, sharpest edge; anew for every eyepiece and person.",
        "cool": "Out early, caps on. Dew cap when the air is near the dew point.",
    }
    return SetupCard(
        title=f"{telescope.name}: set-up",
        subtitle=f"{telescope.aperture_mm:g}/{telescope.focal_length_mm:g} mm "
        f"{telescope.design} on {mount.name}; {where}",
        caution="The Sun: " + CAUTION,
        steps=[
            CardStep(title=one.title, words=words[one.name])
            for one in steps
            if one.state != "not_needed" and one.name in words
        ],
        rungs=[
            (
                rung.label,
                f"{rung.magnification:.0f}×",
                f"{rung.true_field_deg:.2f}°",
                f"{rung.exit_pupil_mm:.1f} mm",
            )
            for rung in ladder.rungs[:MOST_RUNGS]
        ],
        footer="Button cells away from small children. Lift tubes with two hands. Mind cables, "
        "steps and wet ground in the dark. Follow the site's rules and the filter's maker.",
    )


def _finder_words(finders: Sequence[Finder], longest_deg: float) -> str:
    if not finders:
        return "No finder is noted: sight along the tube."
    parts = [
        f"{one.name}: landmark {needed_distance_m(one.offset_mm, longest_deg):.0f} m away or more"
        for one in finders
    ]
    return "; ".join(parts) + ". Main field first, then the finder's screws; snug all; dot off."


def _north_words(north: NorthBoard, mount: Mount) -> str:
    compass = (
        ""
        if north.magnetic is None
        else (f"Compass {north.magnetic.reading_deg:.0f}° (good to 1° away from iron). ")
    )
    scale = f"Latitude scale {north.latitude_scale_deg:.1f}°, locked."
    return compass + (scale if mount.traits.has_polar_axis else "")
