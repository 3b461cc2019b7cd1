"""Walk every state of the page in three regimes and two sizes; run by ``make walk``.

Writes what was found into ``build/walk.json`` and the sums into ``docs/reliability.md``.
"""

import json
import sys
import tempfile
from collections import Counter
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser import states  # noqa: E402
from tests.browser.chromium import launch  # noqa: E402
from tests.browser.measuring import Found, measured  # noqa: E402
from tests.browser.warm import Server, free_port  # noqa: E402

SIZES = {"wide": (1280, 800), "phone": (390, 844)}
REGIMES = ("daylight", "dusk", "dark")


def open_page(browser: Browser, url: str, size: str, regime: str) -> Page:
    wide, tall = SIZES[size]
    context = browser.new_context(
        viewport={"width": wide, "height": tall},
        reduced_motion="reduce",
        has_touch=size == "phone",
        bypass_csp=True,
    )
    context.add_init_script(f"localStorage.setItem('jade-perch.regime', '\"{regime}\"')")
    context.add_init_script(states.COUNT)
    page = context.new_page()
    page.set_default_timeout(30_000)
    page.goto(url)
    states.settle(page)
    return page


def walk(browser: Browser, demo: str, empty: str, size: str, regime: str) -> dict[str, Found]:
    found = {}
    page = open_page(browser, demo, size, regime)
    for place in states.places(page):
        found[place] = measured(page, regime)
    page.context.close()
    for one in states.OPENINGS:
        if one.on_phone not in (None, size == "phone") or one.regime not in ("", regime):
            continue
        page = open_page(browser, empty if one.place == states.EMPTY else demo, size, regime)
        if one.place != states.EMPTY:
            states.go(page, one.place)
        states.open_it(page, one)
        found[f"{one.place} > {Path(one.file).stem}"] = measured(page, regime)
        page.context.close()
    return found


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
        for server in servers:
            server.stop()
    counts = Counter()
    for each in everything.values():
        counts.update({name: len(places) for name, places in each.items()})
    (ROOT / "build").mkdir(exist_ok=True)
    (ROOT / "build/walk.json").write_text(json.dumps(everything, indent=1))
    print(len(everything), "states", dict(counts))
    return 0


if __name__ == "__main__":
    sys.exit(main())
