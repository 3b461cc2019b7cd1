"""How hands move a tube in a drill: along which arcs, with which clamps and knobs; where it drifts.

Offsets are (right, up) in arcmin as the naked eye sees them.
"""

from typing import Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.tracking import hand_rates_arcmin_per_min
from jade_perch.core.evening.desk import Desk
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Mount
from jade_perch.core.practice.seen import Plane, pair

USUAL_LATITUDE_DEG = 50.0  # while nobody chose a place; our choice
LOWEST_DEG, HIGHEST_DEG = 25.0, 60.0  # heights a drill's target stands at
PUSH_SLIP, KNOB_SLIP = 0.12, 0.03  # how far from the one meant, as a share; our estimates
BACKLASH_ARCMIN = 2.0  # what a knob turns for nothing where it turns about; our estimate
Axis = Literal[0, 1]


class Handling(Frozen):
    """A mount as hands have it.

    ``arcs`` are the ways its two axes move the tube, ``arc_words`` what they are called and
    ``way_words`` where their two directions lead.  ``drift`` is how a target goes that nothing
    follows, in arcmin a minute.
    """

    arcs: tuple[Plane, Plane]
    arc_words: tuple[str, str]
    way_words: tuple[tuple[str, str], tuple[str, str]]
    has_clamps: bool
    has_knobs: bool
    drift: Plane


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
    )
