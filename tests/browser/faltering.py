"""Stops every server for some seconds, again and again: a plugin, used by ``make falter``.

What was typed, pressed and asked for outlives that.  ``test_streams.py`` stops servers by itself.
"""

import os
import random
import threading
import time
from contextlib import suppress

import pytest

from .warm import Server

GOES_S, STANDS_S = (1.2, 6.8), (2.1, 3.5)  # a page says after 2.2 s that nothing comes


class _Faltering:
    """Lets the latest servers stand still by turns, each worker in an order of its own."""

    def __init__(self, seed: str) -> None:
        self.servers: list[Server] = []
        self.random = random.Random(seed)
        threading.Thread(target=self._go_on, daemon=True).start()

    def _go_on(self) -> None:
        while True:
            time.sleep(self.random.uniform(*GOES_S))
            latest = self.servers[-2:]
            for act, seconds in ((Server.freeze, self.random.uniform(*STANDS_S)), (Server.thaw, 0)):
                for server in latest:
                    with suppress(OSError, AssertionError):  # it has ended
                        act(server)
                time.sleep(seconds)


def pytest_configure(config: pytest.Config) -> None:
    faltering = _Faltering(os.environ.get("PYTEST_XDIST_WORKER", ""))
    start = Server.start

    def start_and_falter(self: Server) -> None:
        start(self)
        faltering.servers.append(self)

    Server.start = start_and_falter  # type: ignore[method-assign]
