"""How hands move a tube in a drill: along which arcs, with which clamps and knobs; where it drifts.

Offsets are (right, up) in arcmin as the naked eye sees them.
"""

from typing import Annotated, Literal, TypeVar

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.tracking import hand_rates_arcmin_per_min
from jade_perch.core.evening.desk import Desk
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.kit import Finder, Mount
from jade_perch.core.practice.drill import DrillState, Plane, pair

USUAL_LATITUDE_DEG = 50.0  # while nobody chose a place; our choice
LOWEST_DEG, HIGHEST_DEG = 25.0, 60.0  # heights a drill's target stands at
PUSH_SLIP, KNOB_SLIP = 0.12, 0.03  # how far from the one meant, as a share; our estimates
BACKLASH_ARCMIN = 2.0  # what a knob turns for nothing where it turns about; our estimate
FORCED_SHARE = 0.1  # what a closed clamp lets a forced push through; our estimate
MOST_PUSH_ARCMIN = 3600.0
NO_CLAMPS = "This mount has no clamps: its friction holds it."
BORROWED = Finder(name="a borrowed finder", kind="straight")  # for a kit that has none
Axis = Literal[0, 1]
Push = Annotated[
    float, Range(-MOST_PUSH_ARCMIN, MOST_PUSH_ARCMIN, "arcmin", "Push by less at one go.")
]
S = TypeVar("S", bound=DrillState)


class Handling(Frozen):
    """A mount as hands have it.

    ``arcs`` are the ways its two axes move the tube, ``arc_words`` what they are called and
    ``way_words`` where their two directions lead.  ``drift`` is how a target goes that nothing
    follows, in arcmin a minute; ``is_stopped`` where a motor would follow, and stands still here.
    """

    arcs: tuple[Plane, Plane]
    arc_words: tuple[str, str]
    way_words: tuple[tuple[str, str], tuple[str, str]]
    has_clamps: bool
    has_knobs: bool
    drift: Plane
    is_stopped: bool = False


def handling_of(desk: Desk, dice: np.random.Generator) -> Handling:
    """Return tonight's mount as hands have it, with a target by chance.

    Source: rules.md#handling; rates as in rules.md#tracking, also south of the equator.
    """
    latitude_deg = USUAL_LATITUDE_DEG if desk.place is None else desk.place.latitude_deg
    altitude_deg = float(dice.uniform(LOWEST_DEG, HIGHEST_DEG))
    # toward the equator's side of the sky, where targets go across
    facing_deg = 180.0 if latitude_deg >= 0 else 0.0
    azimuth_deg = float(facing_deg + dice.uniform(-70, 70)) % 360
    alt_rate, az_rate = hand_rates_arcmin_per_min(altitude_deg, azimuth_deg, latitude_deg)
    drift = np.array([az_rate * np.cos(np.radians(altitude_deg)), alt_rate])
    return handled(desk.known_mount, drift)


def handled(mount: Mount, drift_arcmin_per_min: Floats) -> Handling:
    """Return a mount as hands have it, for a target that drifts so, in arcmin a minute.

    Source: rules.md#practice.
    """
    traits, drift = mount.traits, drift_arcmin_per_min
    arcs = np.eye(2)
    words = ("sideways", "up and down")
    ways = (("left", "right"), ("down", "up"))
    if traits.has_polar_axis:
        west = drift / np.hypot(*drift)
        arcs = np.stack([west, np.array([-west[1], west[0]])])
        words = ("hour axis", "declination axis")
        ways = (("east", "west"), ("one way", "the other way"))
    return Handling(
        arcs=(pair(arcs[0]), pair(arcs[1])),
        arc_words=words,
        way_words=ways,
        has_clamps=traits.has_clamps,
        has_knobs=traits.has_knobs,
        drift=pair(drift),
        is_stopped=traits.needs_power,
    )


def finder_of(desk: Desk) -> Finder:
    """Return the first finder on tonight's telescope, or a borrowed one where it has none.

    Source: rules.md#finder-drill.
    """
    return desk.finders[0] if desk.finders else BORROWED


def left_behind(tube: Plane, drift: Plane, span_s: float) -> Plane:
    """Return where a tube points past a target that went on for a span; none goes back.

    Source: rules.md#handling.
    """
    return pair(np.array(tube) - max(0.0, span_s) / 60 * np.array(drift))


def forced_clamp(state: S) -> S:
    """Return a state with what a mentor says to a push against a closed clamp.

    Source: rules.md#handling.
    """
    better = "open it first: forced, its teeth are what gives."
    return state.remarked("gentleness", "The tube was pushed against a closed clamp", better)


def knob_turned(
    last_way: tuple[int, int], axis: Axis, amount_arcmin: float
) -> tuple[float, tuple[int, int]]:
    """Return how far a knob's turn goes in arcmin, and each knob's last way after it.

    Turned about it first takes up its play.

    Source: rules.md#handling.
    """
    way = int(np.sign(amount_arcmin))
    lost = BACKLASH_ARCMIN if last_way[axis] == -way else 0.0
    ways = (way, last_way[1]) if axis == 0 else (last_way[0], way)
    return way * max(0.0, abs(amount_arcmin) - lost), ways
