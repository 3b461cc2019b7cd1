"""Measure what the project promises about speed and size; writes docs/benchmarks.md.

Medians over several runs on this machine, ratios where two ways do the same work.
Run by ``make bench``; with names of benches, ``tools/bench.py first_view``, only these are
measured, and printed instead of written.
"""

import statistics
import sys
import tempfile
import time
from datetime import UTC, date, datetime, timedelta
from itertools import count
from pathlib import Path

from skyfield.api import wgs84

from bench_eyepiece import a_night_at_speed, a_press_and_back, four_hands
from bench_hands import hands_table, measure_hands
from bench_journal import a_life_in_the_journal
from bench_large import a_large_catalogue, a_long_journal
from bench_page import a_crowded_ladder, a_long_table, first_route, first_view
from bench_practice import drill_frames, drill_steps
from bench_setup import a_live_bubble, budget_in_one_pass
from bench_sky import cards_of_a_dozen, orders_of_an_evening, sixty_nights, whole_catalogue
from jade_perch.core.evening.case import best_case
from jade_perch.core.kit import Amplifier, Diagonal, Eyepiece, Telescope
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.sky.ephemeris import BODIES, _almanac
from jade_perch.core.sky.night import make_night, night_track
from measure import ROOT, SITE, Row, ask, median_ms, server


def start_and_memory() -> list[Row]:
    pages, starts, resident_mb = [], [], 0.0
    for _ in range(5):
        with (
            tempfile.TemporaryDirectory() as data_dir,
            server("demo", data_dir) as (
                process,
                page_s,
                seconds,
            ),
        ):
            pages.append(page_s)
            starts.append(seconds)
            for path in ("/evening", "/plan/tonight", "/powers/ladders"):
                for _ in range(20):
                    ask(path)
            status = Path(f"/proc/{process.pid}/status").read_text()
            resident_mb = int(status.split("VmRSS:")[1].split()[0]) / 1024
    first, middle = statistics.median(pages), statistics.median(starts)
    return [
        Row("process start to first answer (the page)", "1.5 s", f"{first:.2f} s", first < 1.5),
        Row("process start to tonight worked out (a first start)", "", f"{middle:.2f} s", True),
        Row("server resident after work", "300 MB", f"{resident_mb:.0f} MB", resident_mb < 300),
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
        declinations = count(-80.0, 0.1)  # another one each time, so that nothing is kept
        ladders = median_ms(
            lambda: ask(f"/powers/ladders?declination_deg={next(declinations):.1f}")
        )
        again = median_ms(lambda: ask("/powers/ladders"))
        place = SITE.model_dump(exclude={"id"})
        ask("/evening/sites", place, "POST")
        tonight = median_ms(lambda: ask("/plan/tonight"))
        day = date(2027, 3, 1)
        fresh_ms = []
        for n in range(9):
            ask("/evening", {"date": (day + timedelta(days=n)).isoformat()}, "PATCH")
            start = time.perf_counter()
            ask("/plan/tonight")
            fresh_ms.append((time.perf_counter() - start) * 1000)
    what = "ladders of 4 telescopes × 20 eyepieces × 4 amplifiers"
    return [
        Row(f"{what}, warm", "30 ms", f"{again:.1f} ms", again < 30),
        Row(
            "the same worked out anew after a change (our own limit)",
            "60 ms",
            f"{ladders:.1f} ms",
            ladders < 60,
        ),
        Row("tonight, warm", "200 ms", f"{tonight:.1f} ms", tonight < 200),
        Row(
            "tonight after a change of date, the whole catalogue anew (our own limit)",
            "700 ms",
            f"{statistics.median(fresh_ms):.1f} ms",
            statistics.median(fresh_ms) < 700,
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


def glass(count: int) -> list[Eyepiece]:
    return [
        Eyepiece(id=n + 1, name=f"E{n}", focal_length_mm=3 + 0.6 * n, apparent_field_deg=60)
        for n in range(count)
    ]


def powers_in_the_core() -> list[Row]:
    diagonals: dict[int | None, Diagonal | None] = {1: Diagonal(id=1, name="D")}
    telescopes = [
        Telescope(
            id=n + 1,
            name=f"T{n}",
            aperture_mm=100 + 10 * n,
            focal_length_mm=700 + 100 * n,
            design="newtonian",
            mask_opening_mm=40,
            diagonal_id=1,
        )
        for n in range(10)
    ]
    amplifiers = [Amplifier(id=n + 1, name=f"A{n}", factor=1.5 + 0.5 * n) for n in range(6)]
    viewer = make_viewer(None, SITE, 3)

    amplified = count(2.0, 0.001)  # another one each time, so that nothing is kept

    def ladders() -> object:
        first = amplifiers[0].model_copy(update={"factor": next(amplified)})
        case = [first, *amplifiers[1:]]
        return [build_ladder(one, glass(60), case, viewer, diagonals[1]) for one in telescopes[:2]]

    whole = median_ms(ladders)
    ladder = build_ladder(telescopes[0], glass(20), amplifiers, viewer)
    case = median_ms(lambda: best_case(ladder, 5))
    return [
        Row(
            "ladders of 2 telescopes × 60 eyepieces × 6 amplifiers worked out anew, core",
            "120 ms",
            f"{whole:.1f} ms",
            whole < 120,
        ),
        Row("best 5 of 20 eyepieces, every set compared", "200 ms", f"{case:.0f} ms", case < 200),
    ]


def view_disc() -> list[Row]:
    with tempfile.TemporaryDirectory() as data_dir, server("demo", data_dir):
        path = "/powers/disc?telescope_id=1&rung=e1&target="
        targets = ("moon", "m31", "m44", "ngc-884", "jupiter")
        times = [median_ms(lambda key=key: ask(path + key)) for key in targets]
        some = [*catalogue().keys[:300], *catalogue().keys[300::40]]
        largest = max(len(ask(path + key.replace(" ", "%20"))) for key in some)
    slowest = max(times)
    return [
        Row("view disc, warm, slowest of five targets", "80 ms", f"{slowest:.0f} ms", slowest < 80),
        Row(
            "view disc payload, largest of all targets",
            "40 kB",
            f"{largest / 1000:.1f} kB",
            largest < 40_000,
        ),
    ]


BENCHES = (
    powers_in_the_core,
    view_disc,
    whole_catalogue,
    orders_of_an_evening,
    sixty_nights,
    cards_of_a_dozen,
    a_large_catalogue,
    a_long_journal,
    a_life_in_the_journal,
    a_crowded_ladder,
    budget_in_one_pass,
    a_live_bubble,
    through_http,
    a_press_and_back,
    four_hands,
    a_night_at_speed,
    one_pass_against_minute_by_minute,
    start_and_memory,
    first_route,
    first_view,
    a_long_table,
    drill_steps,
    drill_frames,
)


def in_table(row: Row) -> str:
    """Return a row as the document shows it."""
    return f"| {row.what} | {row.limit} | {row.measured} | {'yes' if row.holds else 'NO'} |"


def main() -> int:
    by_name = {one.__name__: one for one in BENCHES}
    wanted = [by_name[name] for name in sys.argv[1:]]
    if wanted:
        for bench in wanted:
            print(*map(in_table, bench()), sep="\n", flush=True)
        return 0
    rows = [row for bench in BENCHES for row in bench()]
    lines = [
        "# Benchmarks",
        "",
        "Written by `make bench`: medians on one machine (two cores), warm unless said otherwise.",
        "",
        "| what | limit | measured | holds |",
        "| --- | --- | --- | --- |",
        *map(in_table, rows),
        "",
        "The minute-by-minute way asks the same library for each body at each minute; it is timed",
        "on every 40th minute and scaled. The library going object by object is no work of ours:",
        "how long it takes tells how fast the machine was.",
        *hands_table(measure_hands()),
    ]
    (ROOT / "docs/benchmarks.md").write_text("\n".join(lines) + "\n", "utf-8")
    print("\n".join(lines))
    return 0 if all(row.holds for row in rows) else 1


if __name__ == "__main__":
    sys.exit(main())
