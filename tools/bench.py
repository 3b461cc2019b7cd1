"""Measure what the project promises about speed and size; writes docs/benchmarks.md.

Medians over several runs on this machine, ratios where two ways do the same work.
Run by ``make bench``.
"""

import gzip
import http.client
import json
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

from playwright.sync_api import sync_playwright
from skyfield.api import wgs84

from jade_perch.core.site import Site
from jade_perch.core.sky.ephemeris import BODIES, _almanac
from jade_perch.core.sky.night import make_night, night_track
from jade_perch.demo.loader import CLOCK

ROOT = Path(__file__).parents[1]
PORT = 8499
RUNS = 15
SITE = Site(
    name="Bench", latitude_deg=48.7, longitude_deg=8.1, elevation_m=420, zone="Europe/Berlin"
)


@dataclass(frozen=True)
class Row:
    """One promise: what, the limit, what was measured, and whether it holds."""

    what: str
    limit: str
    measured: str
    holds: bool


def median_ms(work: Callable[[], object], runs: int = RUNS) -> float:
    work()
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append((time.perf_counter() - start) * 1000)
    return statistics.median(times)


def ask(path: str, body: object = None, method: str = "GET") -> bytes:
    connection = http.client.HTTPConnection("127.0.0.1", PORT, timeout=30)
    text = None if body is None else json.dumps(body)
    connection.request(method, f"/api{path}", text, {"Content-Type": "application/json"})
    response = connection.getresponse()
    answer = response.read()
    if response.status >= 400:
        raise RuntimeError(f"{path}: {response.status} {answer[:200]!r}")
    connection.close()
    return answer


@contextmanager
def server(command: str, data_dir: str) -> Iterator[tuple[subprocess.Popen[bytes], float]]:
    """Start the application; gives the process and the seconds to its first answer."""
    start = time.perf_counter()
    process = subprocess.Popen(
        [
            *(sys.executable, "-m", "jade_perch.cli", command),
            *("--port", str(PORT), "--data-dir", data_dir, "--clock", CLOCK),
        ],
        stdout=subprocess.DEVNULL,
    )
    try:
        while True:
            try:
                ask("/plan/tonight")
                break
            except OSError:
                if process.poll() is not None:
                    raise
        yield process, time.perf_counter() - start
    finally:
        process.terminate()
        process.wait()


def start_and_memory() -> list[Row]:
    starts, resident_mb = [], 0.0
    for _ in range(5):
        with (
            tempfile.TemporaryDirectory() as data_dir,
            server("demo", data_dir) as (
                process,
                seconds,
            ),
        ):
            starts.append(seconds)
            for path in ("/evening", "/plan/tonight", "/powers/ladders"):
                for _ in range(20):
                    ask(path)
            status = Path(f"/proc/{process.pid}/status").read_text()
            resident_mb = int(status.split("VmRSS:")[1].split()[0]) / 1024
    middle = statistics.median(starts)
    return [
        Row("process start to first answer (tonight)", "2 s", f"{middle:.2f} s", middle < 2),
        Row("server resident after work", "200 MB", f"{resident_mb:.0f} MB", resident_mb < 200),
    ]


def through_http() -> list[Row]:
    with tempfile.TemporaryDirectory() as data_dir, server("serve", data_dir):
        for n in range(4):
            tube = {"name": f"T{n}", "aperture_mm": 100, "focal_length_mm": 700 + 100 * n}
            ask("/kit/telescopes", {**tube, "design": "newtonian"}, "POST")
        for n in range(20):
            glass = {"name": f"E{n}", "focal_length_mm": 3 + 1.7 * n, "apparent_field_deg": 60}
            ask("/kit/eyepieces", glass, "POST")
        for n in range(4):
            ask("/kit/amplifiers", {"name": f"A{n}", "factor": 1.5 + 0.5 * n}, "POST")
        ladders = median_ms(lambda: ask("/powers/ladders"))
        place = SITE.model_dump(exclude={"id"})
        ask("/evening/sites", place, "POST")
        tonight = median_ms(lambda: ask("/plan/tonight"))
        day = date(2027, 3, 1)
        fresh_ms = []
        for n in range(9):
            ask("/evening", {"date": (day + timedelta(days=n)).isoformat()}, "PUT")
            start = time.perf_counter()
            ask("/plan/tonight")
            fresh_ms.append((time.perf_counter() - start) * 1000)
    return [
        Row(
            "ladders of 4 telescopes × 20 eyepieces × 4 amplifiers",
            "30 ms",
            f"{ladders:.1f} ms",
            ladders < 30,
        ),
        Row("tonight, warm", "150 ms", f"{tonight:.1f} ms", tonight < 150),
        Row(
            "tonight after a change of date",
            "150 ms",
            f"{statistics.median(fresh_ms):.1f} ms",
            statistics.median(fresh_ms) < 150,
        ),
    ]


def one_pass_against_minute_by_minute() -> list[Row]:
    """The library is asked for every 40th minute and the time scaled up."""
    day = date(2027, 2, 13)

    def whole_night() -> None:
        night_track.cache_clear()
        make_night.cache_clear()
        make_night(SITE, day)

    ours = median_ms(whole_night, 7)
    kernel, scale = _almanac()
    here = kernel["earth"] + wgs84.latlon(48.7, 8.1, 420)
    start = datetime(2027, 2, 13, 11, tzinfo=UTC)
    asked = range(0, 1441, 40)
    began = time.perf_counter()
    for minute in asked:
        moment = scale.from_datetime(start + timedelta(minutes=minute))
        for body in BODIES:
            here.at(moment).observe(kernel[body.segment]).apparent().altaz()
    theirs = (time.perf_counter() - began) * 1000 * 1441 / len(asked)
    ratio = theirs / ours
    return [
        Row(
            "whole night of nine bodies in one pass, against minute by minute",
            "10 × faster",
            f"{ratio:.0f} × faster ({ours:.0f} ms against {theirs / 1000:.1f} s)",
            ratio > 10,
        )
    ]


def first_route() -> list[Row]:
    sizes = []
    with (
        tempfile.TemporaryDirectory() as data_dir,
        server("serve", data_dir),
        sync_playwright() as playwright,
    ):
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"]
        )
        page = browser.new_page()
        page.on(
            "response",
            lambda r: sizes.append(len(gzip.compress(r.body()))) if r.url.endswith(".js") else None,
        )
        page.goto(f"http://127.0.0.1:{PORT}/", wait_until="networkidle")
        browser.close()
    kilobytes = sum(sizes) / 1000
    return [
        Row("JavaScript of the first route, gzip", "250 kB", f"{kilobytes:.0f} kB", kilobytes < 250)
    ]


BENCHES = (through_http, one_pass_against_minute_by_minute, start_and_memory, first_route)


def main() -> int:
    rows = [row for bench in BENCHES for row in bench()]
    lines = [
        "# Benchmarks",
        "",
        "Written by `make bench`: medians on one machine (two cores), warm unless said otherwise.",
        "",
        "| what | limit | measured | holds |",
        "| --- | --- | --- | --- |",
        *(f"| {r.what} | {r.limit} | {r.measured} | {'yes' if r.holds else 'NO'} |" for r in rows),
        "",
        "The minute-by-minute way asks the same library for each body at each minute; it is timed",
        "on every 40th minute and scaled.",
    ]
    (ROOT / "docs/benchmarks.md").write_text("\n".join(lines) + "\n", "utf-8")
    print("\n".join(lines))
    return 0 if all(row.holds for row in rows) else 1


if __name__ == "__main__":
    sys.exit(main())
