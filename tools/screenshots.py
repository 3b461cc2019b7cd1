"""Take the current picture of each main view from the demo evening; run by ``make screenshots``."""

import json
import re
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from measure import launch

OUT = Path(__file__).parents[1] / "docs/screenshots"
PORT = 8498
WIDE, PHONE = (1280, 800), (390, 844)
VIEWS = (
    ("kit", "kit", WIDE, "daylight"),
    ("powers", "powers", WIDE, "daylight"),
    ("powers-dark", "powers", WIDE, "dark"),
    ("tonight", "plan?tab=tonight", WIDE, "daylight"),
    ("weather", "plan?tab=weather", WIDE, "daylight"),
    ("calendar", "plan?tab=calendar", WIDE, "dusk"),
    ("place", "plan?tab=place", WIDE, "daylight"),
    ("tonight-phone", "plan?tab=tonight", PHONE, "dark"),
    ("journal", "journal", WIDE, "daylight"),
    ("journal-lists", "journal?tab=lists", WIDE, "dusk"),
    ("practice", "practice", WIDE, "daylight"),
    ("stuck-phone", "practice?wrong=slides.how_soon.has_drive", PHONE, "dark"),
)
COPIED = re.compile("^Copied ")  # when, and to which folder of whoever takes the pictures
# what comes last on a view that takes its time
LAST = {
    "calendar": "Dark hours of the coming nights",
    "weather": "Hours of the night",
    "journal-lists": "With the next good nights",
}


def point(page: Page, name: str, right: float, up: float) -> None:
    """Point at a round drawing, in shares of half its smaller side."""
    drawing = page.get_by_role("application", name=re.compile(name))
    drawing.evaluate("one => one.scrollIntoView({ block: 'center' })")
    box = drawing.bounding_box()
    assert box is not None
    half = min(box["width"], box["height"]) / 2
    page.mouse.click(
        box["x"] + box["width"] / 2 + right * half, box["y"] + box["height"] / 2 - up * half
    )
    page.mouse.move(5, 5)


def level(page: Page) -> None:
    point(page, "^Bubble", -0.2, 0.17)


def sun(page: Page) -> None:
    page.get_by_role("button", name="behind you").click()
    page.get_by_role("button", name="across fields or a valley").click()


def finder(page: Page) -> None:
    """On a landmark that was called safe before."""
    post("setup/landmark?recorded=true", {"bearing_deg": 60, "far": "valley"})
    page.get_by_text("First: longest eyepiece in").wait_for()
    point(page, "^The finder", -0.32, 0.26)


# picture, step, telescope, size, regime, what is done first
STEPS = (
    ("setup-level", "Level", 4, WIDE, "daylight", level),
    ("setup-sun", "Sun guard", 4, WIDE, "daylight", sun),
    ("setup-finder", "Finder", 4, WIDE, "dark", finder),
)


# the dark hours, rehearsed: picture, address, size, how many presses on
HOURS = (
    ("eyepiece", "eyepiece", WIDE, 5),
    ("eyepiece-phone", "eyepiece", PHONE, 0),
    ("packing", "eyepiece?pack=1", WIDE, 0),
)
NIGHT = "2027-02-13T19:05:00Z"


def in_the_dark(browser: Browser) -> None:
    """Rehearse the evening from its dark on, and take its pictures."""
    choose(1)
    post("rehearsal", {"from_utc": NIGHT, "rate": 1})
    post("evening", {"steadiness": 4}, "PATCH")
    for name, station, size, presses in HOURS:
        page = open_page(browser, station, size, "dark")
        for _ in range(presses):
            page.keyboard.press("Space")
            settle(page)
        close_notice(page)
        page.screenshot(path=OUT / f"{name}.png")
        page.context.close()


def a_drill(browser: Browser) -> None:
    """A finder that is off, as its drill shows it."""
    choose(4)
    run = post("practice/runs", {"drill": "finder", "seed": 12})

    def make(**move: object) -> None:
        told = {"number": run["number"], "move": {"drill": "finder", **move}}
        run.update(post(f"practice/runs/{run['id']}/moves", told))

    make(kind="unclamp")
    make(kind="choose", landmark=3)
    for eye in ("along", "main", "main", "main"):
        make(kind="look", eye=eye)
        right, up = run["scene"]["view"]["centre"]  # type: ignore[index]
        make(kind="push", right=-right, up=-up)
    make(kind="clamp")
    make(kind="look", eye="finder")
    page = open_page(browser, f"practice?run={run['id']}", WIDE, "daylight")
    page.screenshot(path=OUT / "practice-finder.png")
    page.context.close()


def wait_for(url: str) -> None:
    for _ in range(200):
        try:
            urllib.request.urlopen(url, timeout=1)
            return
        except OSError:
            time.sleep(0.05)
    raise TimeoutError(url)


def settle(page: Page) -> None:
    page.wait_for_timeout(700)
    for bar in page.locator(".v-progress-linear").all():
        bar.wait_for(state="hidden")
    page.wait_for_timeout(300)
    page.evaluate("document.fonts.ready")


def open_page(browser: Browser, station: str, size: tuple[int, int], regime: str) -> Page:
    context = browser.new_context(
        viewport={"width": size[0], "height": size[1]}, reduced_motion="reduce"
    )
    context.add_init_script(
        f"localStorage.setItem('jade-perch.regime', JSON.stringify('{regime}'))"
    )
    page = context.new_page()
    page.goto(f"http://127.0.0.1:{PORT}/{station}")
    settle(page)
    return page


def close_notice(page: Page) -> None:
    notice = page.get_by_role("button", name="Close")
    if notice.count():
        notice.first.click()
        notice.first.wait_for(state="hidden")


def post(path: str, values: dict[str, object], method: str = "POST") -> dict[str, object]:
    """Tell the application something and return what it answers."""
    url = f"http://127.0.0.1:{PORT}/api/{path}"
    headers = {"Content-Type": "application/json"}
    body = json.dumps(values).encode()
    request = urllib.request.Request(url, body, headers, method=method)
    with urllib.request.urlopen(request) as answer:
        found: dict[str, object] = json.loads(answer.read() or "{}")
    return found


def choose(telescope_id: int) -> None:
    post("evening", {"telescope_id": telescope_id}, "PATCH")


def main() -> int:
    OUT.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as data_dir, sync_playwright() as playwright:
        server = subprocess.Popen(
            [
                *(sys.executable, "-m", "jade_perch.cli", "demo"),
                *("--port", str(PORT), "--data-dir", data_dir),
            ],
            stdout=subprocess.DEVNULL,
        )
        try:
            wait_for(f"http://127.0.0.1:{PORT}/api/evening")
            browser = launch(playwright)
            post("plan/schedule", {"target_keys": []})
            for name, station, size, regime in VIEWS:
                page = open_page(browser, station, size, regime)
                if name in LAST:
                    page.get_by_label(LAST[name]).first.wait_for()
                for line in page.get_by_text(COPIED).all():
                    line.evaluate("one => { one.style.visibility = 'hidden' }")
                page.screenshot(path=OUT / f"{name}.png")
                page.context.close()
            for name, step, telescope, size, regime, act in STEPS:
                choose(telescope)
                page = open_page(browser, "setup", size, regime)
                path = page.get_by_role("navigation", name="Set-up steps")
                path.get_by_role("button", name=step).click()
                page.get_by_role("heading", level=1, name=step).wait_for()
                act(page)
                settle(page)
                close_notice(page)
                page.screenshot(path=OUT / f"{name}.png")
                page.context.close()
            a_drill(browser)
            in_the_dark(browser)
            browser.close()
        finally:
            server.terminate()
            server.wait()
    print(f"{len(VIEWS) + len(STEPS) + len(HOURS) + 1} pictures in {OUT.name}/")
    return 0


if __name__ == "__main__":
    sys.exit(main())
