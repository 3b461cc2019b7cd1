"""Which way is up: how telescope, diagonal and observer turn and mirror the view.

Found by following one offset through every reflection, for an observer whose head is upright
while the tube tips with its target.
"""

from typing import Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.fields import Frozen
from jade_perch.core.finders import FINDER_TRAITS
from jade_perch.core.kit import Diagonal, FinderKind, FinderSide, Telescope

Chart = Literal["correct", "mirrored"]

AHEAD, RIGHT, UP = np.eye(3)[1], np.eye(3)[0], np.eye(3)[2]  # toward the sky, to the right, up
STEEP_DEG = 40.0  # nearer to straight up than this, one looks down from behind; our choice
# where the eyepiece of a right-angle finder points, clockwise from up as seen from behind
SIDE_DEG: dict[FinderSide, float] = {"up": 0.0, "left": -90.0, "right": 90.0}


class Orientation(Frozen):
    """What the eye sees of an offset (right, up) in the sky: ``matrix`` times it.

    ``turned_deg`` is the turn, counter-clockwise, after the mirroring (left-right) if any.
    """

    matrix: tuple[tuple[float, float], tuple[float, float]]
    is_mirrored: bool
    turned_deg: float
    chart: Chart
    words: str


def telescope_orientation(
    telescope: Telescope,
    diagonal: Diagonal | None,
    altitude_deg: float = 0.0,
    roll_deg: float = 0.0,
) -> Orientation:
    """Return how a telescope shows the sky with the diagonal it wears.

    ``altitude_deg`` is the target's, from -90 to 90.  ``roll_deg`` is how far the tube is turned
    about its own axis, clockwise seen from behind: on an equatorial head it follows the sky.

    Source: law of reflection; rules.md#orientation.
    """
    angle = telescope.eyepiece_angle_deg
    side = telescope.design_traits.usual_angle_deg if angle is None else angle
    side += roll_deg
    if telescope.design_traits.eyepiece_at_side:
        return _described(newtonian_matrix(side, altitude_deg))
    if diagonal is None:
        return _described(-np.eye(2))
    turned_with_head = diagonal_matrix(side, altitude_deg)
    if diagonal.kind == "mirror":
        return _described(turned_with_head)
    # a correct-image prism mirrors once more, left-right as it points
    return _described(turned_with_head @ _mirror_across(side))


def finder_orientation(kind: FinderKind, side: FinderSide = "up") -> Orientation:
    """Return how a finder shows the sky; a right-angle one may be looked into from a side.

    Source: rules.md#orientation.
    """
    traits, angle = FINDER_TRAITS[kind], SIDE_DEG[side]
    if not traits.at_right_angle:
        return _described(-np.eye(2) if traits.view == "turned" else np.eye(2))
    matrix = diagonal_matrix(angle)
    return _described(matrix if traits.view == "mirrored" else matrix @ _mirror_across(angle))


def newtonian_matrix(eyepiece_angle_deg: float, altitude_deg: float = 0.0) -> Floats:
    """Return the 2 by 2 matrix for a focuser pointing some degrees clockwise from up.

    The angle is seen from behind the tube, 90 to the right; the observer's head is upright by
    gravity, whatever the tube's altitude.

    Source: rules.md#orientation.
    """
    # the main mirror turns the image and sends the light back toward the sky
    return _seen(eyepiece_angle_deg, altitude_deg, light=1.0)


def diagonal_matrix(eyepiece_angle_deg: float, altitude_deg: float = 0.0) -> Floats:
    """Return the 2 by 2 matrix for a mirror diagonal pointing some degrees clockwise from up.

    Source: rules.md#orientation.
    """
    return _seen(eyepiece_angle_deg, altitude_deg, light=-1.0)


def _seen(eyepiece_angle_deg: float, altitude_deg: float, light: float) -> Floats:
    """Follow offsets to the right and up through a flat mirror into an upright head.

    ``light`` is 1 where it comes back from the main mirror toward the sky, -1 where it goes on.
    """
    angle, altitude = np.radians(eyepiece_angle_deg), np.radians(altitude_deg)
    ahead = np.cos(altitude) * AHEAD + np.sin(altitude) * UP
    above = np.cos(altitude) * UP - np.sin(altitude) * AHEAD  # the tube's own up
    outward = np.cos(angle) * above + np.sin(angle) * RIGHT
    normal = (outward - light * ahead) / np.sqrt(2)
    head_up = _head_up(outward)
    head_right = np.cross(-outward, head_up)
    columns = []
    for offset in (RIGHT, above):
        image = -offset  # every objective forms its image upside down
        reflected = image - 2 * (image @ normal) * normal
        columns.append([reflected @ head_right, reflected @ head_up])
    return np.array(columns).T


def _head_up(outward: Floats) -> Floats:
    """Return the direction of the crown of the head for an eye looking into the eyepiece.

    Looking down steeply one stands behind the tube, chin toward oneself; else one is upright.
    """
    crown = AHEAD if UP @ outward > np.cos(np.radians(STEEP_DEG)) - 1e-9 else UP
    upright = crown - (crown @ outward) * outward
    length = np.linalg.norm(upright)
    return np.asarray(upright / length) if length > 1e-6 else -AHEAD


def _mirror_across(eyepiece_angle_deg: float) -> Floats:
    """Return the mirroring left-right of a roof edge, for a prism pointing some degrees over."""
    doubled = 2 * np.radians(eyepiece_angle_deg)
    cosine, sine = np.cos(doubled), np.sin(doubled)
    return np.array([[-cosine, sine], [sine, cosine]])


def _described(matrix: Floats) -> Orientation:
    """Return a matrix with its words."""
    mirrored = bool(np.linalg.det(matrix) < 0)
    plain = matrix @ np.diag([-1.0, 1.0]) if mirrored else matrix
    turned = float(np.degrees(np.arctan2(plain[1, 0], plain[0, 0]))) % 360
    turned = 0.0 if turned > 359.5 else turned
    chart: Chart = "mirrored" if mirrored else "correct"
    rows = matrix.round(12).tolist()
    return Orientation(
        matrix=((rows[0][0], rows[0][1]), (rows[1][0], rows[1][1])),
        is_mirrored=mirrored,
        turned_deg=turned,
        chart=chart,
        words=_words(mirrored, turned),
    )


def _words(is_mirrored: bool, turned_deg: float) -> str:
    if not is_mirrored and turned_deg < 0.5:
        return "As the naked eye sees it: use the correct chart upright."
    side = "mirrored" if is_mirrored else "not mirrored"
    if turned_deg < 0.5:
        return "Mirrored left-right, upright: use the mirrored chart upright."
    chart = "mirrored" if is_mirrored else "correct"
    if abs(turned_deg - 180) < 0.5:
        return f"Turned, {side}: turn the {chart} chart upside down."
    turn, way = (turned_deg, "counter-clockwise") if turned_deg < 180 else (
        360 - turned_deg, "clockwise")  # fmt: skip
    return f"Turned {way} by {turn:.0f}°, {side}: turn the {chart} chart by as much."
