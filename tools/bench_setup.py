"""Measure the set-up bench: the tracking budget in one pass, and a live bubble being drawn."""

import math
import tempfile
import time

from playwright.sync_api import sync_playwright

from jade_perch.core.bench.budget import (
    Reading,
    ReadingName,
    budget_minutes,
    make_budget,
    standing_of,
)
from jade_perch.core.bench.tracking import horizon_vectors
from jade_perch.core.kit import Amplifier, Eyepiece, Telescope
from jade_perch.core.mounts import TRAITS
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.rungs import Rung
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.sky.targets import Placed, Target
from measure import PORT, Row, ask, launch, median_ms, server

LATITUDE_DEG = 48.7
TARGETS, RUNGS = 40, 30
LOOPED = 2  # targets the slow way is timed on; the rest is scaled
OMEGA_DEG = 15.041067 / 60
READINGS: dict[ReadingName, Reading] = {
    "level": Reading(value_deg=20 / 60, doubt_deg=0.1, toward_deg=70, is_recorded=True),
    "north": Reading(value_deg=1.5, doubt_deg=1, is_recorded=True),
    "pole": Reading(value_deg=0.5, doubt_deg=1, is_recorded=True),
}


def some_rungs() -> list[Rung]:
    tube = Telescope(id=1, name="T", aperture_mm=150, focal_length_mm=1200, design="newtonian")
    glass = [
        Eyepiece(id=n + 1, name=f"E{n}", focal_length_mm=4 + 3 * n, apparent_field_deg=60)
        for n in range(10)
    ]
    amplifiers = [Amplifier(id=n + 1, name=f"A{n}", factor=1.5 + n) for n in range(2)]
    return build_ladder(tube, glass, amplifiers, make_viewer(None, None, 3)).rungs


def some_places() -> list[Placed]:
    return [
        Placed(
            target=Target(key="p", label=f"P{n}", kind="star"),
            altitude_deg=20 + 1.6 * n,
            azimuth_deg=(37 * n) % 360,
        )
        for n in range(TARGETS)
    ]


def turned(vector: list[float], axis: list[float], angle_deg: float) -> list[float]:
    """One vector about one axis, number by number."""
    c, s = math.cos(math.radians(angle_deg)), math.sin(math.radians(angle_deg))
    along = sum(a * b for a, b in zip(vector, axis, strict=True))
    cross = [
        axis[1] * vector[2] - axis[2] * vector[1],
        axis[2] * vector[0] - axis[0] * vector[2],
        axis[0] * vector[1] - axis[1] * vector[0],
    ]
    return [
        v * c + x * s + a * along * (1 - c) for v, x, a in zip(vector, cross, axis, strict=True)
    ]


def one_by_one(places: list[Placed], rungs: list[Rung]) -> list[list[float]]:
    """The same for an equatorial mount, target by target, rung by rung, minute by minute."""
    standing = standing_of(READINGS)
    pole = horizon_vectors(LATITUDE_DEG, 0.0).tolist()
    axis = horizon_vectors(
        LATITUDE_DEG + standing.pole_altitude_error_deg, standing.azimuth_error_deg
    ).tolist()
    table = []
    for place in places:
        start = horizon_vectors(place.altitude_deg, place.azimuth_deg).tolist()
        row = []
        for rung in rungs:
            stay = math.inf
            for minute in budget_minutes().tolist():
                sky = turned(start, pole, -OMEGA_DEG * minute)
                seen = turned(start, axis, -OMEGA_DEG * minute)
                off = math.degrees(2 * math.asin(math.dist(sky, seen) / 2)) * 60
                if off > rung.true_field_deg * 30:
                    stay = minute
                    break
            row.append(stay)
        table.append(row)
    return table


def budget_in_one_pass() -> list[Row]:
    rungs, places = some_rungs(), some_places()
    assert len(rungs) == RUNGS
    times = {
        kind: median_ms(
            lambda kind=kind: make_budget(TRAITS[kind].drive, READINGS, places, rungs, LATITUDE_DEG)
        )
        for kind in ("altaz_motor", "equatorial")
    }
    slowest = max(times.values())
    # the whole budget follows the mount nominally, at each corner of the doubts, and for the gains
    corners = {"equatorial": 1 + 4}
    start = time.perf_counter()
    one_by_one(places[:LOOPED], rungs)
    loop_ms = (time.perf_counter() - start) * 1000 * TARGETS / LOOPED * corners["equatorial"]
    ratio = loop_ms / times["equatorial"]
    return [
        Row(
            f"budget of {TARGETS} targets × {RUNGS} rungs × 3 h, doubts and gains, in one pass",
            "150 ms",
            f"{slowest:.0f} ms",
            slowest < 150,
        ),
        Row(
            "the same against a loop target by target (nominal and doubts only)",
            "20 × faster",
            f"{ratio:.0f} × faster ({times['equatorial']:.0f} ms against {loop_ms / 1000:.1f} s)",
            ratio >= 20,
        ),
    ]


COUNT_FRAMES = """() => new Promise(done => {
  const line = document.querySelector('.live .figures')
  const seen = [], gaps = []
  let last = performance.now()
  const watch = new MutationObserver(() => {
    const now = performance.now()
    gaps.push(now - last)
    last = now
    seen.push(Number(line.textContent))
    if (seen.length === 150) {
      watch.disconnect()
      gaps.sort((a, b) => a - b)
      done([seen[149] - seen[0] + 1, new Set(seen).size, gaps[75]])
    }
  })
  watch.observe(line, { characterData: true, childList: true, subtree: true })
})"""


def a_live_bubble() -> list[Row]:
    with (
        tempfile.TemporaryDirectory() as data_dir,
        server("demo", data_dir),
        sync_playwright() as playwright,
    ):
        browser = launch(playwright)
        ask("/evening", {"telescope_id": 4}, "PATCH")  # motors: a level that counts
        page = browser.new_page()
        page.goto(f"http://127.0.0.1:{PORT}/setup")
        path = page.get_by_role("navigation", name="Set-up steps")
        path.get_by_role("button", name="Level").click()
        page.get_by_role("button", name="Live level").click()
        page.locator(".live .figures").wait_for()
        sent, drawn, gap_ms = page.evaluate(COUNT_FRAMES)
        browser.close()
    rate = 1000 / gap_ms
    what = "live bubble from the stand-in at 30 readings a second: drawn of sent, and rate"
    holds = drawn == sent and rate > 28
    return [Row(what, "all, 30 a second", f"{drawn} of {sent}, {rate:.0f} a second", holds)]
