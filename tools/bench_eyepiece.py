"""Measure the dark hours: a press, coming back, four hands at once, a sketch, a night at speed."""

import json
import random
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from subprocess import Popen

from playwright.sync_api import Page, sync_playwright

from measure import PORT, Row, ask, launch, median_ms, server

NIGHT = "2027-02-13T20:00+01:00"
PRESSES, CLIENTS = 10_000, 4
KINDS = ("point", "put", "focus", "centre", "look", "note")
RATE, HOURS = 120, 8
MB = 1024 * 1024


def _press(key: str, target: str, kind: str, rung: str = "e1") -> dict[str, object]:
    spot = {"target_key": target, "kind": kind, "rung_key": rung}
    return {"key": key, "what": "go", "spot": spot}


def a_press_and_back() -> list[Row]:
    """A press's answer, a sketch, and the same step after a restart."""
    number = iter(range(1_000_000))
    with tempfile.TemporaryDirectory() as data_dir:
        with server("demo", data_dir, NIGHT):

            def go() -> None:
                n = next(number)
                ask("/eyepiece/press", _press(f"p{n}", "moon", KINDS[n % 6]), "POST")

            press_ms = median_ms(go, 60)
            strokes = [{"points": [n, -n] * 50} for n in range(100)]
            note = {"observed_at_utc": "2027-02-13T19:00:00Z", "object_name": "Moon"}
            sketch_ms = median_ms(
                lambda: ask("/journal/observations", {**note, "sketch": strokes}, "POST")
            )
        with server("demo", data_dir, NIGHT):
            start = time.perf_counter()
            spot = json.loads(ask("/eyepiece"))["sitting"]["spot"]
            back_s = time.perf_counter() - start
    is_there = spot["target_key"] == "moon" and back_s < 1
    return [
        Row("a press at the eyepiece, answered", "50 ms", f"{press_ms:.0f} ms", press_ms < 50),
        Row("a sketch of 5000 points, stored", "200 ms", f"{sketch_ms:.0f} ms", sketch_ms < 200),
        Row("the same step, first asked for after a restart", "1 s", f"{back_s:.2f} s", is_there),
    ]


def four_hands() -> list[Row]:
    """Ten thousand random presses from four clients leave one consistent evening."""
    with tempfile.TemporaryDirectory() as data_dir, server("demo", data_dir, NIGHT):

        def hand(client: int) -> str:
            dice = random.Random(client)
            last = ""
            for n in range(PRESSES // CLIENTS):
                target, kind = dice.choice(("moon", "m42", "jupiter")), dice.choice(KINDS)
                rung = "" if kind in ("point", "note") else dice.choice(("e1", "e2", "e3"))
                given = _press(f"{client}-{n}", target, kind, rung)
                last = ask("/eyepiece/press", given, "POST").decode()
            return last

        with ThreadPoolExecutor(CLIENTS) as pool:
            lasts = [json.loads(one) for one in pool.map(hand, range(CLIENTS))]
        kept = json.loads(ask("/eyepiece"))["sitting"]
    looks = {(one["target_key"], one["rung_key"]) for one in kept["looks"]}
    is_one = kept in lasts and len(looks) == len(kept["looks"]) == 9
    said = "one, and all that was looked at" if is_one else f"{len(looks)} looks"
    return [Row("10 000 presses of four clients", "one evening", said, is_one)]


def _resident_mb(process: Popen[bytes]) -> float:
    status = Path(f"/proc/{process.pid}/status").read_text()
    return int(status.split("VmRSS:")[1].split()[0]) / 1024


def _heap_mb(page: Page) -> float:
    session = page.context.new_cdp_session(page)
    session.send("HeapProfiler.collectGarbage")
    used: float = session.send("Runtime.getHeapUsage")["usedSize"]
    return used / MB


def a_night_at_speed() -> list[Row]:
    """Eight hours at 120 times, a page open on them: neither page nor server grows."""
    with (
        tempfile.TemporaryDirectory() as data_dir,
        server("demo", data_dir, f"2027-02-13T18:30+01:00@{RATE}") as (process, *_),
        sync_playwright() as playwright,
    ):
        ask("/plan/schedule", {"target_keys": []}, "POST")
        browser = launch(playwright)
        page = browser.new_page()
        page.goto(f"http://127.0.0.1:{PORT}/eyepiece")
        half_ms = HOURS * 3600 / RATE * 1000 / 2
        page.wait_for_timeout(half_ms / 2)
        first = _resident_mb(process), _heap_mb(page)
        page.wait_for_timeout(half_ms * 1.5)
        last = _resident_mb(process), _heap_mb(page)
        browser.close()
    grown = [after - before for before, after in zip(first, last, strict=True)]
    said = f"server {grown[0]:+.0f} MB, page {grown[1]:+.1f} MB after the first two hours"
    return [Row("8 h at 120×, a page open", "no growth", said, grown[0] < 20 and grown[1] < 3)]
