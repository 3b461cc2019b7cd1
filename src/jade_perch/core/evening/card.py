"""The set-up card: what one telescope wants, on one printed page."""

from collections.abc import Sequence

from jade_perch.core.bench.finderview import needed_distance_m
from jade_perch.core.bench.magnetic import COMPASS_DOUBT_DEG
from jade_perch.core.bench.north import NorthBoard, north_board
from jade_perch.core.constants import SUN_KEEP_AWAY_DEG
from jade_perch.core.evening.desk import ReadyDesk
from jade_perch.core.evening.setup import Step
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Finder, Mount
from jade_perch.core.safety import CAUTION
from jade_perch.core.units import Units

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


def make_card(desk: ReadyDesk, steps: Sequence[Step]) -> SetupCard:
    """Return the set-up card of tonight's telescope.

    Source: the steps of the bench with this telescope's figures.
    """
    telescope, mount = desk.telescope, desk.known_mount
    north = north_board(desk.place, desk.moment_utc, mount)
    need_arcmin = mount.traits.level_need_arcmin
    words = {
        "level": f"Bubble centred; this mount wants {need_arcmin:.0f} arcmin or less.",
        "balance": "Heavy eyepiece in, slide the tube until it stays. Set screws, not barrels.",
        "sun": f"A landmark {SUN_KEEP_AWAY_DEG:g}° or more from the Sun for the whole job, or wait "
        "until it is down.",
        "finder": _finder_words(desk.finders, desk.longest_field_deg, desk.units),
        "north": _north_words(north, mount),
        "power": " ".join(north.order),
        "stand": "Open, solid ground; tray locked; legs not fully out.",
        "focus": "Smallest star, sharpest edge; anew for every eyepiece and person.",
        "cool": "Out early, caps on. Dew cap when the air is near the dew point.",
    }
    return SetupCard(
        title=f"{telescope.name}: set-up",
        subtitle=f"{telescope.aperture_mm:g}/{telescope.focal_length_mm:g} mm "
        f"{telescope.design} on {mount.name}; {desk.place.name}, {desk.night.date.isoformat()}",
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
            for rung in desk.ladder.rungs[:MOST_RUNGS]
        ],
        footer="Button cells away from small children. Lift tubes with two hands. Mind cables, "
        "steps and wet ground in the dark. Follow the site's rules and the filter's maker.",
    )


def _finder_words(finders: Sequence[Finder], longest_deg: float, units: Units) -> str:
    if not finders:
        return "No finder is noted: sight along the tube."
    needed_m = [needed_distance_m(one.axis_offset_mm, longest_deg) for one in finders]
    parts = [
        f"{one.name}: landmark {units.distance(far_m)} away or more"
        for one, far_m in zip(finders, needed_m, strict=True)
    ]
    off = dict.fromkeys(one.traits.off_words for one in finders if one.traits.off_words)
    steps = ". Main field first, then the finder's screws; snug all."
    return " ".join(["; ".join(parts) + steps, *off])


def _north_words(north: NorthBoard, mount: Mount) -> str:
    compass = ""
    if north.magnetic is not None:
        doubt = f"good to {COMPASS_DOUBT_DEG:g}° away from iron"
        compass = f"Compass {north.magnetic.reading_deg:.0f}° ({doubt}). "
    scale = f"Latitude scale {north.latitude_scale_deg:.1f}°, locked."
    return compass + (scale if mount.traits.has_polar_axis else "")
