"""Measure practice: a step of every drill in the core, the page's frames, its first picture."""

import json
import statistics
import tempfile
import urllib.request
from contextlib import closing
from itertools import pairwise
from pathlib import Path

from bench_page import ADDRESS, browsing
from jade_perch.core.evening.desk import Desk
from jade_perch.core.practice.run import DRILLS, Begin, Made, begun, moved
from jade_perch.demo import CLOCK
from jade_perch.demo.loader import load_demo
from jade_perch.devices.clock import parse_clock
from jade_perch.store.connection import DATABASE_NAME, connect
from jade_perch.store.desk import read_desk
from jade_perch.store.opening import make_ready
from measure import Row, median_ms

MOVES = {
    "level": {"kind": "turn", "foot": 1, "amount": 1},
    "finder": {"kind": "snug"},
    "pointing": {"kind": "push", "right": 10},
    "focus": {"kind": "turn", "turns": 0.1},
    "glass": {"kind": "choose"},
    "which_way": {"kind": "answer"},
    "keep": {"kind": "turn", "amount": 2},
    "sun": {"choice": 1, "scene": 1},
}
# counts what is painted while a bubble runs to its rest
FRAMES = """() => new Promise(done => {
  const times = []
  const next = now => {
    times.push(now)
    times.length < 61 ? requestAnimationFrame(next) : done(times)
  }
  requestAnimationFrame(next)
})"""
# from the press on the wall until the drill's drawing is painted
FIRST = """() => new Promise(done => {
  const pressed = performance.now()
  new MutationObserver((_, observer) => {
    if (!document.querySelector('.room svg')) return
    observer.disconnect()
    requestAnimationFrame(() => setTimeout(() => done(performance.now() - pressed)))
  }).observe(document, { childList: true, subtree: true })
  const words = one => one.textContent.trim()
  const card = [...document.querySelectorAll('article')].find(one => words(one).includes('Level'))
  card.querySelector('button').click()
})"""


def demo_desk(folder: str) -> Desk:
    """Return the demo's desk from a database of its own."""
    path, clock = Path(folder) / DATABASE_NAME, parse_clock(CLOCK)
    make_ready(path, clock.now_utc())
    with closing(connect(path)) as db:
        load_demo(db)
        return read_desk(db, clock.now())


def drill_steps() -> list[Row]:
    """Time one move of every drill, from its words to how the round then stands."""
    rows = []
    with tempfile.TemporaryDirectory() as folder:
        desk = demo_desk(folder)
    for name in DRILLS:
        run = begun(Begin(drill=name), 7, desk, desk.moment_utc)
        made = Made(number=0, move={"drill": name, **MOVES[name]})
        took = median_ms(lambda run=run, made=made: moved(run, made, run.begun_at_utc))
        rows.append(Row(f"a move of the drill {name}", "5 ms", f"{took:.1f} ms", took < 5))
    return rows


def begin_over_http(drill: str) -> int:
    body = json.dumps({"drill": drill, "seed": 7}).encode()
    request = urllib.request.Request(
        f"{ADDRESS}/api/practice/runs", body, {"Content-Type": "application/json"}
    )
    with urllib.request.urlopen(request) as answer:
        return int(json.load(answer)["id"])


def drill_frames() -> list[Row]:
    """Count the frames of a running bubble, and time a drill's first picture in a warm browser."""
    with browsing("demo") as browser:
        run = begin_over_http("level")
        page = browser.new_page()
        page.goto(f"{ADDRESS}/practice?run={run}")
        page.get_by_role("button", name="↑").first.click()
        times = page.evaluate(FRAMES)
        frame = statistics.median(b - a for a, b in pairwise(times))
        firsts = []
        for _ in range(7):
            page.goto(f"{ADDRESS}/practice")
            page.get_by_role("button", name="Go on").wait_for()
            firsts.append(float(page.evaluate(FIRST)))
    first = statistics.median(firsts)
    return [
        Row("frames while a bubble runs", "30 / s", f"{1000 / frame:.0f} / s", 1000 / frame >= 30),
        Row("a drill's first frame, from the press", "300 ms", f"{first:.0f} ms", first < 300),
    ]
