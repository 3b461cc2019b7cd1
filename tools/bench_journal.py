"""Measure a journal of 50 000 observations: search, first rows, lessons, out and in, the copy."""

import http.client
import json
import statistics
import tempfile
import threading
import time
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from random import Random

from jade_perch.core.sky.catalogue import catalogue
from jade_perch.store.connection import DATABASE_NAME, atomic, connect
from jade_perch.store.copies import make_copy
from jade_perch.store.opening import bring_forward
from measure import PORT, SITE, Row, ask, median_ms, server

NIGHTS, A_NIGHT = 2_500, 20
TYPED = ("m", "ne", "neb", "nebish", "nebish wing", "m 42", "orion neb", "heron", "zz")
ADD_SITE = (
    "INSERT INTO site (name, latitude_deg, longitude_deg, elevation_m, zone) VALUES (?, ?, ?, ?, ?)"
)
ADD_EVENING = "INSERT INTO evening (id, date, site_id, steadiness) VALUES (?, ?, 1, ?)"
ADD_NOTE = (
    "INSERT INTO observation (observed_at_utc, object_name, target_key, telescope_name, glass, "
    "magnification, steadiness, outcome, words, site_name, zone, evening_id, sent_key) "
    "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, 'Bench', 'Europe/Berlin', ?, ?)"
)


def a_life_of_notes(folder: Path) -> None:
    """Write 50 000 made-up notes of thirty words each, over fourteen years."""
    dice, things = Random(1), catalogue()
    roots = ("neb", "glo", "fain", "brig", "soft", "dust", "arm", "knot", "core", "wing", "ring")
    words = [f"{root}{end}" for root in roots for end in ("", "ly", "ish", "er", "ous", "ing")]
    words += [f"w{n}" for n in range(5000)]
    begin = datetime(2010, 1, 1, 20, tzinfo=UTC)
    db = connect(folder / DATABASE_NAME)
    bring_forward(db, begin)
    with atomic(db):
        place = (SITE.name, SITE.latitude_deg, SITE.longitude_deg, SITE.elevation_m, SITE.zone)
        db.execute(ADD_SITE, place)
        for night in range(NIGHTS):
            at = begin + timedelta(days=2 * night)
            db.execute(ADD_EVENING, (night + 1, at.date().isoformat(), dice.randint(1, 5)))
            for n in range(A_NIGHT):
                row = dice.randrange(3000)
                when = (at + timedelta(minutes=9 * n)).strftime("%Y-%m-%dT%H:%M:%SZ")
                said = " ".join(dice.choices(words, k=30))
                db.execute(ADD_NOTE, (
                    when, things.labels[row][:80], things.keys[row], dice.choice(("Heron", "Wren")),
                    "13 mm", dice.choice((25, 58, 101)), dice.randint(1, 5),
                    dice.choice(("seen", "glimpsed", "not seen", None)), said, night + 1,
                    f"{night}-{n}",
                ))  # fmt: skip
    db.close()


def send_zip(content: bytes) -> str:
    """Send a zip; returns the key it is asked for by."""
    connection = http.client.HTTPConnection("127.0.0.1", PORT, timeout=120)
    headers = {"Content-Type": "application/zip"}
    connection.request("POST", "/api/journal/everything/upload", content, headers)
    sent = json.loads(connection.getresponse().read())
    connection.close()
    return str(sent["key"])


def slow(path: str) -> float:
    """Return how long a long piece of work takes, in seconds."""
    connection = http.client.HTTPConnection("127.0.0.1", PORT, timeout=120)
    start = time.perf_counter()
    connection.request("POST", f"/api/journal/everything/{path}")
    answer = connection.getresponse()
    answer.read()
    if answer.status != 200:
        raise RuntimeError(f"{path}: {answer.status}")
    return time.perf_counter() - start


def resident_mb(pid: int, which: str) -> float:
    status = Path(f"/proc/{pid}/status").read_text()
    return int(status.split(f"{which}:")[1].split()[0]) / 1024


def writes_during_a_copy(folder: Path) -> float:
    """Return the slowest write while a copy is made over the usual one without, in ms."""

    def written(while_: threading.Event | None) -> list[float]:
        took = []
        with_db = connect(folder / DATABASE_NAME)
        for n in range(60):
            if while_ is not None and while_.is_set():
                break
            start = time.perf_counter()
            with atomic(with_db):
                with_db.execute("UPDATE site SET elevation_m = ? WHERE id = 1", (n,))
            took.append((time.perf_counter() - start) * 1000)
            time.sleep(0.02)
        with_db.close()
        return took

    quiet = written(None)
    done = threading.Event()

    def copy() -> None:
        make_copy(folder, date(2027, 2, 13), time.sleep)
        done.set()

    thread = threading.Thread(target=copy)
    thread.start()
    busy = written(done)
    thread.join()
    return max(busy) - statistics.median(quiet)


def a_life_in_the_journal() -> list[Row]:
    with tempfile.TemporaryDirectory() as data_dir, tempfile.TemporaryDirectory() as other:
        a_life_of_notes(Path(data_dir))
        delay = writes_during_a_copy(Path(data_dir))
        with server("serve", data_dir) as (process, *_):
            typed = [
                median_ms(lambda t=text: ask(f"/journal/search?text={t.replace(' ', '%20')}"), 7)
                for text in TYPED
            ]
            first_s = time.perf_counter()
            ask("/journal/evenings")
            first_ms = (time.perf_counter() - first_s) * 1000
            lessons = median_ms(lambda: ask("/journal/lessons"), 7)
            lists = median_ms(lambda: ask("/journal/lists"), 7)
            before = resident_mb(process.pid, "VmRSS")
            out_s = slow("pack")
            grown = resident_mb(process.pid, "VmHWM") - before
            content = ask("/journal/everything/everything.zip")
        with server("serve", other) as (process, *_):
            key = send_zip(content)
            check_s = slow(f"check?key={key}")
            in_s = slow(f"keep?key={key}")
            again_mb = resident_mb(process.pid, "VmHWM")
    what = f"with {NIGHTS * A_NIGHT} observations:"
    return [
        Row(f"{what} search as typed, slowest", "50 ms", f"{max(typed):.0f} ms", max(typed) < 50),
        Row(f"{what} first rows of the journal", "200 ms", f"{first_ms:.0f} ms", first_ms < 200),
        Row(f"{what} what they teach", "300 ms", f"{lessons:.0f} ms", lessons < 300),
        Row(f"{what} every list as it stands (our own limit)", "200 ms", f"{lists:.0f} ms",
            lists < 200),
        Row(f"{what} everything out", "5 s", f"{out_s:.1f} s", out_s < 5),
        Row(f"{what} its extra memory at most (our own limit)", "100 MB", f"{grown:.0f} MB",
            grown < 100),
        Row(f"{what} tried before it is taken in (our own limit)", "20 s", f"{check_s:.1f} s",
            check_s < 20),
        Row(f"{what} everything in again", "20 s", f"{in_s:.1f} s", in_s < 20),
        Row(f"{what} the server then at most (our own limit)", "500 MB", f"{again_mb:.0f} MB",
            again_mb < 500),
        Row(f"{what} the daily copy delays a write by at most", "50 ms", f"{delay:.0f} ms",
            delay < 50),
    ]  # fmt: skip
