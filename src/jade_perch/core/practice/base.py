"""A base under a slow bubble: what its feet and its vial do, whoever turns them."""

from typing import Annotated, Literal, Self

import numpy as np
from pydantic import model_validator

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.level import CENTRED, MOST_MM, USUAL_PITCH_MM, Feet
from jade_perch.core.bench.loop import Try
from jade_perch.core.bench.vials import USUAL_WALL_ARCMIN
from jade_perch.core.constants import ARCMIN_PER_RADIAN
from jade_perch.core.fields import Frozen, Range, refused
from jade_perch.core.kit import Mount
from jade_perch.core.practice.drill import AtS, DrillState, Plane, chance
from jade_perch.core.units import METRIC, Units

RINGS = 3.0  # marks of the drawn vial, the last one at its wall
SLOWEST_S, QUICKEST_S = 2.4, 0.9  # how long a bubble takes for most of its way; our estimates
TREMBLE = 0.012  # of the way to the wall: how a bubble trembles; our estimate
LEAST_WALL_ARCMIN, MOST_WALL_ARCMIN = 36.0, 180.0  # finer or coarser vials teach no hand


class LevelMove(Frozen):
    """One move: turn a foot, tap the glass, ask the bench, or call it level.

    ``foot`` counts from 1; ``amount`` is up positive, in turns of its screw, or in mm where it has
    none.
    """

    drill: Literal["level"] = "level"
    kind: Literal["turn", "tap", "ask", "done"]
    foot: Annotated[int, Range(1, 4, "", "Choose a foot that is there.")] = 1
    amount: Annotated[
        float, Range(-MOST_MM, MOST_MM, "turns or mm", "Move it by less at one go.")
    ] = 0.0
    at_s: AtS = 0.0


class LevelState(DrillState):
    """A base as it stands: ``heights_mm`` of its feet, and where the bubble was at ``at_s``.

    ``bubble`` and ``rests`` are (right, up) in shares of the way to the wall, foot 1 on top:
    where it was, and where it will come to rest; it is stuck where the two differ by little.
    """

    drill: Literal["level"] = "level"
    mount: Mount
    units: Units = METRIC
    heights_mm: tuple[float, ...]
    bubble: Plane
    rests: Plane
    is_stuck: bool = False
    tries: tuple[Try, ...] = ()

    @model_validator(mode="after")
    def _as_many_feet(self) -> Self:
        if len(self.heights_mm) != self.mount.feet:
            allowed = f"{self.mount.feet} heights"
            raise refused("heights_mm", len(self.heights_mm), allowed, "Begin the drill anew.")
        return self


class LevelScene(Frozen):
    """What is seen of a base: the bubble now, where it runs to, and how slowly.

    ``bubble`` and ``rests`` are (right, up) in shares of the way to the wall; between the two it
    nears by a factor e in ``slow_s`` seconds.  ``steps`` are the amounts a hand may choose, in
    turns or mm.
    """

    drill: Literal["level"] = "level"
    foot_azimuths_deg: list[float]
    rings: float
    bubble: Plane
    rests: Plane
    slow_s: float
    steps: list[float]
    step_words: list[str]


def bubble_at(state: LevelState, at_s: float) -> Plane:
    """Return where the bubble stands at a moment of the drill, (right, up) to the wall.

    Source: rules.md#practice; the exponential of a viscous drag.
    """
    if state.is_stuck:
        return state.bubble
    left = np.exp(-max(0.0, at_s - state.at_s) / slow_s(state.seed))
    here = np.array(state.rests) + left * (np.array(state.bubble) - np.array(state.rests))
    return float(here[0]), float(here[1])


def slow_s(seed: int) -> float:
    """Return how sluggish a round's bubble is, in seconds.  Source: rules.md#practice."""
    return float(chance(seed, 0).uniform(QUICKEST_S, SLOWEST_S))


def lean_of(state: LevelState) -> Floats:
    """Return the true lean (right, up) toward the high side, in shares of the way to the wall.

    Source: rules.md#level; the plane through the feet, by least squares.
    """
    feet = feet_of(state.mount)
    heights = np.array(state.heights_mm)
    slope = np.linalg.lstsq(
        radius_mm(state.mount) * feet.toward, heights - heights.mean(), rcond=None
    )[0]
    return np.asarray(slope * ARCMIN_PER_RADIAN / wall_arcmin(state.mount))


def wall_arcmin(mount: Mount) -> float:
    """Return the tilt at which the vial's bubble touches its wall.  Source: rules.md#level."""
    if mount.vial_sensitivity_arcmin is None:
        return USUAL_WALL_ARCMIN
    own = RINGS * mount.vial_sensitivity_arcmin
    return max(LEAST_WALL_ARCMIN, min(MOST_WALL_ARCMIN, own))


def allowed_out(mount: Mount) -> float:
    """Return how far from the middle a bubble may stand, in shares of the way to the wall.

    Source: rules.md#level.
    """
    need = mount.traits.level_need_arcmin / wall_arcmin(mount)
    return float(max(CENTRED, min(1.0, need))) + 3 * TREMBLE


def feet_of(mount: Mount) -> Feet:
    """Return the feet of a mount as they stand, foot 1 on top.  Source: rules.md#level."""
    return Feet(np.array(azimuths_of(mount)), mount.levelling)


def azimuths_of(mount: Mount) -> list[float]:
    """Return where the feet stand, clockwise from foot 1, in degrees.  Source: rules.md#level."""
    return [n * 360 / mount.feet for n in range(mount.feet)]


def radius_mm(mount: Mount) -> float:
    """Return the circle the feet stand on, as measured or as usual.  Source: rules.md#level."""
    return mount.foot_radius_mm or mount.traits.foot_radius_mm


def pitch_mm(mount: Mount) -> float:
    """Return what one turn of a foot lifts, as measured or as usual.  Source: rules.md#level."""
    return mount.screw_pitch_mm or USUAL_PITCH_MM


def has_screws(state: LevelState) -> bool:
    """Return whether its feet are screws.  Source: rules.md#level."""
    return state.mount.levelling == "screws"


def inside(wanted: Floats) -> Plane:
    """Return a place in the vial: no farther out than its wall.  Source: rules.md#level."""
    out = max(1.0, float(np.hypot(*wanted)))
    return float(wanted[0] / out), float(wanted[1] / out)
