"""When Jupiter's moons pass before it or behind it, and their shadows and its own over them."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime
from functools import lru_cache
from typing import Literal

import numpy as np

from jade_perch.core.arrays import Floats, Truths
from jade_perch.core.fields import Frozen
from jade_perch.core.moments import utc_of
from jade_perch.core.site import Site
from jade_perch.core.sky.ephemeris import INDEX, Track, make_moment
from jade_perch.core.sky.jovian import MOON_NAMES, jovian_moons
from jade_perch.core.sky.night import night_track

STEP_S = 240.0  # a passage shorter than this may be missed
EVENT_S = 10.0  # how finely its ends are found; the theory is good to a minute or two
Passage = Literal["transit", "occultation", "shadow", "eclipse"]
PASSAGES: tuple[Passage, ...] = ("transit", "occultation", "shadow", "eclipse")
PASSAGE_WORDS: dict[Passage, str] = {
    "transit": "before the disc",
    "occultation": "behind the disc",
    "shadow": "shadow on the disc",
    "eclipse": "in Jupiter's shadow",
}


class JovianEvent(Frozen):
    """One passage of one moon's centre; an end outside the night is None."""

    moon: str
    passage: Passage
    words: str
    starts_utc: datetime | None
    ends_utc: datetime | None


@dataclass(frozen=True, slots=True)
class JovianSky:
    """Jupiter over a night: where it stands, seen from here and from the Sun."""

    track: Track
    to_icrs: Floats

    def toward(self, unix_s: float) -> tuple[Floats, Floats, float]:
        """Return the directions (ICRS) toward Jupiter from here and from the Sun, and its distance.

        Source: JPL DE421.
        """
        at, jupiter, sun = np.array([unix_s]), INDEX["jupiter"], INDEX["sun"]
        places, distances = self.track.directions(at)[:, :, 0], self.track.distances_au(at)[:, 0]
        from_here = self.to_icrs @ places[jupiter]
        away = self.to_icrs @ (places[jupiter] * distances[jupiter] - places[sun] * distances[sun])
        return from_here, away / np.linalg.norm(away), float(distances[jupiter])

    def passing(self, unix_s: float) -> Truths:
        """Return which moon is in which passage at a moment, shape (4 moons, 4 passages).

        Source: rules.md#planets: light time once for the view from here, and the same moment at
        Jupiter for the shadows, seen from the Sun.
        """
        here, from_sun, distance_au = self.toward(unix_s)
        moment = utc_of(unix_s)
        return np.array([
            [
                seen.is_within_disc and seen.is_in_front,
                seen.is_within_disc and not seen.is_in_front,
                lit.is_within_disc and lit.is_in_front,
                lit.is_within_disc and not lit.is_in_front,
            ]
            for seen, lit in zip(
                jovian_moons(moment, here, distance_au),
                jovian_moons(moment, from_sun, distance_au),
                strict=True,
            )
        ])  # fmt: skip


def jovian_events(site: Site, day: date) -> list[JovianEvent]:
    """Return the passages of a night in the order they begin; kept for the next asker.

    Source: rules.md#planets; Meeus, Astronomical Algorithms, ch. 44.
    """
    return list(_events(site, day))


@lru_cache(maxsize=16)
def _events(site: Site, day: date) -> tuple[JovianEvent, ...]:
    track = night_track(site, day)
    middle = utc_of((track.start_s + track.end_s) / 2)
    sky = JovianSky(track, make_moment(middle).to_date.T)
    grid = np.arange(track.start_s, track.end_s, STEP_S)
    states = np.array([sky.passing(float(at)) for at in grid])
    events = [
        _event(sky, grid, states[:, moon, passage], first, last, (moon, passage))
        for moon in range(len(MOON_NAMES))
        for passage in range(len(PASSAGES))
        for first, last in _runs(states[:, moon, passage])
    ]
    return tuple(sorted(events, key=lambda one: one.starts_utc or utc_of(track.start_s)))


def _runs(state: Truths) -> list[tuple[int, int]]:
    """Return first and last index of each unbroken run of truths."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], state, [False]])))
    return [(int(a), int(b) - 1) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def _event(
    sky: JovianSky,
    grid: Floats,
    state: Truths,
    first: int,
    last: int,
    which: tuple[int, int],
) -> JovianEvent:
    moon, passage = which

    def _is_on(unix_s: float) -> bool:
        return bool(sky.passing(unix_s)[which])

    begins = None if first == 0 else _change(_is_on, grid[first - 1], grid[first])
    ends = None if last == state.size - 1 else _change(_is_on, grid[last], grid[last + 1])
    return JovianEvent(
        moon=MOON_NAMES[moon],
        passage=PASSAGES[passage],
        words=PASSAGE_WORDS[PASSAGES[passage]],
        starts_utc=None if begins is None else utc_of(begins),
        ends_utc=None if ends is None else utc_of(ends),
    )


def _change(is_on: Callable[[float], bool], low_s: float, high_s: float) -> float:
    """Return when a state changes between two moments at which it differs."""
    before = is_on(low_s)
    while high_s - low_s > EVENT_S:
        middle = (low_s + high_s) / 2
        low_s, high_s = (middle, high_s) if is_on(middle) == before else (low_s, middle)
    return (low_s + high_s) / 2
