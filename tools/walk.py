"""Walk every state of the page in three regimes and two sizes; run by ``make walk``.

Writes what was found into ``build/walk.json`` and the sums into ``docs/reliability.md``.
"""

import json
import subprocess
import sys
import tempfile
from collections import Counter
from pathlib import Path

import numpy as np
from PIL import ImageGrab
from playwright.sync_api import Browser, Playwright, sync_playwright

from measure import keep_part

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser import states  # noqa: E402
from tests.browser.chromium import launch  # noqa: E402
from tests.browser.conftest import PHONE, WIDE  # noqa: E402
from tests.browser.measuring import LEAST_RED, MOST_GREEN_OR_BLUE, Found, measured  # noqa: E402
from tests.browser.warm import Server, free_port  # noqa: E402

HEADING = "## Walked by program"
SCREEN = ":97"
TOOLTIP_MS = 1200  # a browser shows one sooner
MEASURED = {
    "axe": "axe, with label in name",
    "target": "targets under 48 px in the dark, under 24 px by day",
    "edge": "edges of fields and chips under 3:1",
    "focus": "controls on which the keys do not show",
    "tooltip": "tooltips of the browser's own",
    "green or blue": "green or blue over 8/255 in the dark",
    "cut": "controls beyond the window",
    "collision": "words of the ladder over each other",
}
SIZES = {"wide": WIDE, "phone": PHONE}
REGIMES = ("daylight", "dusk", "dark")


def walk(browser: Browser, demo: str, empty: str, size: str, regime: str) -> dict[str, Found]:
    found = {}
    page = states.open_page(browser, demo, SIZES[size], regime)
    for place in states.places(page):
        found[place] = measured(page, regime)
    page.context.close()
    for one in states.OPENINGS:
        if one.on_phone not in (None, size == "phone") or one.regime not in ("", regime):
            continue
        url = empty if one.place == states.EMPTY else demo
        page = states.open_page(browser, url, SIZES[size], regime)
        if one.place != states.EMPTY:
            states.go(page, one.place)
        states.open_it(page, one)
        found[f"{one.place} > {Path(one.file).stem}"] = measured(page, regime)
        page.context.close()
    return found


def window(playwright: Playwright, demo: str) -> list[str]:
    """Go to every place in the dark in a real window on a virtual screen; returns what shone.

    What the browser itself draws over a page, such as a tooltip, is seen only on the screen: at
    each place a control is pointed at until one would show.
    """
    shone = []
    screen = subprocess.Popen(["Xvfb", SCREEN, "-screen", "0", "1280x800x24", "-nolisten", "tcp"])
    try:
        with tempfile.TemporaryDirectory() as profile:
            context = playwright.chromium.launch_persistent_context(
                profile,
                executable_path="/usr/bin/chromium",
                headless=False,
                no_viewport=True,
                env={"DISPLAY": SCREEN, "HOME": profile},
                args=["--no-sandbox", "--disable-gpu", "--kiosk", f"--app={demo}/kit"],
            )
            context.add_init_script("localStorage.setItem('jade-perch.regime', '\"dark\"')")
            context.add_init_script(states.COUNT)
            page = context.pages[0]
            page.goto(f"{demo}/kit")
            states.settle(page)
            for place in states.places(page):
                page.locator(":is(main, nav) :is(button, a):visible").last.hover(force=True)
                page.wait_for_timeout(TOOLTIP_MS)
                shot = np.asarray(ImageGrab.grab(xdisplay=SCREEN).convert("RGB"))
                most = int(shot[..., 1:].max())
                if most > MOST_GREEN_OR_BLUE or shot[..., 0].max() <= LEAST_RED:
                    shone.append(f"{place}: {most}")
            context.close()
    finally:
        screen.terminate()
        screen.wait()
    return shone


def table(found: dict[str, Found], shone: list[str] | None) -> list[str]:
    """Return what the walk found as lines of a document."""
    counts = Counter()
    for each in found.values():
        counts.update({name: len(places) for name, places in each.items()})
    rows = [f"| {words} | {len(found)} states | {counts[key]} |" for key, words in MEASURED.items()]
    if shone is not None:
        rows.append(f"| green or blue in a window on a screen | all places | {len(shone)} |")
    return [
        HEADING,
        "",
        "Written by `make walk`: every station, tab, step, sheet, dialog and menu, in three light",
        "regimes, at 1280×800 and 390×844. Every figure of the last column is meant to be 0.",
        "",
        "| what was looked for | where | found |",
        "| --- | --- | --- |",
        *rows,
    ]


def main() -> int:
    only = sys.argv[1:]
    everything: dict[str, Found] = {}
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        servers = [Server(kind, Path(folder) / kind, free_port()) for kind in ("demo", "serve")]
        for server in servers:
            server.start()
        states.lay_out(servers[0])
        browser = launch(playwright)
        for size in SIZES:
            for regime in REGIMES:
                if only and f"{size}-{regime}" not in only:
                    continue
                found = walk(browser, servers[0].url, servers[1].url, size, regime)
                everything |= {f"{place} [{size} {regime}]": each for place, each in found.items()}
                print(size, regime, len(found), flush=True)
        browser.close()
        shone = None if only else window(playwright, servers[0].url)
        for server in servers:
            server.stop()
    (ROOT / "build").mkdir(exist_ok=True)
    (ROOT / "build/walk.json").write_text(json.dumps(everything, indent=1))
    lines = table(everything, shone)
    print("\n".join(lines))
    if not only:
        keep_part(ROOT / "docs/reliability.md", HEADING, lines)
    return 1 if shone or any(everything.values()) else 0


if __name__ == "__main__":
    sys.exit(main())
