"""One target told: the word for it, when it shows, where it stands, and what will be seen."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import numpy as np

from jade_perch.core.arrays import Floats, Integers
from jade_perch.core.evening.expect import Look, expected
from jade_perch.core.evening.judging import NAKED_EYE_FIELD_DEG, Gains, Judged
from jade_perch.core.evening.reasons import (
    GAIN_SAID,
    Standing,
    Times,
    When,
    over,
    reason_of,
    why_not_of,
)
from jade_perch.core.evening.tonight import Sight, Tonight, direction
from jade_perch.core.fields import Frozen
from jade_perch.core.kept import kept_with
from jade_perch.core.moments import utc_of
from jade_perch.core.optics.rungs import Rung
from jade_perch.core.optics.viewer import Viewer, naked_limit_mag
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.night import Night
from jade_perch.core.sky.nightsky import LOWEST_DEG, STEP_S, NightSky
from jade_perch.core.sky.seen import MISSING, NOT_SEEN, WORDS, Glasses, Word, word_of
from jade_perch.core.sky.targets import Target
from jade_perch.core.skyline import is_behind

EYE = "the eye alone"
TRACK_S = 3600.0  # a point of a track each hour
TRACKS_KEPT = 500  # of a night, some kilobytes each
MARGIN_COUNTS = 1.3  # more margin does not make a finer target; our choice
HIGH_COUNTS = 0.2  # of margin, for standing overhead instead of low; our choice
NEXT_SKYLINE_DEG = 1.5  # a last look so much over the lowest air ended behind the skyline; ours


class TrackPoint(Frozen):
    """Where a target stands at a moment; airless."""

    at_utc: datetime
    altitude_deg: float
    azimuth_deg: float


class Prospect(Frozen):
    """One target tonight; the place holds for ``Prospects.at_utc``, the rest for its best moment.

    ``margin`` is log10 of its light over the eye's threshold at the rung that is named.  Times are
    None where it does not show; ``sight`` says more of Moon and planets.
    """

    target: Target
    word: Word
    margin: float
    when: When
    reason: str
    altitude_deg: float
    azimuth_deg: float
    direction: str
    is_hidden: bool
    from_utc: datetime | None
    until_utc: datetime | None
    best_utc: datetime | None
    best_altitude_deg: float | None
    rung_key: str | None
    rung_label: str
    magnification: float
    expected: str
    is_noted: bool
    track: list[TrackPoint]
    sight: Sight | None


@dataclass(frozen=True, slots=True)
class Case:
    """What one list is made of: the sky of a night, who looks, through what.

    ``now_deg`` are altitudes and azimuths of the whole catalogue at the reference moment.
    """

    catalogue: Catalogue
    site: Site
    night: Night
    sky: NightSky
    viewer: Viewer
    rungs: Sequence[Rung]
    glasses: Glasses
    tonight: Tonight
    noted: Collection[str]
    now_deg: tuple[Floats, Floats]


@dataclass(frozen=True, slots=True)
class _Window:
    """When a target shows, and its entry and margin at the best of it."""

    times: Times
    entry: int
    margin: float
    moon_costs: float


def _window(case: Case, looks: tuple[Integers, Floats]) -> _Window:
    """Return the visible looks that go on now or come next, else the last there were."""
    entries, margins = looks
    seconds = case.sky.unix_s[case.sky.step[entries]]
    at_s = case.tonight.at_utc.timestamp()
    shows = np.flatnonzero(margins >= WORDS[-1][1])
    runs = np.split(shows, np.flatnonzero(np.diff(case.sky.step[entries][shows]) > 1) + 1)
    run = next((one for one in runs if seconds[one[-1]] + STEP_S > at_s), runs[-1])
    ahead = run[seconds[run] + STEP_S > at_s]
    left = ahead if ahead.size else run
    height = case.sky.altitude_deg[entries[left]] / 90
    best = int(left[np.argmax(np.minimum(margins[left], MARGIN_COUNTS) + HIGH_COUNTS * height)])
    when: When = "not tonight" if not ahead.size else "now" if seconds[run[0]] <= at_s else "later"
    start, end, peak = (utc_of(float(seconds[n])) for n in (run[0], run[-1], best))
    costs = _moon_costs(case, seconds[left], margins[left])
    times = Times(when, start, end, peak)
    return _Window(times, int(entries[best]), float(margins[best]), costs)


def _moon_sets(case: Case) -> datetime | None:
    """Return the night's last moonset; None where there is none."""
    moon = next(one for one in case.night.bodies if one.body == "moon")
    return next((span.end_utc for span in reversed(moon.up) if span.ends), None)


def _moon_costs(case: Case, seconds: Floats, margins: Floats) -> float:
    """Return how much better a target shows after moonset than before, in margin."""
    sets = _moon_sets(case)
    after = seconds >= (sets.timestamp() if sets else np.inf)
    if not after.any():
        return 0.0
    counted = np.minimum(margins, MARGIN_COUNTS)
    return float(counted[after].max() - counted[~after].max(initial=-1.0))


def told(
    case: Case,
    judged: Judged,
    number: int,
    looks: tuple[Integers, Floats],
    helped: Gains,
    sight: Sight | None,
) -> Prospect:
    """Return a judged target that shows tonight, told; ``looks`` is its course.

    Source: rules.md#prospects.
    """
    row = int(judged.rows[number])
    target, window = case.catalogue.target(row), _window(case, looks)
    rung = case.rungs[int(judged.rung[number])] if case.rungs else None
    times = window.times if sight is None else _sight_times(sight, window)
    standing = _standing(case, target, window, times, rung, gains_of(helped, number))
    word = word_of(window.margin)
    if times.when != "not tonight":
        reason = reason_of(standing)
    else:
        reason = over(standing) if sight is None else sight.why
    return Prospect(
        target=target,
        word=word if times.when != "not tonight" else NOT_SEEN,
        margin=window.margin,
        when=times.when,
        reason=reason,
        from_utc=times.from_utc,
        until_utc=times.until_utc,
        best_utc=times.best_utc,
        best_altitude_deg=float(case.sky.altitude_deg[window.entry]),
        rung_key=rung.key if rung else None,
        rung_label=rung.label if rung else EYE,
        magnification=rung.magnification if rung else 1.0,
        expected=expected(_look(case, row, target, word, rung)),
        is_noted=target.key in case.noted,
        track=_track(case.sky, row),
        sight=sight,
        **_place_now(case, row, sight),
    )


def gains_of(helped: Gains, number: int) -> dict[str, float]:
    """Return the gains of one target by name.  Source: the columns."""
    return {name: float(getattr(helped, name)[number]) for name in Gains.__slots__}


def _standing(
    case: Case,
    target: Target,
    window: _Window,
    times: Times,
    rung: Rung | None,
    gained: dict[str, float],
) -> Standing:
    size_deg = (target.major_arcmin or 0.0) / 60
    return Standing(
        target=target,
        word=word_of(window.margin),
        times=times,
        zone=case.site.zone,
        at_utc=case.tonight.at_utc,
        best_altitude_deg=float(case.sky.altitude_deg[window.entry]),
        moon_sets_utc=_moon_sets(case) if window.moon_costs >= GAIN_SAID else None,
        gains=gained,
        field_share=size_deg / rung.true_field_deg if rung else 0.0,
        rung_label=rung.label if rung else EYE,
        goes_behind=_goes_behind(case, window),
    )


def _goes_behind(case: Case, window: _Window) -> str:
    """Return what takes a target away at the end of its window; nothing where dawn does."""
    row, until = int(case.sky.row[window.entry]), window.times.until_utc
    looks = case.sky.looks(row)
    last = int(case.sky.step[looks][-1])
    if until is None or until < case.sky.moment_utc(last) or last == case.sky.unix_s.size - 1:
        return ""
    altitude = float(case.sky.altitude_deg[looks][-1])
    is_roof = altitude > LOWEST_DEG + NEXT_SKYLINE_DEG
    return "behind your skyline" if is_roof else f"under {LOWEST_DEG:.0f}°"


def _sight_times(sight: Sight, window: _Window) -> Times:
    """Return when a body is looked at, which daylight may allow too."""
    best = window.times.best_utc
    start, end = sight.best_from_utc, sight.best_until_utc
    if best is not None and start is not None and end is not None:
        best = min(max(best, start), end)
    return Times(sight.when, start, end, best)


def _place_now(case: Case, row: int, sight: Sight | None) -> dict[str, Any]:
    """Return where a target stands at the reference moment, and whether anything hides it."""
    altitude, azimuth = float(case.now_deg[0][row]), float(case.now_deg[1][row])
    if sight is not None:
        altitude, azimuth = sight.altitude_deg, sight.azimuth_deg
    return {
        "altitude_deg": altitude,
        "azimuth_deg": azimuth,
        "direction": direction(azimuth),
        "is_hidden": bool(is_behind(case.site.skyline, altitude, azimuth)),
    }


def look_of(case: Case, target: Target, word: Word, rung_key: str | None) -> Look:
    """Return what is looked at through a rung of the case, or the eye alone.

    Source: the catalogue's columns.
    """
    rung = next((one for one in case.rungs if one.key == rung_key), None)
    return _look(case, case.catalogue.row_of(target.key) or 0, target, word, rung)


def _look(case: Case, row: int, target: Target, word: Word, rung: Rung | None) -> Look:
    if rung is not None:
        return look_through(case.catalogue, row, target, word, rung)
    return Look(
        target=target,
        word=word,
        magnification=1.0,
        true_field_deg=NAKED_EYE_FIELD_DEG,
        faintest_mag=naked_limit_mag(case.viewer),
        aperture_mm=case.viewer.pupil.pupil_mm,
        **_made_of(case.catalogue, row),
    )


def look_through(catalogue: Catalogue, row: int, target: Target, word: Word, rung: Rung) -> Look:
    """Return one row of the catalogue as it is looked at through a rung.

    Source: the catalogue's columns.
    """
    return Look(
        target=target,
        word=word,
        magnification=rung.magnification,
        true_field_deg=rung.true_field_deg,
        faintest_mag=rung.faintest_mag,
        aperture_mm=rung.working_aperture_mm,
        **_made_of(catalogue, row),
    )


def _made_of(catalogue: Catalogue, row: int) -> dict[str, Any]:
    third, core = catalogue.numbers["third_star_mag"][row], catalogue.numbers["core_share"][row]
    return {
        "core_light": float(core) if np.isfinite(core) else 0.0,
        "third_star_mag": float(third) if np.isfinite(third) else None,
    }


@kept_with(TRACKS_KEPT)
def _track(sky: NightSky, row: int) -> list[TrackPoint]:
    """Return where a target can be looked at, at every hour and at both ends."""
    looks = sky.looks(row)
    entries = np.arange(looks.start, looks.stop)
    if not entries.size:
        return []
    seconds = sky.unix_s[sky.step[entries]]
    whole = np.flatnonzero(np.diff(seconds // TRACK_S, prepend=-1.0, append=-1.0)[:-1])
    chosen = np.unique([*whole.tolist(), 0, entries.size - 1])
    return [
        TrackPoint(
            at_utc=utc_of(float(seconds[n])),
            altitude_deg=round(float(sky.altitude_deg[entries[n]]), 2),
            azimuth_deg=round(float(sky.azimuth_deg[entries[n]]), 2),
        )
        for n in chosen
    ]


def told_by_sight(case: Case, sight: Sight) -> Prospect:
    """Return a body that is not looked at by night: by day, or not at all.

    Source: rules.md#prospects.
    """
    target = sight.target
    shows = sight.when != "not tonight"
    word: Word = WORDS[0][0] if shows else NOT_SEEN
    rung = case.rungs[0] if case.rungs else None
    row = case.catalogue.row_of(target.key) or 0
    return Prospect(
        target=target,
        word=word,
        margin=WORDS[0][1] if shows else MISSING,
        when=sight.when,
        reason="Up while the sky is still bright." if shows else sight.why,
        from_utc=sight.best_from_utc,
        until_utc=sight.best_until_utc,
        best_utc=sight.best_from_utc,
        best_altitude_deg=None,
        rung_key=rung.key if rung else None,
        rung_label=rung.label if rung else EYE,
        magnification=rung.magnification if rung else 1.0,
        expected=expected(_look(case, row, target, word, rung)),
        is_noted=target.key in case.noted,
        track=[],
        sight=sight,
        **_place_now(case, row, sight),
    )


def told_hidden(case: Case, row: int, gained: dict[str, float] | None) -> Prospect:
    """Return a target that does not show tonight, and why.

    ``gained`` is what would help, None where it never stands clear.

    Source: rules.md#prospects.
    """
    target = case.catalogue.target(row)
    rung = case.rungs[0] if case.rungs else None
    highest = float(case.sky.highest_deg[row])
    return Prospect(
        target=target,
        word=NOT_SEEN,
        margin=MISSING,
        when="not tonight",
        reason=why_not_of(gained, highest, LOWEST_DEG),
        from_utc=None,
        until_utc=None,
        best_utc=None,
        best_altitude_deg=None,
        rung_key=rung.key if rung else None,
        rung_label=rung.label if rung else EYE,
        magnification=rung.magnification if rung else 1.0,
        expected=expected(_look(case, row, target, NOT_SEEN, rung)),
        is_noted=target.key in case.noted,
        track=_track(case.sky, row),
        sight=None,
        **_place_now(case, row, None),
    )
