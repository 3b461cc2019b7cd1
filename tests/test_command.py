"""The command as people start and end it: from nothing, from any folder, by each address."""

import http.client
import os
import re
import signal
import socket
import subprocess
import sys
from contextlib import closing, contextmanager

import pytest

from jade_perch import cli
from jade_perch.api.events import TICK_S
from jade_perch.devices.reach import addresses, listen

STREAMS = 8
PATIENCE_S = 120  # nothing waits for it; a machine may stand still for a while
LATEST_END_S = 3  # a server that is told to end is gone by then
WORKING_WITHOUT_END = """
import atexit, time
import anyio.to_thread
from jade_perch import cli

async def app(scope, receive, send):
    def work():
        print("at work", flush=True)
        time.sleep(10**6)
    await anyio.to_thread.run_sync(work)

atexit.register(lambda: print("put away", flush=True))
with cli.listen("127.0.0.1", 0) as door:
    print("http://127.0.0.1:%d/" % door.getsockname()[1], flush=True)
    cli.answer(cli.Server(app, lambda: None), door)
"""


def started(tmp_path, *options):
    """The command, up; yields its process and the addresses it printed."""
    return running(tmp_path, "-m", "jade_perch.cli", "serve", "--port", "0", *options)


@contextmanager
def running(tmp_path, *arguments):
    """Something that answers at addresses it prints first."""
    command = [sys.executable, *arguments]
    home = {**os.environ, "HOME": str(tmp_path), "XDG_DATA_HOME": str(tmp_path / "data")}
    with subprocess.Popen(
        command, cwd=tmp_path, env=home, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True
    ) as process:
        line = process.stdout.readline()
        try:
            yield process, re.findall(r"http://\[?([\w.:]+?)\]?:(\d+)/", line)
        finally:
            process.kill()


def asked(host, port, path="/api/evening", named=None):
    with closing(http.client.HTTPConnection(host, int(port), timeout=PATIENCE_S)) as connection:
        connection.request("GET", path, headers={"Host": named} if named else {})
        return connection.getresponse().status


@pytest.mark.parametrize("sign", [signal.SIGINT, signal.SIGTERM])
def test_it_ends_when_it_is_told_to_however_many_listen(tmp_path, sign):
    with started(tmp_path) as (process, [(host, port)]):
        assert asked(host, port) == 200
        streams = [http.client.HTTPConnection(host, int(port)) for _ in range(STREAMS)]
        for stream in streams:
            stream.request("GET", "/api/events?listen=level")
            answer = stream.getresponse()
            assert b"retry" in answer.readline() and b"hello" in answer.readline()
        process.send_signal(sign)
        assert process.wait(timeout=PATIENCE_S) == 0
        assert process.stderr.read() == ""
        assert list((tmp_path / "data").rglob("jade-perch.sqlite3"))


def test_it_ends_when_it_is_told_to_while_it_is_starting(tmp_path):
    with (
        started(tmp_path) as (process, [(host, port)]),
        closing(http.client.HTTPConnection(host, int(port))) as stream,
    ):
        stream.request("GET", "/api/events")
        assert stream.getresponse().readline()
        process.send_signal(signal.SIGTERM)
        assert process.wait(timeout=PATIENCE_S) == 0
        assert process.stderr.read() == ""


@pytest.mark.parametrize("sign", [signal.SIGINT, signal.SIGTERM])
def test_it_ends_whatever_is_still_being_worked_out(tmp_path, sign):
    assert cli.GRACE_S < LATEST_END_S
    with (
        running(tmp_path, "-c", WORKING_WITHOUT_END) as (process, [(host, port)]),
        closing(http.client.HTTPConnection(host, int(port))) as way,
    ):
        way.request("GET", "/")
        assert process.stdout.readline() == "at work\n"
        process.send_signal(sign)
        assert process.wait(timeout=PATIENCE_S) == 0
        assert (process.stdout.read(), process.stderr.read()) == ("put away\n", "")


def test_ways_stay_open_from_one_tick_of_the_clock_to_the_next(tmp_path, monkeypatch):
    found = []

    def run(server, **_):
        found.append(server.config.timeout_keep_alive)

    monkeypatch.setattr(cli.Server, "run", run)
    monkeypatch.setattr(cli.signal, "signal", lambda *_: None)
    assert cli.main(["serve", "--port", "0", "--data-dir", str(tmp_path)]) == 0
    assert found[0] > 2 * TICK_S


def test_two_first_starts_at_once_both_come_up(tmp_path):
    with started(tmp_path) as (_, [(one, port)]), started(tmp_path) as (_, [(other, second)]):
        assert asked(one, port) == asked(other, second) == 200


@pytest.mark.parametrize("host", ["0.0.0.0", "127.0.0.3", "::1", "localhost"])
def test_every_address_answers_as_it_was_printed(tmp_path, host):
    with started(tmp_path, "--host", host) as (_, printed):
        assert printed and "0.0.0.0" not in dict(printed)
        for at, port in printed:
            assert asked(at, port) == 200
            assert asked(at, port, named="elsewhere.example") == 400
            assert asked(at, port, "/", named="testserver") == 400


@pytest.mark.parametrize(
    ("options", "words"),
    [
        (["--port", "99999"], "--port is 99999; allowed is 0 to 65535"),
        (["--host", "nowhere.invalid"], "allowed is an address or name of this machine"),
        (["--clock", "yesterday"], "clock is 'yesterday'"),
    ],
)
def test_what_cannot_be_used_is_one_clear_line(tmp_path, options, words):
    with started(tmp_path, *options) as (process, printed):
        said = process.stderr.read()
        assert (process.wait(), printed, said.count("\n")) == (2, [], 1)
        assert words in said


def test_what_cannot_be_made_is_one_clear_line_too(tmp_path):
    (tmp_path / "x").mkdir()
    (tmp_path / "x" / "jade-perch.sqlite3").mkdir()
    with started(tmp_path, "--data-dir", str(tmp_path / "x")) as (process, _):
        said = process.stderr.read()
        assert (process.wait(), said.count("\n")) == (2, 1)
        assert "jade-perch.sqlite3" in said


def test_a_port_that_is_taken_is_told_before_anything_is_made(tmp_path):
    with closing(socket.socket()) as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = str(taken.getsockname()[1])
        with started(tmp_path, "--port", port, "--data-dir", str(tmp_path / "x")) as (process, _):
            assert "choose another --port" in process.stderr.read()
    assert not (tmp_path / "x").exists()


def test_everywhere_is_told_by_addresses_that_can_be_typed():
    assert addresses("127.0.0.1", 80) == ["http://127.0.0.1:80/"]
    assert addresses("::1", 80) == ["http://[::1]:80/"]
    assert addresses("0.0.0.0", 80)[0] == "http://127.0.0.1:80/"
    assert addresses("::", 80)[0] == "http://[::1]:80/"
    with closing(listen("::", 0)) as both:
        assert both.getsockopt(socket.IPPROTO_IPV6, socket.IPV6_V6ONLY) == 0
