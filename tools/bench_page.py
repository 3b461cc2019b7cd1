"""Measure the page: what it weighs, how soon it shows, how it bears very much glass."""

import gzip
import http.client
import statistics
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager

from playwright.sync_api import Browser, Page, sync_playwright

from measure import PORT, Row, ask, launch, server

ADDRESS = f"http://127.0.0.1:{PORT}"
SLOWED = 4  # a processor a fourth as fast
LOOK_MS = 250  # looking more often would slow down what is looked at
WHEN_SHOWN = """new MutationObserver((_, observer) => {
  if (!document.querySelector('g.telescope')) return
  observer.disconnect()
  requestAnimationFrame(() => setTimeout(() => { window.shown_ms = performance.now() }))
}).observe(document, { childList: true, subtree: true })"""
EYEPIECES, AMPLIFIERS = 200, 10


@contextmanager
def browsing(command: str) -> Iterator[Browser]:
    """An application over nothing stored before, and a browser."""
    with (
        tempfile.TemporaryDirectory() as data_dir,
        server(command, data_dir),
        sync_playwright() as playwright,
    ):
        browser = launch(playwright)
        yield browser
        browser.close()


def first_route() -> list[Row]:
    """Weigh the JavaScript of the first station, until it rests."""
    sizes = []
    with browsing("serve") as browser:
        page = browser.new_page()
        page.on(
            "response",
            lambda r: sizes.append(len(gzip.compress(r.body()))) if r.url.endswith(".js") else None,
        )
        page.goto(f"{ADDRESS}/", wait_until="networkidle")
    weight = sum(sizes) / 1000
    return [Row("JavaScript of the first route, gzip", "150 kB", f"{weight:.0f} kB", weight < 150)]


def first_view() -> list[Row]:
    """Time the first view on a processor slowed four times: until the telescopes are drawn."""
    times = []
    with browsing("demo") as browser:
        for _ in range(5):
            page = browser.new_page()
            slow_down(page)
            page.add_init_script(WHEN_SHOWN)
            page.goto(f"{ADDRESS}/", wait_until="commit")
            page.wait_for_function("() => window.shown_ms", polling=LOOK_MS)
            times.append(float(page.evaluate("window.shown_ms")))
            page.close()
    middle = statistics.median(times) / 1000
    what = f"first view on a processor slowed {SLOWED} times"
    return [Row(what, "2 s", f"{middle:.2f} s", middle < 2)]


def slow_down(page: Page) -> None:
    session = page.context.new_cdp_session(page)
    session.send("Emulation.setCPUThrottlingRate", {"rate": SLOWED})


STEP_AND_PAINT = """async () => {
  const list = document.querySelector('[role=listbox]')
  const times = []
  for (let n = 0; n < 15; n++) {
    const start = performance.now()
    list.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true }))
    await new Promise(done => requestAnimationFrame(() => setTimeout(done)))
    times.push(performance.now() - start)
  }
  return times.sort((a, b) => a - b)[7]
}"""
SORT_AND_PAINT = """async () => {
  const heads = [...document.querySelectorAll('th button')]
  const times = []
  for (let n = 0; n < 9; n++) {
    const start = performance.now()
    heads[1 + n % 4].click()
    await new Promise(done => requestAnimationFrame(() => setTimeout(done)))
    times.push(performance.now() - start)
  }
  return times.sort((a, b) => a - b)[4]
}"""


@contextmanager
def much_glass() -> Iterator[None]:
    """An application with 200 eyepieces and 10 amplifiers in two telescopes."""
    rows = ["item,name,focal_length_mm,apparent_field_deg,factor"]
    rows += [f"eyepiece,E{n},{3 + n * 0.18:.2f},60," for n in range(EYEPIECES)]
    rows += [f"amplifier,A{n},,,{1.2 + n * 0.2:.1f}" for n in range(AMPLIFIERS)]
    tube = {"aperture_mm": 200, "focal_length_mm": 2000, "design": "newtonian"}
    with tempfile.TemporaryDirectory() as data_dir, server("serve", data_dir):
        for name in ("T", "U"):
            ask("/kit/telescopes", tube | {"name": name}, "POST")
        connection = http.client.HTTPConnection("127.0.0.1", PORT, timeout=30)
        connection.request("POST", "/api/kit/import", "\n".join(rows), {"Content-Type": "text/csv"})
        taken = connection.getresponse()
        assert taken.status == 200, taken.read()
        yield


def a_crowded_ladder() -> list[Row]:
    """Time one rung up where there are very many, until it is painted."""
    with much_glass(), sync_playwright() as playwright:
        browser = launch(playwright)
        page = browser.new_page()
        page.goto(f"{ADDRESS}/powers")
        page.get_by_role("listbox").wait_for()
        step = page.evaluate(STEP_AND_PAINT)
        browser.close()
    what = "one rung up on a ladder of 200 eyepieces × 10 amplifiers, until painted"
    return [Row(what, "100 ms", f"{step:.0f} ms", step < 100)]


def a_long_table() -> list[Row]:
    """Time sorting the table of all those rungs, and weigh the comparison of two telescopes."""
    with much_glass(), sync_playwright() as playwright:
        browser = launch(playwright)
        page = browser.new_page()
        page.goto(f"{ADDRESS}/powers")
        page.get_by_role("button", name="Table", exact=True).click()
        page.locator("tbody tr[aria-rowindex]").first.wait_for()
        count = int(page.locator("table").get_attribute("aria-rowcount") or 1) - 1
        plain = page.evaluate(SORT_AND_PAINT)
        slow_down(page)
        slowed = page.evaluate(SORT_AND_PAINT)
        browser.close()
        connection = http.client.HTTPConnection("127.0.0.1", PORT, timeout=60)
        path = "/api/powers/ladders?telescope_id=1&telescope_id=2"
        connection.request("GET", path, headers={"Accept-Encoding": "gzip"})
        sent = len(connection.getresponse().read()) / 1000
    return [
        Row(
            f"a table of {count} rungs sorted, until painted",
            "100 ms",
            f"{plain:.0f} ms",
            plain < 100,
        ),
        Row(f"the same, slowed {SLOWED} times", "300 ms", f"{slowed:.0f} ms", slowed < 300),
        Row("two such telescopes compared, sent", "500 kB", f"{sent:.0f} kB", sent < 500),
    ]
