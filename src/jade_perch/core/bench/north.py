"""North and pole: by compass, Polaris, shadow, landmark or star drift, north and south."""

from datetime import datetime
from typing import Annotated, Literal, Self

import numpy as np
from pydantic import model_validator

from jade_perch.core.bench.advice import Advice
from jade_perch.core.bench.angles import signed_deg
from jade_perch.core.bench.landmark import Aim, AimAt, Height
from jade_perch.core.bench.magnetic import COMPASS_DOUBT_DEG, Magnetic, magnetic_at
from jade_perch.core.bench.skymarks import (
    SHADOW_DOUBT_DEG,
    PlumbShadow,
    Polaris,
    no_polaris,
    polaris_at,
    shadow_at,
)
from jade_perch.core.bench.sunguard import LandmarkCheck
from jade_perch.core.bench.tracking import Standing, followed, horizon_vectors, sky_after
from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen, Range, refused
from jade_perch.core.kit import Mount
from jade_perch.core.site import Site
from jade_perch.core.sums import OWN_RULE, Sum

NorthWay = Literal["compass", "polaris", "shadow", "landmark", "drift"]
# How far each way of finding north may be off, in degrees; ours but for the compass; rules.md#north
DOUBT_DEG: dict[NorthWay, float] = {
    "compass": COMPASS_DOUBT_DEG,
    "polaris": 0.3,
    "shadow": SHADOW_DOUBT_DEG,
    "landmark": 0.5,
    "drift": 0.1,
}
IRON_DOUBT_DEG = 8.0  # a car, rails or the mount itself; our estimate
WEAK_DOUBT_DEG = 5.0  # a compass near the magnetic pole; our estimate
SCALE_DOUBT_DEG = 1.0  # how well a small latitude scale is read; our estimate
UNREAD_NORTH_DEG, UNREAD_TILT_DEG = 10.0, 1.0  # by eye, when nobody has measured; our estimate
SET_BY = ("set by this way, so no error is known", "doubt alone")
OTHER_WAYS = "a way that works at this place and minute"
NORTH_MINUTES = 10.0  # one way of finding north takes no longer; our estimate
DRIFT_READ_ARCMIN = 1.0  # a star's place against a field's edge is read to this; our estimate
CLOSE_ENOUGH_DEG = 1.0  # error of north that is fine to start with; our estimate


class NorthBoard(Frozen):
    """Every way to north at this place and minute, and what the mount wants set."""

    pole_is_south: bool
    has_polar_axis: bool
    latitude_scale_deg: float
    scale_words: str
    magnetic: Magnetic | None
    magnetic_words: str
    polaris: Polaris | None
    polaris_words: str
    shadow: PlumbShadow
    order: list[str]
    sums: list[Sum]


class NorthInput(Frozen):
    """How north was found, and what was measured.

    ``read_deg`` is what the mount's circle shows on something of known true bearing, or the
    compass along the mount's mark, ``source`` how that was read; a drift is positive when the
    star moved toward the north.
    """

    method: NorthWay
    near_iron: bool = False
    read_deg: Annotated[float, Range(0, 360, "°", "Read the circle.")] | None = None
    known_deg: Annotated[float, Range(0, 360, "°", "The true bearing, off a map.")] | None = None
    drift_arcmin: Annotated[float, Range(-120, 120, "arcmin", "North is positive.")] | None = None
    drift_minutes: Annotated[float, Range(1, 120, "min", "Time it with the clock.")] | None = None
    scale_deg: Annotated[float, Range(0, 90, "°", "Read the altitude scale.")] | None = None
    altitude_deg: Height | None = None
    source: Literal["typed", "live"] = "typed"

    @property
    def is_live(self) -> bool:
        """Whether the compass was read live rather than typed.  Source: rules.md#simulated."""
        return self.method == "compass" and self.source == "live" and self.read_deg is not None

    def aim(self) -> Aim:
        """Return what this way has the tube look at; compass and shadow need no look through.

        Source: rules.md#north.
        """
        if self.method == "landmark":
            place = {"bearing_deg": self.known_deg, "altitude_deg": self.altitude_deg}
            return Aim(at="landmark", job_minutes=NORTH_MINUTES, **place)
        at: AimAt = "stars" if self.method in ("polaris", "drift") else "capped"
        return Aim(at=at, job_minutes=NORTH_MINUTES)

    @model_validator(mode="after")
    def _measured(self) -> Self:
        needed = {"landmark": ("read_deg", "known_deg"), "drift": ("drift_arcmin", "drift_minutes")}
        for field in needed.get(self.method, ()):
            if getattr(self, field) is None:
                raise refused(field, None, "a value for this way", "Measure it, then type it.")
        return self


class NorthAdvice(Advice):
    """How far the mount is turned too far clockwise seen from above, and how sure; its pole too.

    Clockwise is positive: its north mark points east of north, its south end west of south.
    """

    azimuth_error_deg: float
    azimuth_doubt_deg: float
    pole_altitude_error_deg: float
    pole_altitude_doubt_deg: float
    sun: LandmarkCheck

    def noted(self) -> str:
        """Return the error in words.  Source: rules.md#north."""
        return f"North {self.azimuth_error_deg:+.1f}° ± {self.azimuth_doubt_deg:.2g}°."

    def figures(self) -> dict[str, float]:
        """Return the errors for the tracking budget.  Source: rules.md#north."""
        return {
            "azimuth_error_deg": self.azimuth_error_deg,
            "azimuth_doubt_deg": self.azimuth_doubt_deg,
            "pole_altitude_error_deg": self.pole_altitude_error_deg,
            "pole_altitude_doubt_deg": self.pole_altitude_doubt_deg,
        }


def north_board(site: Site, moment_utc: datetime, mount: Mount) -> NorthBoard:
    """Return every way to north there is at a place and minute.

    A way that does not work there is told with its reason.

    Source: rules.md#north.
    """
    is_south = site.latitude_deg < 0
    toward_deg = _toward_deg(site, mount)
    magnetic, magnetic_words = None, ""
    try:
        magnetic = magnetic_at(site, moment_utc, toward_deg)
        magnetic_words = magnetic.words
    except OutOfRange as outside:
        magnetic_words = str(outside)
    polaris = polaris_at(site, moment_utc)
    return NorthBoard(
        pole_is_south=is_south,
        has_polar_axis=mount.traits.has_polar_axis,
        latitude_scale_deg=abs(site.latitude_deg),
        scale_words=_scale_words(site.latitude_deg),
        magnetic=magnetic,
        magnetic_words=magnetic_words,
        polaris=polaris,
        polaris_words=no_polaris(site) if polaris is None else polaris.words,
        shadow=shadow_at(site, moment_utc),
        order=_order(mount, is_south),
        sums=[] if magnetic is None else [_compass_sum(magnetic, toward_deg)],
    )


def _toward_deg(site: Site, mount: Mount) -> float:
    """Return where the mount's mark is to point: an equatorial axis points to the pole."""
    return 180.0 if site.latitude_deg < 0 and mount.traits.has_polar_axis else 0.0


def _scale_words(latitude_deg: float) -> str:
    height = abs(latitude_deg)
    words = f"Set the altitude scale to {height:.1f}°, lock it and leave it alone all night."
    if height < 10:
        return words + " So near the equator the axis lies nearly level: mind the counterweight."
    if height > 70:
        return words + " So near the pole the axis stands nearly upright; north hardly matters."
    return words


def _order(mount: Mount, is_south: bool) -> list[str]:
    pole = "south" if is_south else "north"
    return [words.format(pole=pole) for words in mount.traits.order]


def drift_azimuth_error_deg(
    drift_arcmin: float, minutes: float, latitude_deg: float, altitude_deg: float = 45.0
) -> float:
    """Return by how much the mount is turned clockwise, in degrees, from a star on the meridian.

    The star is watched toward the equator; a drift toward the north is positive.  Found by
    following with an axis one degree off and comparing, so both hemispheres come out right.
    Raises ``OutOfRange`` within a degree of a pole, where azimuth means nothing.

    Source: exact rotations; the star-drift method of Sidgwick.
    """
    if abs(latitude_deg) > 89:
        raise OutOfRange("latitude_deg", latitude_deg, "-89 to 89 °", "Turn the mount freely.")
    toward = 180.0 if latitude_deg >= 0 else 0.0
    start = horizon_vectors(np.array([altitude_deg]), np.array([toward]))
    span = np.array([minutes])
    pole = horizon_vectors(latitude_deg, 0.0)
    sky = sky_after(start, latitude_deg, span)
    mount = followed("equatorial", Standing(azimuth_error_deg=1.0), start, latitude_deg, span)
    northward = float(np.degrees(np.arcsin(sky[0, 0] @ pole) - np.arcsin(mount[0, 0] @ pole)) * 60)
    return drift_arcmin / northward


def drift_doubt_deg(minutes: float, latitude_deg: float) -> float:
    """Return how far off north may be after a star was watched for so many minutes, in degrees.

    Source: rules.md#north; one reads a star's place to about ``DRIFT_READ_ARCMIN``.
    """
    by_reading = drift_azimuth_error_deg(DRIFT_READ_ARCMIN, minutes, latitude_deg)
    return float(np.hypot(DOUBT_DEG["drift"], by_reading))


def advise_north(
    given: NorthInput, site: Site, mount: Mount, moment_utc: datetime, sun: LandmarkCheck
) -> NorthAdvice:
    """Return how far off north is after one way of finding it, and what to turn.

    Raises ``OutOfRange`` for a way that does not work at this place and minute.

    Source: rules.md#north; doubts of other ways than the compass are our estimates.
    """
    error, doubt = 0.0, DOUBT_DEG[given.method]
    turn = "North is close enough: lock it and leave it alone."
    if given.method == "landmark" and given.read_deg is not None and given.known_deg is not None:
        # a circle that reads too little is turned too far clockwise
        error = signed_deg(given.known_deg - given.read_deg)
    elif given.method == "drift" and given.drift_minutes is not None:
        drift = given.drift_arcmin or 0.0
        error = drift_azimuth_error_deg(drift, given.drift_minutes, site.latitude_deg)
        doubt = drift_doubt_deg(given.drift_minutes, site.latitude_deg)
    elif given.method == "compass":
        magnetic = _compass(site, moment_utc, mount)
        doubt = _compass_doubt_deg(magnetic, given.near_iron)
        if given.read_deg is None:
            turn = f"Turn the mount until the compass reads {magnetic.reading_deg:.0f}°, then lock."
        else:
            error = signed_deg(given.read_deg - magnetic.reading_deg)
    elif given.method == "polaris":
        turn = _by_polaris(site, moment_utc)
    else:
        turn = _by_shadow(site, moment_utc, mount)
        doubt = shadow_at(site, moment_utc).doubt_deg
    pole_error = 0.0 if given.scale_deg is None else given.scale_deg - abs(site.latitude_deg)
    is_done = abs(error) <= CLOSE_ENOUGH_DEG and abs(pole_error) <= CLOSE_ENOUGH_DEG
    instruction = turn if is_done else _north_instruction(error, pole_error)
    if given.method == "drift" and doubt > max(CLOSE_ENOUGH_DEG, abs(error)):
        is_done = False
        longer = np.ceil((given.drift_minutes or 1.0) * doubt / CLOSE_ENOUGH_DEG)
        instruction = f"So short a drift says little: watch the star for {longer:.0f} min."
    return NorthAdvice(
        instruction=instruction,
        detail=_north_detail(given, doubt, mount),
        is_done=is_done,
        sums=[_north_sum(given, error, doubt, site)],
        azimuth_error_deg=error,
        azimuth_doubt_deg=doubt,
        pole_altitude_error_deg=pole_error,
        pole_altitude_doubt_deg=SCALE_DOUBT_DEG if mount.traits.has_polar_axis else 0.0,
        sun=sun,
    )


def _compass(site: Site, moment_utc: datetime, mount: Mount) -> Magnetic:
    magnetic = magnetic_at(site, moment_utc, _toward_deg(site, mount))
    if magnetic.is_useless:
        raise OutOfRange("method", "compass", OTHER_WAYS, magnetic.words)
    return magnetic


def _compass_doubt_deg(magnetic: Magnetic, near_iron: bool) -> float:
    if near_iron:
        return IRON_DOUBT_DEG
    return WEAK_DOUBT_DEG if magnetic.is_poor else DOUBT_DEG["compass"]


def _by_polaris(site: Site, moment_utc: datetime) -> str:
    polaris = polaris_at(site, moment_utc)
    if polaris is None:
        raise OutOfRange("method", "polaris", OTHER_WAYS, no_polaris(site))
    side = "west" if polaris.azimuth_offset_deg > 0 else "east"
    off_deg = abs(polaris.azimuth_offset_deg)
    return f"Turn the mount until it points {off_deg:.1f}° {side} of Polaris; lock it."


def _by_shadow(site: Site, moment_utc: datetime, mount: Mount) -> str:
    shadow = shadow_at(site, moment_utc)
    if shadow.shadow_azimuth_deg is None:
        raise OutOfRange("method", "shadow", OTHER_WAYS, shadow.words)
    toward = _toward_deg(site, mount)
    pole = "South" if toward else "North"
    across = signed_deg(shadow.shadow_azimuth_deg - toward)
    side = "left" if across > 0 else "right"
    return f"{pole} lies {abs(across):.0f}° {side} of the shadow now: turn there, then lock."


def _north_instruction(error: float, pole_error: float) -> str:
    if abs(error) > CLOSE_ENOUGH_DEG:
        way = "counter-clockwise" if error > 0 else "clockwise"
        return f"Turn the whole mount {abs(error):.1f}° {way}, seen from above."
    way = "down" if pole_error > 0 else "up"
    return f"Move the altitude scale {abs(pole_error):.1f}° {way}, then lock it."


def _north_detail(given: NorthInput, doubt: float, mount: Mount) -> str:
    iron = " Iron nearby makes a compass lie: step away or take another way." * (
        given.near_iron and given.method == "compass"
    )
    bolt = " The latitude bolt is not touched again tonight." * mount.traits.has_polar_axis
    return f"This way is good to about {doubt:.2g}°.{iron}{bolt}"


def _north_sum(given: NorthInput, error: float, doubt: float, site: Site) -> Sum:
    formula, worked = {
        "landmark": ("known − read", f"{given.known_deg}° − {given.read_deg}°"),
        "compass": ("compass − what it should read", f"compass {given.read_deg}°")
        if given.read_deg is not None
        else SET_BY,
        "drift": (
            "drift ÷ drift of an axis one degree off, by exact rotation",
            f"{given.drift_arcmin}′ in {given.drift_minutes} min at {site.latitude_deg:.1f}°",
        ),
    }.get(given.method, SET_BY)
    return Sum(
        title="Error of north",
        formula=formula,
        worked=worked,
        result=f"{error:+.1f}° ± {doubt:.2g}°",
        source=OWN_RULE,
        rule="north",
        sureness="about",
        note="Positive: turned too far clockwise, seen from above. The doubt of ways other than "
        "the compass is our estimate.",
    )


def _compass_sum(magnetic: Magnetic, toward_deg: float) -> Sum:
    return Sum(
        title="Compass reading to steer by",
        formula="true azimuth − declination (east positive)",
        worked=f"{toward_deg:.0f}° − {magnetic.declination_deg:+.1f}°",
        result=f"{magnetic.reading_deg:.1f}°",
        source="World Magnetic Model 2025, NOAA and BGS",
        rule="compass",
        sureness="about",
        note=f"Good to {COMPASS_DOUBT_DEG:g}° away from iron; the model itself to about half "
        "a degree.",
    )
