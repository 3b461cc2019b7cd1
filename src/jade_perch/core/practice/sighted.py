"""A finder on a tube as it stands in a drill: what points where, and what the eye sees of it.

Directions are offsets (right, up) in arcmin as the naked eye sees them, from where the target is.
"""

from typing import Annotated, Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.finderview import Geometry, geometry_of
from jade_perch.core.bench.loop import Try
from jade_perch.core.constants import ARCMIN_PER_RADIAN
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.kit import Finder, RingEnd
from jade_perch.core.practice.drill import AtS, DrillState, Plane
from jade_perch.core.practice.handling import Push
from jade_perch.core.practice.ring import TRAVEL_TURNS, Ring, ring_of
from jade_perch.core.practice.seen import ALONG_RADIUS_ARCMIN, IN_VIEW, Eye, Scenery
from jade_perch.core.units import METRIC, Units

FinderMoveKind = Literal[
    "look", "choose", "push", "clamp", "unclamp", "screw", "snug", "middle", "ask", "done"
]
MOST_SCREWS, MOST_LANDMARKS = 6, 4


class FinderMove(Frozen):
    """One move: where the eye goes, which landmark, a push of the tube, a clamp, a screw.

    ``push`` is (right, up) in arcmin, as the hands push the tube; ``turns`` of a screw are out
    positive.  ``middle`` sets every screw to the middle of its travel; ``snug`` tightens all but
    the one loosened last, evenly.
    """

    drill: Literal["finder"] = "finder"
    kind: FinderMoveKind
    eye: Eye = "main"
    landmark: Annotated[int, Range(0, MOST_LANDMARKS - 1, "", "Choose one that is shown.")] = 0
    right: Push = 0.0
    up: Push = 0.0
    screw: Annotated[int, Range(0, MOST_SCREWS - 1, "", "Choose a screw that is there.")] = 0
    turns: Annotated[
        float, Range(-TRAVEL_TURNS, TRAVEL_TURNS, "turns", "Turn it by less at one go.")
    ] = 0.0
    at_s: AtS = 0.0


class AimPoint(Frozen):
    """Something far away to align on; ``sun_deg`` is how far from the drill's Sun it stands."""

    words: str
    distance_m: float
    sun_deg: float


class FinderState(DrillState):
    """A finder on its tube: where both point, what holds them, and where the eye is.

    ``tube`` is where the main tube points past the target, ``rest`` what the finder is off with
    its screws in the middle, ``tips`` how far out each screw is in turns, ``last_out`` the one
    loosened last, ``was_centred`` that the target was seen in the middle of the
    main field.  ``drift`` is how fast a star moves, in arcmin a minute.
    """

    drill: Literal["finder"] = "finder"
    scenery: Scenery
    finder: Finder
    is_borrowed: bool = False
    main_matrix: tuple[Plane, Plane]
    longest_field_deg: float
    has_clamps: bool
    units: Units = METRIC
    marks: tuple[AimPoint, ...] = ()
    chosen: int = 0
    eye: Eye = "along"
    is_clamped: bool
    tube: Plane
    rest: Plane
    along: Plane
    drift: Plane = (0.0, 0.0)
    arcmin_per_turn: float
    end: RingEnd
    tips: tuple[float, ...]
    last_out: int | None = None
    was_centred: bool = False
    turned_since_look: bool = False
    swept: int = 0
    tries: tuple[Try, ...] = ()

    @property
    def ring(self) -> Ring:
        """Its finder's ring.  Source: rules.md#finder."""
        return ring_of(self.finder)

    @property
    def mark(self) -> AimPoint | None:
        """The landmark it is aligned on; None for a star.  Source: rules.md#practice."""
        return self.marks[self.chosen] if self.marks else None

    @property
    def distance_m(self) -> float | None:
        """How far the target is; None for a star.  Source: rules.md#practice."""
        return None if self.mark is None else self.mark.distance_m

    @property
    def angles(self) -> Geometry:
        """The angles of its finder on the chosen target.  Source: rules.md#finder."""
        return geometry_of(self.finder, self.distance_m, self.longest_field_deg)


def axis_off(state: FinderState) -> Floats:
    """Return where the finder points past the main tube, in arcmin.

    Source: rules.md#finder; a ring at the rear end moves opposite to the axis.
    """
    sign = 1.0 if state.end == "front" else -1.0
    shift = state.ring.rests(np.array(state.tips))
    return np.asarray(np.array(state.rest) + sign * state.arcmin_per_turn * shift)


def target_from(state: FinderState, eye: Eye) -> Floats:
    """Return where the target stands from the middle of a view, (right, up) in arcmin.

    Source: rules.md#finder.
    """
    tube = np.array(state.tube)
    if eye == "main":
        return -tube
    if eye == "along":
        return np.asarray(-tube - np.array(state.along))
    angles = state.angles
    return np.asarray(-tube - axis_off(state) - angles.parallax_arcmin * angles.side)


def matrix_of(state: FinderState, eye: Eye) -> Floats:
    """Return how a view shows what the naked eye sees.  Source: rules.md#orientation."""
    if eye == "main":
        return np.array(state.main_matrix)
    return np.eye(2) if eye == "along" else state.angles.matrix


def radius_arcmin(state: FinderState, eye: Eye) -> float:
    """Return the radius of a view.  Source: rules.md#finder."""
    if eye == "main":
        return state.longest_field_deg * 30
    return ALONG_RADIUS_ARCMIN if eye == "along" else state.angles.field_radius_arcmin


def seen_in(state: FinderState, eye: Eye) -> Floats | None:
    """Return where the target is seen, in radii of a view; None where it is outside.

    Source: rules.md#orientation.
    """
    place = matrix_of(state, eye) @ target_from(state, eye) / radius_arcmin(state, eye)
    return None if float(np.hypot(*place)) > IN_VIEW else np.asarray(place)


def usual_arcmin_per_turn(lever_mm: float, thread_pitch_mm: float) -> float:
    """Return what one turn of every screw moves the axis by.  Source: rules.md#finder."""
    return thread_pitch_mm / lever_mm * ARCMIN_PER_RADIAN
