"""Servers that are up at once: forked from one process that has everything read in already.

A start from nothing reads the sky's tables for seconds; what is tested here is the application,
not how fast a machine reads.  ``tests/test_command.py`` begins from nothing, as people do.
"""

import json
import multiprocessing
import os
import signal
import socket
import sys
import time
import urllib.request
from contextlib import suppress
from dataclasses import dataclass
from multiprocessing.process import BaseProcess
from pathlib import Path

from jade_perch.demo import CLOCK
from tests.asking import lay_out

START_SECONDS, END_SECONDS = 60.0, 10.0

# the process that forks looks for modules where this one does, and has one thread: no lock stays
os.environ["PYTHONPATH"] = str(Path(__file__).parents[2])
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
CONTEXT = multiprocessing.get_context("forkserver")
CONTEXT.set_forkserver_preload(["tests.browser.warmed"])


def _serve(arguments: list[str]) -> None:
    os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    from jade_perch.cli import main

    sys.exit(main(arguments))


def start(arguments: list[str]) -> BaseProcess:
    """Start the command with some arguments in a process of its own."""
    process = CONTEXT.Process(target=_serve, args=(arguments,), daemon=True)
    process.start()
    return process


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
        lay_out(self.data_dir, self.command == "demo")
        self.process = start(
            [
                self.command,
                *("--port", str(self.port)),
                *("--data-dir", str(self.data_dir)),
                *("--clock", self.clock),
            ]
        )
        deadline = time.monotonic() + START_SECONDS
        while time.monotonic() < deadline:
            with (
                suppress(OSError),
                urllib.request.urlopen(f"{self.url}/api/evening", timeout=START_SECONDS),
            ):
                return
            self.process.join(timeout=0.02)
        raise TimeoutError(f"no answer from {self.url}")

    def ask(self, path: str, body: object = None) -> int:
        """Return the status of an answer; a body is posted."""
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(
            self.url + path, data, {"Content-Type": "application/json"}
        )
        with urllib.request.urlopen(request, timeout=60) as answer:
            return int(answer.status)

    def freeze(self) -> None:
        """Let it stand still, as behind a cut cable: nothing comes, and nothing is refused."""
        assert self.process and self.process.pid
        os.kill(self.process.pid, signal.SIGSTOP)

    def thaw(self) -> None:
        assert self.process and self.process.pid
        os.kill(self.process.pid, signal.SIGCONT)

    def stop(self, sign: int = signal.SIGTERM) -> None:
        if self.process and self.process.pid and self.process.is_alive():
            os.kill(self.process.pid, sign)
            self.process.join(timeout=END_SECONDS)
            assert self.process.exitcode is not None, "it does not end"


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port: int = probe.getsockname()[1]
        return port
