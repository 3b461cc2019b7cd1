"""Hurts a running application in every way it must bear, and writes ``docs/reliability.md``.

Run by ``make torture``; bounded in count, against this machine's loopback address alone.
"""

import asyncio
import http.client
import json
import random
import shutil
import signal
import sqlite3
import sys
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable
from contextlib import closing, suppress
from pathlib import Path
from statistics import median

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.api import test_doors  # noqa: E402
from tests.asking import asking, database, demo_house  # noqa: E402
from tests.browser.warm import Server, free_port  # noqa: E402
from tests.odd import Maker, fault_of, operations, send  # noqa: E402

from jade_perch.api import dependencies  # noqa: E402
from jade_perch.api.app import create_app  # noqa: E402
from jade_perch.api.broker import Broker  # noqa: E402
from jade_perch.api.events import events, tell_reading  # noqa: E402
from jade_perch.devices.clock import Clock  # noqa: E402
from jade_perch.devices.hub import InstrumentHub  # noqa: E402
from jade_perch.standins.instruments import InstrumentSettings  # noqa: E402
from jade_perch.store.connection import DATABASE_NAME, connect  # noqa: E402
from jade_perch.store.damage import damage_of  # noqa: E402
from measure import keep_part  # noqa: E402

KILLS, WRITERS, NOTES_EACH, DAMAGES, FULL_NOTES = 30, 2, 150, 25, 40
FUZZ_ROUNDS, PAGES, READINGS, STREAMS, ENDS = 10, 6, 300, 8, 5
HEAVY = ["/api/plan/tonight", "/api/plan/calendar", "/api/plan/schedule", "/api/eyepiece"]
SEED = 20270213
Row = tuple[str, str, str]  # what was done, how often, what came of it
PLAIN = {"observed_at_utc": "2027-02-13T15:00:00Z", "object_name": "M42"}


def demo_server(folder: Path) -> Server:
    server = Server("demo", folder, free_port())
    server.start()
    return server


def words_kept(folder: Path) -> set[str]:
    with closing(connect(folder / DATABASE_NAME)) as db:
        return {row[0] for row in db.execute("SELECT words FROM observation")}


def write_until(server: Server, name: str, most: int, acknowledged: list[str]) -> None:
    """Write notes until there are enough or nobody answers any more."""
    for number in range(most):
        words = f"{name} {number}"
        with suppress(OSError, http.client.HTTPException):
            if server.ask("/api/journal/observations", {**PLAIN, "words": words}) == 201:
                acknowledged.append(words)
                continue
        return


def kills(folder: Path) -> list[Row]:
    dice, acknowledged, broken = random.Random(SEED), [], 0
    for number in range(KILLS):
        server = demo_server(folder)
        mine: list[str] = []
        writer = threading.Thread(target=write_until, args=(server, f"kill {number}", 10_000, mine))
        writer.start()
        most = dice.randint(5, 60)
        while len(mine) < most:
            time.sleep(0.001)
        server.stop(signal.SIGKILL)
        writer.join()
        acknowledged += mine
        with closing(connect(folder / DATABASE_NAME)) as db:
            broken += db.execute("PRAGMA quick_check").fetchone()[0] != "ok"
    lost = set(acknowledged) - words_kept(folder)
    return [
        (
            "killed while writing",
            f"{KILLS} kills, {len(acknowledged)} acknowledged",
            f"{len(lost)} lost",
        ),
        ("database after a kill", f"{KILLS} looked at", f"{broken} damaged"),
    ]


def two_writers(folder: Path) -> list[Row]:
    servers = [demo_server(folder) for _ in range(WRITERS)]
    kept: list[list[str]] = [[] for _ in servers]
    threads = [
        threading.Thread(target=write_until, args=(server, f"house {n}", NOTES_EACH, kept[n]))
        for n, server in enumerate(servers)
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    for server in servers:
        server.stop()
    sent, taken = WRITERS * NOTES_EACH, sum(map(len, kept))
    lost = {words for one in kept for words in one} - words_kept(folder)
    return [
        (
            "two servers write one database",
            f"{sent} notes",
            f"{sent - taken} refused, {len(lost)} lost",
        )
    ]


def refused_by_disk(folder: Path, name: str, spoil: Callable[[sqlite3.Connection], object]) -> Row:
    """Every write is told as what it is, and nothing acknowledged is missing."""
    client, real = demo_house(folder), dependencies.connect_again

    def opened(path: Path) -> sqlite3.Connection:
        db = real(path)
        spoil(db)
        return db

    dependencies.connect_again = opened
    statuses, acknowledged = Counter[int](), set()
    for number in range(FULL_NOTES):
        words = f"{number} " + "dust " * 600
        answer = client.post("/api/journal/observations", json={**PLAIN, "words": words})
        statuses[answer.status_code] += 1
        if answer.status_code == 201:
            acknowledged.add(words.strip())
    dependencies.connect_again = real
    lost = acknowledged - words_kept(folder)
    other = sum(count for status, count in statuses.items() if status not in (201, 503))
    told = f"{statuses[503]} told as such, {other} told otherwise, {len(lost)} lost"
    return (name, f"{FULL_NOTES} writes", told)


def damage(folder: Path) -> list[Row]:
    dice, failed, aside, whole = random.Random(SEED), 0, 0, 0
    content = database(is_demo=True)
    for number in range(DAMAGES):
        spoiled = folder / f"spoiled-{number}"
        spoiled.mkdir()
        at, size = dice.randrange(len(content)), dice.randrange(1, 40_000)
        junk = content[:at] + dice.randbytes(size) + content[at + size :]
        (spoiled / DATABASE_NAME).write_bytes(junk[: dice.choice((len(content), at + 1))])
        try:
            client = asking(create_app(spoiled, Clock()))
            answers = [client.get(f"/api/{one}").status_code for one in ("evening", "kit/due")]
            answers.append(client.get("/api/journal/observations").status_code)
            failed += any(status not in (200, 503) for status in answers)
        except Exception as error:
            print(f"damage {number}: {error!r}", file=sys.stderr)
            failed += 1
        found = damage_of(spoiled)
        aside += found is not None and any(Path(found.folder).iterdir())
        whole += found is None
    told = f"{aside} laid aside and named, {whole} whole enough, {failed} starts or pages broken"
    return [("a stretch of the file overwritten or cut off", f"{DAMAGES} files", told)]


def doors(folder: Path) -> list[Row]:
    house, opened, tried = demo_house(folder), 0, 0
    for verb, path, operation in test_doors.doors(house):
        foreign = test_doors.FROM_ELSEWHERE if verb in test_doors.WRITES else ()
        sent = [{**one, "content-type": "application/json"} for one in foreign]
        sent += [{"host": one, "origin": f"http://{one}"} for one in test_doors.OTHER_ADDRESSES]
        if verb in test_doors.WRITES and "requestBody" in operation:
            sent += [{"content-type": one} for one in test_doors.SENT_UNASKED if one]
        for headers in sent:
            tried += 1
            answer = house.request(verb, path, content=b"{}", headers=headers)
            opened += answer.status_code not in (400, 403, 415)
    return [
        (
            "doors tried: foreign pages, other addresses, forms",
            f"{tried} requests",
            f"{opened} opened",
        )
    ]


def fuzz(folder: Path) -> list[Row]:
    client = demo_house(folder)
    document = client.get("/api/openapi.json").json()
    maker, statuses, faults = Maker(document, SEED), Counter[int](), []
    for verb, path, operation in operations(document):
        for _ in range(FUZZ_ROUNDS):
            sent = maker.request(verb, path, operation)
            answer = send(client, sent)
            statuses[answer.status_code] += 1
            faults.append(fault_of(sent, answer))
    wrong = [one for one in faults if one]
    for one in wrong[:5]:
        print(one, file=sys.stderr)
    total, broke = sum(statuses.values()), sum(n for status, n in statuses.items() if status >= 500)
    told = f"{broke} server errors, {len(wrong) - broke} undocumented or unnamed"
    spread = ", ".join(f"{count} × {status}" for status, count in sorted(statuses.items()))
    return [("odd requests over the whole document", f"{total} ({spread})", told)]


def streams(folder: Path) -> list[Row]:
    async def hear(broker: Broker, hub: InstrumentHub) -> list[int]:
        seqs: list[int] = []
        async for event in events(broker, hub, Clock(), ["level"]):
            told = json.loads(event[event.index("data: ") + 6 :])
            if told["topic"] == "instrument":
                seqs.append(told["shown"]["seq"])
            if len(seqs) == READINGS:
                return seqs
        return seqs

    async def all_pages() -> list[list[int]]:
        broker = Broker()
        hub = InstrumentHub(lambda shown: tell_reading(broker, shown))
        hub.settings["level"] = InstrumentSettings(rate_hz=60)
        return await asyncio.gather(*(hear(broker, hub) for _ in range(PAGES)))

    heard = asyncio.run(all_pages())
    missing = sum(
        READINGS - len(set(range(min(one), min(one) + READINGS)) & set(one)) for one in heard
    )
    took = [_end_with_streams(folder) for _ in range(ENDS)]
    late = sum(one > 3 for one in took)
    return [
        ("readings heard by pages", f"{PAGES} at once, {READINGS} each", f"{missing} missing"),
        (
            f"ended with {STREAMS} streams open and {len(HEAVY)} answers owed",
            f"{ENDS} times, median {median(took):.1f} s",
            f"{late} later than 3 s",
        ),
    ]  # fmt: skip


def _asked(server: Server, path: str) -> http.client.HTTPConnection:
    way = http.client.HTTPConnection("127.0.0.1", server.port)
    way.request("GET", path)
    return way


def _end_with_streams(folder: Path) -> float:
    server = demo_server(folder)
    listening = [_asked(server, "/api/events?listen=level") for _ in range(STREAMS)]
    for stream in listening:
        stream.getresponse().readline()
    owed = [_asked(server, path) for path in HEAVY]  # not waited for
    began = time.monotonic()
    server.stop(random.choice((signal.SIGINT, signal.SIGTERM)))
    took = time.monotonic() - began
    for way in (*listening, *owed):  # open until now: a way forgotten is a way closed
        way.close()
    return took


def full(db: sqlite3.Connection) -> None:
    db.execute(f"PRAGMA max_page_count = {db.execute('PRAGMA page_count').fetchone()[0]}")


TORTURES: tuple[Callable[[Path], list[Row]], ...] = (
    kills,
    two_writers,
    lambda folder: [refused_by_disk(folder, "a full disk", full)],
    lambda folder: [
        refused_by_disk(folder, "read-only", lambda db: db.execute("PRAGMA query_only = ON"))
    ],
    damage,
    doors,
    fuzz,
    streams,
)
HEADING = "# How it bears being hurt"
HEAD = f"""{HEADING}

Written by `make torture` (bounded; not part of `make test`). Every figure of the last column is
meant to be 0 except those that count what was told, laid aside or whole enough. Killed means
SIGKILL, with no time to put anything away.

| what was done | how often | what came of it |
| --- | --- | --- |
"""


def main() -> int:
    rows: list[Row] = []
    for torture in TORTURES:
        folder = Path(tempfile.mkdtemp(prefix="jade-perch-torture-"))
        try:
            found = torture(folder)
        finally:
            shutil.rmtree(folder, ignore_errors=True)
        rows += found
        for row in found:
            print(" | ".join(row), flush=True)
    lines = [*HEAD.splitlines(), *(f"| {' | '.join(row)} |" for row in rows)]
    keep_part(ROOT / "docs/reliability.md", HEADING, lines)
    return 0


if __name__ == "__main__":
    sys.exit(main())
