"""Minutes in the field for every target and rung, and which reading to improve first."""

from collections.abc import Mapping, Sequence
from itertools import product
from typing import Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.advice import Advice, compass_word, minutes_words
from jade_perch.core.bench.tracking import (
    Standing,
    hand_rates_arcmin_per_min,
    horizon_vectors,
    minutes_inside,
    offsets_arcmin,
    sky_after,
    zenith_zone_from_deg,
)
from jade_perch.core.constants import SIDEREAL_ARCMIN_PER_MIN
from jade_perch.core.fields import Frozen
from jade_perch.core.mounts import Drive
from jade_perch.core.optics.rungs import Rung
from jade_perch.core.sky.targets import Placed
from jade_perch.core.sums import Sum

SPAN_MIN, STEP_MIN = 180, 1.0
NUDGE_SHARE = 0.7  # a nudge is due when the target is 70 % out; rules.md#tracking
HAND_FASTEST, MOTOR_FASTEST = 10.0, 40.0  # times the sidereal rate; our estimates
ReadingName = Literal["level", "north", "pole"]
READING_WORDS: dict[ReadingName, str] = {
    "level": "the level of the base",
    "north": "the direction of north",
    "pole": "the height of the polar axis",
}

NAMES_OF: dict[Drive, tuple[ReadingName, ...]] = {
    "hand": (),
    "altaz": ("level", "north"),
    "equatorial": ("level", "north", "pole"),
}


class Reading(Frozen):
    """One recorded error of the set-up and how far it may be off, both in degrees.

    ``is_simulated`` where a stand-in was read: practice, not a measurement.
    """

    value_deg: float = 0.0
    doubt_deg: float = 0.0
    toward_deg: float = 0.0
    is_recorded: bool = False
    is_simulated: bool = False


class TargetMinutes(Frozen):
    """How long one target stays, by rung: as recorded, and at the worst of the doubts.

    None means all three hours.  ``nudge_words`` is for mounts pushed by hand.
    """

    label: str
    altitude_deg: float
    azimuth_deg: float
    minutes: list[float | None]
    worst_minutes: list[float | None]
    nudge_words: str


class Gain(Frozen):
    """What doing one reading better would give at the chosen rung."""

    reading: ReadingName
    words: str
    minutes_now: float | None
    minutes_then: float | None


class Budget(Advice):
    """Bars of minutes in the field, and what to improve."""

    drive: Drive
    rung_labels: list[str]
    rung_keys: list[str]
    targets: list[TargetMinutes]
    gains: list[Gain]
    readings: dict[ReadingName, Reading]


def standing_of(readings: Mapping[ReadingName, Reading]) -> Standing:
    """Return how the mount stands according to its readings.  Source: rules.md#tracking."""
    level, north, pole = readings["level"], readings["north"], readings["pole"]
    return Standing(60 * level.value_deg, level.toward_deg, north.value_deg, pole.value_deg)


def worst_standings(readings: Mapping[ReadingName, Reading], drive: Drive) -> list[Standing]:
    """Return the corners of what the readings leave open.

    A tilt larger than its doubt keeps its direction; else it may lean to any side.

    Source: rules.md#tracking.
    """
    level, north, pole = readings["level"], readings["north"], readings["pole"]
    poles = (1.0, -1.0) if drive == "equatorial" and pole.doubt_deg else (0.0,)
    norths = (1.0, -1.0) if north.doubt_deg else (0.0,)
    sides = (level.toward_deg,) if level.value_deg > level.doubt_deg else (0.0, 90.0, 180.0, 270.0)
    return [
        Standing(
            60 * (level.value_deg + level.doubt_deg),
            side,
            north.value_deg + sign * north.doubt_deg,
            pole.value_deg + other * pole.doubt_deg,
        )
        for side, sign, other in product(sides, norths, poles)
    ]


def zenith_from_deg(drive: Drive, latitude_deg: float) -> float | None:
    """Return the altitude above which a drive cannot follow, in degrees; None where it always can.

    Source: rules.md#tracking; how fast each turns is our estimate.
    """
    if drive == "equatorial":
        return None
    return zenith_zone_from_deg(latitude_deg, HAND_FASTEST if drive == "hand" else MOTOR_FASTEST)


def budget_minutes() -> Floats:
    """Return the minutes at which a budget looks: every one of three hours.

    Source: rules.md#tracking.
    """
    return np.arange(0.0, SPAN_MIN + STEP_MIN / 2, STEP_MIN)


def minutes_table(
    drive: Drive,
    standings: Sequence[Standing],
    sky: Floats,
    latitude_deg: float,
    radii_arcmin: Floats,
) -> Floats:
    """Return the shortest stay over some standings, in minutes: (targets, radii); inf if it stays.

    ``sky`` (N, T, 3) are horizon vectors at ``budget_minutes``, ``radii_arcmin`` field radii.

    Source: rules.md#tracking.
    """
    minutes = budget_minutes()
    tables = [
        minutes_inside(
            offsets_arcmin(drive, one, sky, latitude_deg, minutes), minutes, radii_arcmin
        )
        for one in standings
    ]
    return np.asarray(np.min(tables, axis=0))


def make_budget(
    drive: Drive,
    readings: Mapping[ReadingName, Reading],
    places: Sequence[Placed],
    rungs: Sequence[Rung],
    latitude_deg: float,
    chosen_key: str | None = None,
    sky: Floats | None = None,
) -> Budget:
    """Return how long each target stays in each rung's field, centre to edge.

    ``sky`` (N, T, 3) holds the places' real paths; None takes them all for stars.
    Unrecorded readings count as they are given: with the doubt of nobody having looked.

    Source: rules.md#tracking; exact rotations, refraction left out.
    """
    sky = sky_after(_vectors(places), latitude_deg, budget_minutes()) if sky is None else sky
    radii = np.array([rung.true_field_deg * 30 for rung in rungs])
    nominal = minutes_table(drive, [standing_of(readings)], sky, latitude_deg, radii)
    corners = worst_standings(readings, drive)
    worst = np.minimum(nominal, minutes_table(drive, corners, sky, latitude_deg, radii))
    number = next((n for n, rung in enumerate(rungs) if rung.key == chosen_key), 0)
    gains = [] if drive == "hand" else _gains(drive, readings, sky, latitude_deg, radii[number])
    zenith = zenith_from_deg(drive, latitude_deg)
    targets = [
        _target(place, row, low, number, drive, latitude_deg)
        for place, row, low in zip(places, nominal.tolist(), worst.tolist(), strict=True)
    ]
    label = rungs[number].label
    return Budget(
        instruction=_instruction(drive, gains, targets, number),
        detail=_detail(drive, zenith, label, readings),
        is_done=True,
        sums=[_sum(drive, readings, places[0], nominal[0, number], label, latitude_deg)],
        simulated=_practised(drive, readings),
        drive=drive,
        rung_labels=[rung.label for rung in rungs],
        rung_keys=[rung.key for rung in rungs],
        targets=targets,
        gains=gains,
        readings=dict(readings),
    )


def _median_stay(
    drive: Drive,
    readings: Mapping[ReadingName, Reading],
    sky: Floats,
    latitude_deg: float,
    radii_arcmin: Floats,
) -> float:
    standings = [standing_of(readings), *worst_standings(readings, drive)]
    table = minutes_table(drive, standings, sky, latitude_deg, radii_arcmin)
    return float(np.median(np.where(np.isfinite(table), table, SPAN_MIN)))


def _target(
    place: Placed,
    nominal: list[float],
    worst: list[float],
    number: int,
    drive: Drive,
    latitude_deg: float,
) -> TargetMinutes:
    nudge = ""
    if drive == "hand":
        nudge = _nudge_words(place, NUDGE_SHARE * nominal[number], latitude_deg)
    return TargetMinutes(
        label=place.target.label,
        altitude_deg=place.altitude_deg,
        azimuth_deg=place.azimuth_deg,
        minutes=[_finite(value) for value in nominal],
        worst_minutes=[_finite(value) for value in worst],
        nudge_words=nudge,
    )


def _vectors(places: Sequence[Placed]) -> Floats:
    altitudes = np.array([one.altitude_deg for one in places])
    return horizon_vectors(altitudes, np.array([one.azimuth_deg for one in places]))


def _finite(minutes: float) -> float | None:
    return minutes if np.isfinite(minutes) else None


def _gains(
    drive: Drive,
    readings: Mapping[ReadingName, Reading],
    sky: Floats,
    latitude_deg: float,
    radius_arcmin: float,
) -> list[Gain]:
    """Return what each reading costs, the costliest first, by the median target's stay."""
    at = (sky, latitude_deg, np.array([radius_arcmin]))
    now = _median_stay(drive, readings, *at)
    names = NAMES_OF[drive]
    then = {
        name: _median_stay(drive, {**readings, name: Reading(is_recorded=True)}, *at)
        for name in names
    }
    return [
        Gain(
            reading=name,
            minutes_now=now,
            minutes_then=then[name],
            words=f"With {READING_WORDS[name]} perfect: {minutes_words(now)} would become "
            f"{minutes_words(then[name])}.",
        )
        for name in sorted(names, key=lambda one: -then[one])
    ]


def _nudge_words(place: Placed, minutes: float, latitude_deg: float) -> str:
    if not np.isfinite(minutes):
        return "needs no nudge"
    up, across = hand_rates_arcmin_per_min(place.altitude_deg, place.azimuth_deg, latitude_deg)
    side = "right" if across > 0 else "left"
    rise = "up" if up > 0 else "down"
    across_sky = float(abs(across) * np.cos(np.radians(place.altitude_deg)))
    parts = [(across_sky, side), (abs(float(up)), rise)]
    words = " and ".join(word for size, word in sorted(parts, reverse=True) if size > 1.5)
    return f"nudge {words or 'a hair'} every {minutes_words(minutes)}"


def _instruction(
    drive: Drive, gains: Sequence[Gain], targets: Sequence[TargetMinutes], number: int
) -> str:
    if drive == "hand":
        stays = sorted(one.minutes[number] or SPAN_MIN for one in targets)
        every = minutes_words(NUDGE_SHARE * stays[0])
        return f"Nudge by hand at least every {every} in this eyepiece."
    best = gains[0]
    gain = (best.minutes_then or 0) - (best.minutes_now or 0)
    if gain < 1:
        return "Nothing more to gain: look."
    return f"Improve {READING_WORDS[best.reading]} first: it costs most."


def _detail(
    drive: Drive, zenith: float | None, label: str, readings: Mapping[ReadingName, Reading]
) -> str:
    zone = (
        ""
        if zenith is None
        else f" From {zenith:.0f}° up an altazimuth mount cannot follow: wait until it has passed."
    )
    if drive == "hand":
        return f"Bars: centre to edge without touching it. Nudges are for {label}.{zone}"
    open_words = [READING_WORDS[name] for name in NAMES_OF[drive] if not readings[name].is_recorded]
    open_part = f" Not read yet: {', '.join(open_words)}." if open_words else ""
    by_itself = (
        " Set by level and north alone: a mount corrected on stars does better."
        if drive == "altaz"
        else " A motor or your hand turns the one knob at the sky's pace."
    )
    return (
        "Bars: centre to edge while the mount follows; solid at the worst of the doubts, open as "
        f"recorded.{by_itself}{open_part}{_simulated_words(drive, readings)}{zone}"
    )


def _simulated_words(drive: Drive, readings: Mapping[ReadingName, Reading]) -> str:
    """Return in a sentence which of the readings are only simulated; empty for none."""
    practised = [READING_WORDS[name] for name in NAMES_OF[drive] if readings[name].is_simulated]
    return f" Simulated, practice only: {', '.join(practised)}." if practised else ""


def _practised(drive: Drive, readings: Mapping[ReadingName, Reading]) -> str:
    return " and ".join(name for name in NAMES_OF[drive] if readings[name].is_simulated)


def _marked(reading: Reading) -> str:
    return " (simulated)" if reading.is_simulated else ""


def _sum(
    drive: Drive,
    readings: Mapping[ReadingName, Reading],
    place: Placed,
    minutes: float,
    label: str,
    latitude_deg: float,
) -> Sum:
    level, north, pole = readings["level"], readings["north"], readings["pole"]
    errors = f"tilt {60 * level.value_deg:.0f}′ toward {level.toward_deg:.0f}°{_marked(level)}"
    errors += f", north {north.value_deg:+.1f}°{_marked(north)}"
    if drive == "equatorial":
        errors += f", pole {pole.value_deg:+.1f}°{_marked(pole)}"
    formula = {
        "hand": f"radius ÷ ({SIDEREAL_ARCMIN_PER_MIN:.2f}′/min · cos δ)",
        "altaz": "turned about the pole as it lies in the turned and tilted base's own frame",
        "equatorial": "turned about the mount's own polar axis at the sidereal rate",
    }[drive]
    return Sum(
        title=f"{place.target.label} in {label}",
        formula=formula,
        worked=f"at {place.altitude_deg:.0f}° up, {compass_word(place.azimuth_deg)}, latitude "
        f"{latitude_deg:.1f}°" + ("" if drive == "hand" else f"; {errors}"),
        result=minutes_words(minutes),
        source="Exact rotations",
        rule="tracking",
        sureness="about",
        note="Refraction, wind and slack gears are not in it. How fast an altazimuth mount can "
        "turn, and so where its zenith zone begins, is our estimate.",
    )
