"""A real server and a real browser for the journeys."""

import re
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright

from .chromium import launch
from .warm import Server, free_port

PATIENCE_MS = 120_000  # nothing waits for it; a machine may stand still for a while
expect.set_options(timeout=PATIENCE_MS)
WIDE, PHONE = (1280, 800), (390, 844)
STATIONS = ["kit", "powers", "setup", "plan", "eyepiece", "journal", "practice"]


def go_to_station(page: Page, station: str) -> None:
    """Go to a station by its key."""
    page.keyboard.press(str(STATIONS.index(station) + 1))
    page.wait_for_url(re.compile(f"/{station}([?#].*)?$"))
    expect(page.get_by_role("heading", level=1).first).to_be_visible()


def come_late(page: Page, pattern: str | re.Pattern[str]) -> Callable[[], None]:
    """Hold some answers back until the result is called."""
    held, told = [], []
    page.route(pattern, lambda one: one.continue_() if told else held.append(one))

    def let_go() -> None:
        told.append(True)
        for one in held:
            one.continue_()

    return let_go


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = launch(playwright)
        yield browser
        browser.close()


@pytest.fixture
def empty_server(tmp_path: Path) -> Iterator[Server]:
    server = Server("serve", tmp_path, free_port())
    server.start()
    yield server
    server.stop()


@pytest.fixture(scope="session")
def demo_server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    """The demo evening; journeys over it read, or clean up after themselves."""
    server = Server("demo", tmp_path_factory.mktemp("demo"), free_port())
    server.start()
    yield server
    server.stop()


@pytest.fixture
def fresh_demo(tmp_path: Path) -> Iterator[Server]:
    """A demo evening of its own, for journeys that record."""
    server = Server("demo", tmp_path / "demo", free_port())
    server.start()
    yield server
    server.stop()


@pytest.fixture
def new_page(browser: Browser) -> Iterator[Callable[..., Page]]:
    """Open a page in a context of its own; any error in its console fails the journey."""
    contexts, complaints = [], []

    def open_page(
        url: str,
        size: tuple[int, int] = WIDE,
        regime: str = "daylight",
        here: dict[str, float] | None = None,
    ) -> Page:
        context = browser.new_context(
            viewport={"width": size[0], "height": size[1]},
            reduced_motion="reduce",
            has_touch=size == PHONE,
            geolocation=here,
            permissions=["geolocation"] if here else [],
        )
        context.set_default_timeout(PATIENCE_MS)
        context.add_init_script(
            "localStorage.getItem('jade-perch.regime') || "
            f"localStorage.setItem('jade-perch.regime', JSON.stringify('{regime}'))"
        )
        contexts.append(context)
        page = context.new_page()
        page.on("pageerror", lambda error: complaints.append(str(error)))
        page.goto(url)
        return page

    yield open_page
    for context in contexts:
        context.close()
    assert complaints == []
