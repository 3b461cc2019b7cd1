"""A real server and a real browser for the journeys."""

import os
import signal
import socket
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass
from multiprocessing.process import BaseProcess
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright

from jade_perch.demo.loader import CLOCK

from . import warm

CHROMIUM = "/usr/bin/chromium"
ARGUMENTS = (
    "--no-sandbox",
    "--disable-gpu",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
)
START_SECONDS = 60.0
PATIENCE_MS = 30_000  # nothing waits for it; a machine may stand still for a while
expect.set_options(timeout=PATIENCE_MS)
WIDE, PHONE = (1280, 800), (390, 844)


@dataclass
class Server:
    """A running application; it can be ended and started again over the same data."""

    command: str
    data_dir: Path
    port: int
    process: BaseProcess | None = None
    clock: str = CLOCK

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> None:
        self.process = warm.start(
            [
                self.command,
                *("--port", str(self.port)),
                *("--data-dir", str(self.data_dir)),
                *("--clock", self.clock),
            ]
        )
        deadline = time.monotonic() + START_SECONDS
        while time.monotonic() < deadline:
            with suppress(OSError), urllib.request.urlopen(f"{self.url}/api/evening", timeout=1):
                return
            self.process.join(timeout=0.02)
        raise TimeoutError(f"no answer from {self.url}")

    def freeze(self) -> None:
        """Let it stand still, as behind a cut cable: nothing comes, and nothing is refused."""
        assert self.process and self.process.pid
        os.kill(self.process.pid, signal.SIGSTOP)

    def thaw(self) -> None:
        assert self.process and self.process.pid
        os.kill(self.process.pid, signal.SIGCONT)

    def stop(self) -> None:
        if self.process:
            self.process.terminate()
            self.process.join(timeout=10)
            assert self.process.exitcode is not None, "it does not end"


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port: int = probe.getsockname()[1]
        return port


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=list(ARGUMENTS))
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
