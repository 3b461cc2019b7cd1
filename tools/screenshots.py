"""Take the current picture of each main view from the demo evening; run by ``make screenshots``."""

import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

OUT = Path(__file__).parents[1] / "docs/screenshots"
PORT = 8498
WIDE, PHONE = (1280, 800), (390, 844)
VIEWS = (
    ("kit", "kit", WIDE, "daylight"),
    ("kit-dusk", "kit", WIDE, "dusk"),
    ("kit-dark", "kit", WIDE, "dark"),
    ("powers", "powers", WIDE, "daylight"),
    ("powers-dusk", "powers", WIDE, "dusk"),
    ("powers-dark", "powers", WIDE, "dark"),
    ("powers-phone", "powers", PHONE, "dark"),
    ("tonight", "plan", WIDE, "daylight"),
    ("tonight-phone", "plan", PHONE, "dark"),
    ("journal", "journal", WIDE, "daylight"),
)


def wait_for(url: str) -> None:
    for _ in range(200):
        try:
            urllib.request.urlopen(url, timeout=1)
            return
        except OSError:
            time.sleep(0.05)
    raise TimeoutError(url)


def settle(page: Page) -> None:
    page.wait_for_load_state("networkidle")
    page.evaluate("document.fonts.ready")


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
            browser = playwright.chromium.launch(
                executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"]
            )
            for name, station, (width, height), regime in VIEWS:
                context = browser.new_context(
                    viewport={"width": width, "height": height}, reduced_motion="reduce"
                )
                context.add_init_script(
                    f"localStorage.setItem('jade-perch.regime', JSON.stringify('{regime}'))"
                )
                page = context.new_page()
                page.goto(f"http://127.0.0.1:{PORT}/{station}")
                settle(page)
                page.screenshot(path=OUT / f"{name}.png")
                context.close()
            browser.close()
        finally:
            server.terminate()
            server.wait()
    print(f"{len(VIEWS)} pictures in {OUT.name}/")
    return 0


if __name__ == "__main__":
    sys.exit(main())
