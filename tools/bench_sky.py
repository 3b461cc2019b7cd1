"""Measure the sky of a whole catalogue over a night, the order of an evening, and the calendar."""

import tempfile
import time
import tracemalloc
from datetime import UTC, date, datetime, timedelta

import numpy as np
from skyfield.api import Star, wgs84

from jade_perch.core.evening.judging import judge
from jade_perch.core.evening.schedule import Problem, best_order
from jade_perch.core.kit import Eyepiece, Telescope
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.rungs import glasses_of
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.sky import calendar, nightsky
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.sky.ephemeris import _almanac
from jade_perch.core.sky.night import make_night, night_track
from jade_perch.core.sky.seen import Glasses
from measure import SITE, Row, ask, median_ms, server

DAY = date(2027, 2, 13)
RUNGS = 12
LOOPED = 40  # objects asked one by one, and scaled
THINGS = catalogue()


def _glass():
    tube = Telescope(id=1, name="T", aperture_mm=140, focal_length_mm=760, design="newtonian")
    eyepieces = [
        Eyepiece(id=n + 1, name=str(n), focal_length_mm=32 / 1.2**n, apparent_field_deg=60)
        for n in range(RUNGS)
    ]
    viewer = make_viewer(None, SITE, 5)
    return glasses_of(build_ladder(tube, eyepieces, [], viewer).rungs), viewer


def whole_catalogue() -> list[Row]:
    night = make_night(SITE, DAY)
    glasses, viewer = _glass()
    rows = np.arange(len(THINGS))

    def warm() -> None:
        sky = nightsky.make_night_sky(THINGS, SITE, night)
        judge(THINGS, sky, rows, glasses, viewer.field_factor)

    def cold() -> None:
        night_track.cache_clear()
        nightsky._night_sky.cache_clear()
        warm()

    def anew() -> None:
        nightsky._night_sky.cache_clear()
        warm()

    cold_ms, warm_ms, anew_ms = median_ms(cold, 7), median_ms(warm), median_ms(anew, 7)
    bare_ms, loop_ms = median_ms(lambda: _bare(glasses), 5), _one_by_one()
    tracemalloc.start()
    cold()
    peak_mb = tracemalloc.get_traced_memory()[1] / 1e6
    tracemalloc.stop()
    what = f"{len(THINGS)} objects over a night, every 5 min, through {RUNGS} rungs"
    return [
        Row(f"{what}, cold", "500 ms", f"{cold_ms:.0f} ms", cold_ms < 500),
        Row(f"{what}, warm", "150 ms", f"{warm_ms:.0f} ms", warm_ms < 150),
        Row(
            "the same positions object by object with the library",
            "20 × faster",
            f"{loop_ms / cold_ms:.0f} × faster ({cold_ms:.0f} ms against {loop_ms / 1000:.0f} s)",
            loop_ms > 20 * cold_ms,
        ),
        Row(
            "against the bare arithmetic on the whole grid, bodies' tracks known",
            "within 3 ×",
            f"{anew_ms / bare_ms:.1f} × ({anew_ms:.0f} ms against {bare_ms:.0f} ms)",
            anew_ms < 3 * bare_ms,
        ),
        Row("its extra memory at most", "300 MB", f"{peak_mb:.0f} MB", peak_mb < 300),
    ]


def _bare(glasses: Glasses) -> None:
    """Positions, air and sky of the whole grid in the plainest arrays, then the thresholds."""
    track = night_track(SITE, DAY)
    unix_s = nightsky.sunless(SITE, track)
    local = np.radians(track.sidereal_at_deg(unix_s) + SITE.longitude_deg)
    latitude = np.radians(SITE.latitude_deg)
    up = np.stack(
        [np.cos(latitude) * np.cos(local), np.cos(latitude) * np.sin(local),
         np.full(local.shape, np.sin(latitude))]
    )  # fmt: skip
    east = np.stack([-np.sin(local), np.cos(local), np.zeros(local.shape)])
    north = np.cross(up, east, axis=0)
    places = np.nan_to_num(THINGS.directions)
    sine = places @ up
    altitude = np.arcsin(np.clip(sine, -1, 1))
    np.arctan2(places @ east, places @ north)
    through = 1 / np.sqrt(1 - 0.96 * np.cos(altitude) ** 2)
    sky = through * 10 ** (-0.1 * (through - 1))
    moon = np.arccos(np.clip(places @ up[:, :1], -1, 1))
    sky = sky + 10**5.36 * (1.06 + np.cos(moon) ** 2) + 10 ** (6.15 - np.degrees(moon) / 40)
    behind = sky.max(axis=1)[:, np.newaxis] * glasses.relative_brightness * 1e-9
    for _ in range(3):
        quarter = behind**-0.25
        power = 1.146 - 0.0885 * np.log10(behind)
        ((quarter / 50) ** power + quarter**power) ** (1 / power)


def _one_by_one() -> float:
    kernel, scale = _almanac()
    here = kernel["earth"] + wgs84.latlon(48.7, 8.1, 420)
    unix_s = nightsky.sunless(SITE, night_track(SITE, DAY))
    times = scale.from_datetimes([datetime.fromtimestamp(s, UTC) for s in unix_s])
    numbers = THINGS.numbers
    rows = np.flatnonzero(np.isfinite(numbers["ra_deg"]))[::250][:LOOPED]
    began = time.perf_counter()
    for row in rows.tolist():
        star = Star(ra_hours=numbers["ra_deg"][row] / 15, dec_degrees=numbers["dec_deg"][row])
        here.at(times).observe(star).apparent().altaz()
    return (time.perf_counter() - began) * 1000 * len(THINGS) / len(rows)


def orders_of_an_evening() -> list[Row]:
    rng = np.random.default_rng(7)

    def problem(count: int) -> Problem:
        gain = rng.uniform(0.2, 2, (count, 130))
        gain[rng.random((count, 130)) < 0.3] = -np.inf
        return Problem(gain, rng.integers(1, 5, count), rng.uniform(0, 0.3, (count, count)))

    dozen, many = problem(12), problem(40)
    exact_ms = median_ms(lambda: best_order(dozen), 7)
    many_ms = median_ms(lambda: best_order(many), 7)
    found = best_order(many)
    share = 100 * found.value / found.bound
    return [
        Row("best order of 12 targets over a night, exact", "300 ms", f"{exact_ms:.0f} ms",
            exact_ms < 300),
        Row(f"good order of 40, at least {share:.0f} % of the best", "1 s", f"{many_ms:.0f} ms",
            many_ms < 1000),
    ]  # fmt: skip


def cards_of_a_dozen() -> list[Row]:
    keys = [
        "moon",
        "jupiter",
        "m42",
        "m45",
        "m31",
        "m35",
        "castor",
        "m81",
        "m1",
        "m44",
        "m37",
        "m67",
    ]
    with tempfile.TemporaryDirectory() as data_dir, server("demo", data_dir):
        ask("/plan/schedule", {"target_keys": keys}, "POST")
        ask("/plan/tonight")
        first = time.perf_counter()
        ask("/plan/cards.pdf")
        first_ms = (time.perf_counter() - first) * 1000
        cards_ms = median_ms(lambda: ask("/plan/cards.pdf"), 5)
        page_ms = median_ms(lambda: ask("/plan/tonight"), 9)
        hours_ms = median_ms(lambda: ask("/plan/weather"), 9)
    return [
        Row("field cards of 12 targets through HTTP, first", "2 s", f"{first_ms:.0f} ms",
            first_ms < 2000),
        Row("field cards of 12 targets through HTTP, again", "2 s", f"{cards_ms:.0f} ms",
            cards_ms < 2000),
        Row("tonight's list through HTTP, warm", "200 ms", f"{page_ms:.0f} ms", page_ms < 200),
        Row("the night's weather through HTTP (our own limit)", "50 ms", f"{hours_ms:.0f} ms",
            hours_ms < 50),
    ]  # fmt: skip


def sixty_nights() -> list[Row]:
    days = iter(DAY + timedelta(days=n) for n in range(400))

    def fresh() -> None:
        calendar.dark_calendar(SITE, next(days))

    fresh_ms = median_ms(fresh, 5)
    search_ms = max(
        median_ms(lambda text=text: THINGS.search(text, 12))
        for text in ("m", "ngc 7", "galaxy leo")
    )
    return [
        Row("calendar of 60 nights, cold (our own limit)", "1 s", f"{fresh_ms:.0f} ms",
            fresh_ms < 1000),
        Row("search among all of them, as typed", "50 ms", f"{search_ms:.0f} ms", search_ms < 50),
    ]  # fmt: skip
