"""Debian's Chromium, started without a window."""

import shutil

from playwright.sync_api import Browser, Playwright

NAMES = ("chromium-headless-shell", "chromium")  # the first has no window to draw, and does less
ARGUMENTS = (
    "--no-sandbox",
    "--disable-gpu",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--js-flags=--no-opt --no-maglev",  # a journey is over before faster code would pay
)


def launch(playwright: Playwright) -> Browser:
    """Start it; raises ``FileNotFoundError`` where it is missing."""
    found = next(filter(None, map(shutil.which, NAMES)), None)
    if found is None:
        raise FileNotFoundError("Chromium is missing: run tools/ensure_chromium.")
    return playwright.chromium.launch(executable_path=found, args=list(ARGUMENTS))
