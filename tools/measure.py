"""What every measurement shares: a promise's row, a median, a running application."""

import http.client
import json
import statistics
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from jade_perch.core.site import Site
from jade_perch.demo import CLOCK

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser.chromium import launch  # noqa: E402

__all__ = [
    "PORT", "ROOT", "RUNS", "SITE", "Row", "ask", "keep_part", "launch", "median_ms", "server",
]  # fmt: skip
PORT = 8499
RUNS = 15
SITE = Site(
    name="Bench", latitude_deg=48.7, longitude_deg=8.1, elevation_m=420, zone="Europe/Berlin"
)


@dataclass(frozen=True)
class Row:
    """One promise: what, the limit, what was measured, and whether it holds."""

    what: str
    limit: str
    measured: str
    holds: bool


def median_ms(work: Callable[[], object], runs: int = RUNS) -> float:
    work()
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append((time.perf_counter() - start) * 1000)
    return statistics.median(times)


def ask(path: str, body: object = None, method: str = "GET") -> bytes:
    return ask_at(f"/api{path}", body, method)


def ask_at(path: str, body: object = None, method: str = "GET") -> bytes:
    connection = http.client.HTTPConnection("127.0.0.1", PORT, timeout=30)
    text = None if body is None else json.dumps(body)
    connection.request(method, path, text, {"Content-Type": "application/json"})
    response = connection.getresponse()
    answer = response.read()
    if response.status >= 400:
        raise RuntimeError(f"{path}: {response.status} {answer[:200]!r}")
    connection.close()
    return answer


def keep_part(file: Path, heading: str, lines: list[str]) -> None:
    """Write one part of a document anew, from its heading to the next; the others stay."""
    text = file.read_text("utf-8") if file.is_file() else ""
    before, _, rest = text.partition(f"{heading}\n")
    after = "".join(rest.partition("\n#")[1:])
    parts = [before.rstrip("\n"), "\n".join(lines), after.strip("\n")]
    file.write_text("\n\n".join(part for part in parts if part) + "\n", "utf-8")


@contextmanager
def server(
    command: str, data_dir: str, clock: str = CLOCK
) -> Iterator[tuple[subprocess.Popen[bytes], float, float]]:
    """Start the application; gives the process, the seconds to its page, and to tonight."""
    start = time.perf_counter()
    process = subprocess.Popen(
        [
            *(sys.executable, "-m", "jade_perch.cli", command),
            *("--port", str(PORT), "--data-dir", data_dir, "--clock", clock),
        ],
        stdout=subprocess.DEVNULL,
    )
    try:
        while True:
            try:
                ask_at("/")
                page_s = time.perf_counter() - start
                ask("/plan/tonight")
                break
            except OSError:
                if process.poll() is not None:
                    raise
        yield process, page_s, time.perf_counter() - start
    finally:
        process.terminate()
        process.wait()
