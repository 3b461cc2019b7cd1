"""Mounts by kind: one row says everything that depends on it.  A new kind is one more row."""

from dataclasses import dataclass
from typing import Literal

Drive = Literal["hand", "altaz", "equatorial"]
# "hand" stays where it is left, "altaz" follows by what it believes of level and north,
# "equatorial" turns about its own polar axis.


NO_NORTH = "Nothing on this mount reads north."
FOR_COMFORT = "For comfort and against tipping; a hand-pushed mount needs no more."


@dataclass(frozen=True, slots=True, kw_only=True)
class MountTraits:
    """What one kind of mount is, wants and asks for.

    ``title`` is how the kit offers it.  ``level_need_arcmin`` is how level its base has to stand;
    our estimates: half the field of a long eyepiece for motors that point by themselves, the
    width of a latitude scale's line, comfort and safety for hands; what nothing is said of is
    as for a mount pushed by hand.  ``order`` are the movements that set its zero, ``{pole}``
    stands for the pole in the sky; empty where none is set.
    ``parts`` are the hand movements that put it together, in their order (``bench/assemble``);
    ``tube_slides`` where it is balanced on a rail, others by friction.
    ``levelling`` and ``foot_radius_mm`` are usual where nobody said, the latter our estimate.
    ``steady_wind_m_s`` is the wind in which it still holds a small tube still, our estimate.
    ``has_clamps`` where its axes are held by clamps or locks, others by friction alone.
    """

    title: str
    drive: Drive
    level_need_arcmin: float = 60.0
    level_why: str = FOR_COMFORT
    level_words: str
    north_why: str = NO_NORTH
    clamps: str
    parts: tuple[str, ...]
    levelling: Literal["screws", "clamps", "none"] = "clamps"
    foot_radius_mm: float = 400.0
    tube_slides: bool = True
    order: tuple[str, ...] = ()
    needs_power: bool = False
    steady_wind_m_s: float = 5.0
    has_clamps: bool = True

    @property
    def has_knobs(self) -> bool:
        """Whether it is moved finely by knobs or buttons.  Source: rules.md#steps."""
        return "cables" in self.parts or self.needs_power

    @property
    def reads_north(self) -> bool:
        """Whether anything on it is set by north.  Source: rules.md#steps."""
        return self.drive != "hand"

    @property
    def has_polar_axis(self) -> bool:
        """Whether one of its axes points to the pole.  Source: rules.md#steps."""
        return self.drive == "equatorial"


TRIPOD = ("legs", "tray", "head")
TRAITS: dict[str, MountTraits] = {
    "rocker": MountTraits(
        title="Rocker box, pushed by hand",
        drive="hand",
        level_words="A hand-pushed mount follows just as well tilted; level keeps it smooth "
        "and upright.",
        clamps="Friction medium: it moves at a light push and stays where it is left.",
        parts=("board", "cradle"),
        levelling="none",
        foot_radius_mm=180.0,
        tube_slides=False,
        steady_wind_m_s=7.0,
        has_clamps=False,
    ),
    "altaz": MountTraits(
        title="Altazimuth, pushed by hand",
        drive="hand",
        level_words="A hand-pushed mount follows just as well tilted; level keeps it from tipping.",
        clamps="Clamps medium for pushing; never force a closed clamp.",
        parts=(*TRIPOD, "bolt"),
    ),
    "altaz_slow_motion": MountTraits(
        title="Altazimuth with slow motion",
        drive="hand",
        level_why="For comfort and against tipping; knobs follow a tilted base too.",
        level_words="Tilted knobs still follow; level keeps it from tipping.",
        clamps="Clamps medium to push, firm for the knobs; never force a closed one.",
        parts=(*TRIPOD, "cables", "bolt"),
    ),
    "yoke": MountTraits(
        title="Yoke: the tube hangs in a fork, pushed by hand",
        drive="hand",
        level_words="A yoke follows just as well tilted; level keeps it from tipping.",
        clamps="Side clamps medium: the tube stays, and moves at a push.",
        parts=(*TRIPOD, "side_bolt", "rod"),
        foot_radius_mm=450.0,
        tube_slides=False,
    ),
    "ball": MountTraits(
        title="Tabletop ball, turned by hand",
        drive="hand",
        level_words="A ball needs no level; the table only has to stand firm.",
        clamps="Friction of the ball medium: it stays where it is left.",
        parts=("table", "ball"),
        levelling="none",
        foot_radius_mm=120.0,
        tube_slides=False,
        steady_wind_m_s=6.0,
        has_clamps=False,
    ),
    "pan_head": MountTraits(
        title="Pan head with a handle, as of a camera",
        drive="hand",
        level_words="A pan head follows just as well tilted; level keeps it from tipping.",
        clamps="Pan and tilt locks half closed: it moves at a push and stays.",
        parts=("legs", "plate", "handle"),
        steady_wind_m_s=4.0,
    ),
    "altaz_motor": MountTraits(
        title="Altazimuth with motors",
        drive="altaz",
        level_need_arcmin=10.0,
        level_why="Motors count from a level base: tilt becomes pointing error.",
        level_words="Motors count from a level base: tilt becomes a pointing error as large.",
        north_why="The motors start from true north, not magnetic.",
        clamps="Clamps firm before power; pushing against a closed clamp strips gears.",
        parts=(*TRIPOD, "bolt", "supply"),
        order=(
            "Level the base.",
            "Turn the base so that its mark points true north.",
            "Tube level at the zero mark, power still off.",
            "Power on; set place, date and time.",
            "Slow speed for centring, fast only to swing.",
            "Let it follow after the first star is centred.",
        ),
        needs_power=True,
    ),
    "equatorial": MountTraits(
        title="Equatorial",
        drive="equatorial",
        level_need_arcmin=15.0,
        level_why="Only so that the latitude scale reads true.",
        level_words="A level base only makes the latitude scale true.",
        north_why="One knob follows the sky only when its axis points to the pole.",
        clamps="Clamps firm for the knob, open to swing; never force a closed one.",
        parts=(*TRIPOD, "weight", "cables", "bolt"),
        order=(
            "Level the base, so that the latitude scale is true.",
            "Turn the whole mount until its polar axis points true {pole}.",
            "Set the altitude scale to your latitude and lock it.",
            "From now on move only the two axes, never the mount.",
        ),
    ),
}
