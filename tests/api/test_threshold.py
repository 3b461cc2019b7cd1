"""What answers before the application is made: pages at once, all else when it can be answered."""

import asyncio
import subprocess
import sys
from itertools import islice
from threading import Event, Thread

from starlette.applications import Starlette
from starlette.routing import Mount
from starlette.testclient import TestClient

from jade_perch.api.app import create_app
from jade_perch.api.pages import WEB
from jade_perch.api.seal import SECURITY_HEADERS
from jade_perch.api.threshold import Threshold
from jade_perch.demo import CLOCK
from jade_perch.devices.clock import parse_clock

HEAVY = {"fastapi", "numpy", "skyfield", "icalendar", "PIL", "jade_perch.api.app"}
OWN = "127.0.0.1"
LOCAL = f"http://{OWN}"


def status(client, path, host):
    return client.get(path, headers={"host": host}).status_code


def test_pages_come_at_once_and_what_must_be_worked_out_when_it_can_be(tmp_path):
    may_be_made, answers = Event(), []

    def make():
        may_be_made.wait()
        return create_app(tmp_path, parse_clock(CLOCK))

    with TestClient(Threshold(make), base_url=LOCAL) as client:
        asked = [
            Thread(target=lambda *one: answers.append(status(client, *one)), args=one)
            for one in (("/api/evening", OWN), ("/", "elsewhere"), ("/assets/none.js", OWN))
        ]
        for one in asked:
            one.start()
        for path in ("/", "/kit", "/sw.js"):
            page = client.get(path)
            assert page.status_code == 200 and page.headers["cache-control"] == "no-cache"
            assert all(page.headers[name] == value for name, value in SECURITY_HEADERS.items())
        for script in islice((WEB / "assets").glob("*.js"), 3):
            assert "immutable" in client.get(f"/assets/{script.name}").headers["cache-control"]
        soon = client.get("/api/evening", headers={"X-Page": "a page"})
        assert (soon.status_code, soon.headers["retry-after"]) == (503, "1")
        assert answers == []
        may_be_made.set()
        for one in asked:
            one.join()
        assert sorted(answers) == [200, 400, 404]
        assert client.get("/").status_code == 200


def test_a_page_is_told_that_somebody_is_there_until_it_is_told_more():
    may_be_made, sent = Event(), []

    async def tell(scope, receive, send):
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": b"more"})

    def make():
        may_be_made.wait()
        return Starlette(routes=[Mount("/api", tell)])

    async def hear(message):
        sent.append(message)
        may_be_made.set()

    async def listen():
        told = iter([{"type": "lifespan.startup"}])
        over = asyncio.Event()

        async def lives():
            if (first := next(told, None)) is not None:
                return first
            await over.wait()
            return {"type": "lifespan.shutdown"}

        async def nothing(_):
            pass

        threshold = Threshold(make)
        life = asyncio.create_task(threshold({"type": "lifespan"}, lives, nothing))
        await asyncio.sleep(0)
        scope = {"type": "http", "method": "GET", "path": "/api/events", "root_path": "",
                 "query_string": b"", "headers": [(b"host", b"localhost")]}  # fmt: skip
        await threshold(scope, lives, hear)
        over.set()
        await life

    asyncio.run(listen())
    assert [one["type"] for one in sent].count("http.response.start") == 1
    assert b"alive" in sent[1]["body"] and sent[-1]["body"] == b"more"


def test_what_cannot_be_made_ends_it_and_is_kept(tmp_path):
    trouble, given_up = OSError("no room"), Event()

    def make():
        raise trouble

    threshold = Threshold(make)
    threshold.give_up = given_up.set
    with TestClient(threshold, base_url=LOCAL) as client:
        assert client.get("/api/evening").status_code == 503
        given_up.wait()
        assert threshold.error is trouble


def test_nothing_heavy_is_brought_in_before_the_first_answer():
    told = subprocess.run(
        [sys.executable, "-c", "import sys, jade_perch.cli; print(*sys.modules)"],
        capture_output=True,
        text=True,
        check=True,
    )
    assert not HEAVY & set(told.stdout.split())
