"""A database that takes nothing: the answer says which way, and nothing stored is lost."""

import threading
from contextlib import closing

import pytest

from jade_perch.api import dependencies
from jade_perch.store import connection
from jade_perch.store.connection import DATABASE_NAME, connect
from tests.store.test_start import spoil

MOUNT = {"name": "Another", "kind": "altaz"}


def full(db):
    db.execute(f"PRAGMA max_page_count = {db.execute('PRAGMA page_count').fetchone()[0]}")


def read_only(db):
    db.execute("PRAGMA query_only = ON")


@pytest.mark.parametrize(
    ("spoiled", "words"), [(full, "The disk is full"), (read_only, "may only be read")]
)
def test_a_disk_that_takes_nothing_is_told_and_nothing_is_lost(demo, monkeypatch, spoiled, words):
    def opened(path):
        db = connect(path)
        spoiled(db)
        return db

    before = demo.get("/api/journal/observations").json()
    note = {"observed_at_utc": "2027-02-13T15:00:00Z", "object_name": "M42", "words": "w " * 1900}
    with monkeypatch.context() as patched:
        patched.setattr(dependencies, "connect_again", opened)
        answers = [demo.post("/api/journal/observations", json=note) for _ in range(9)]
    assert answers[-1].status_code == 503
    detail = answers[-1].json()["detail"]
    assert words in detail and "What was stored before is kept; this was not stored" in detail
    after = demo.get("/api/journal/observations").json()
    stored = [one for one in answers if one.status_code == 201]
    assert len(after) == len(before) + len(stored)


def test_a_busy_database_is_waited_for_and_then_told(demo, tmp_path, monkeypatch):
    monkeypatch.setattr(connection, "BUSY_MS", 60)
    with closing(connect(tmp_path / DATABASE_NAME)) as other:
        other.execute("BEGIN IMMEDIATE")
        refused = demo.post("/api/kit/mounts", json=MOUNT)
        assert demo.get("/api/kit/mounts").status_code == 200  # whoever reads does not wait
        other.execute("ROLLBACK")
    assert refused.status_code == 503 and "busy with something else for 5 s" in refused.text
    assert demo.post("/api/kit/mounts", json=MOUNT).status_code == 201


def test_a_writer_that_waits_gets_its_turn(demo, tmp_path):
    other = connect(tmp_path / DATABASE_NAME)
    other.execute("BEGIN IMMEDIATE")
    waiting = threading.Event()
    timer = threading.Thread(target=lambda: (waiting.wait(0.3), other.execute("ROLLBACK")))
    timer.start()
    assert demo.post("/api/kit/mounts", json=MOUNT).status_code == 201
    timer.join()
    other.close()


def test_damage_while_it_runs_is_told_with_the_way_out(demo, tmp_path):
    with closing(connect(tmp_path / DATABASE_NAME)) as db:
        db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    spoil(tmp_path / DATABASE_NAME)
    answers = [demo.get(path) for path in ("/api/journal/observations", "/api/kit/export.json")]
    assert {one.status_code for one in answers} == {503}
    assert all(
        "damaged" in one.json()["detail"] and "start it again" in one.text for one in answers
    )


def test_a_database_that_is_gone_is_told_and_no_empty_one_made(demo, tmp_path):
    for path in tmp_path.glob(f"{DATABASE_NAME}*"):
        path.unlink()
    answer = demo.get("/api/kit/mounts")
    assert answer.status_code == 503 and "is gone" in answer.json()["detail"]
    assert not (tmp_path / DATABASE_NAME).exists()
    assert demo.get("/").status_code == 200


def test_a_record_that_cannot_be_read_takes_no_other_with_it(demo, tmp_path):
    """However it came about: an older version, a hand in the file, a time zone that is no more."""
    tasks = len(demo.get("/api/kit/upkeeps").json())
    notes = len(demo.get("/api/journal/observations").json())
    with closing(connect(tmp_path / DATABASE_NAME)) as db:
        db.execute("PRAGMA ignore_check_constraints = ON")
        db.execute("UPDATE upkeep SET last_done = '9999-12-31', every_days = 3650 WHERE id = 1")
        db.execute("UPDATE observation SET zone = 'Nowhere/Sunken' WHERE id = 1")
        db.execute("UPDATE usual_choice SET date = '9999-12-31'")
    for path in ("kit/due", "setup/solar", "evening", "journal/evenings", "kit/export.csv"):
        assert demo.get(f"/api/{path}").status_code == 200, path
    assert len(demo.get("/api/kit/upkeeps").json()) == tasks - 1
    assert len(demo.get("/api/journal/observations").json()) == notes - 1
    refused = demo.get("/api/journal/observations/1")
    assert refused.status_code == 409 and "Nowhere/Sunken" in refused.json()["detail"]
    told = demo.get("/api/journal/everything/unreadable").json()
    assert [one[:20] for one in told] == ["The upkeep number 1 ", "The observation numb"]
    assert "last_done is 9999-12-31" in told[0]


ONLY_ONES = {  # by what makes it the only one of its kind, what stands there for ever otherwise
    "evening": "landmark = '{}}'",
    "sitting": "sitting = '[]'",
    "typed_hour": "air_c = 9000",
    "plan_item": "minutes = -3",
}


def test_what_can_be_there_but_once_is_read_as_far_as_it_goes(demo, tmp_path):
    """Nothing else could stand in its place: the evening would be begun anew and refused."""

    def all_written(key, **values):
        plan = demo.get("/api/plan/items").json()
        assert [one["target_key"] for one in plan].count("m42") == 1
        hour = {"air_c": 3.0}
        answers = [
            demo.put("/api/plan/weather/hours/2027-02-13T15:00:00Z", json=hour | values),
            demo.post("/api/eyepiece/press", json={"key": key, "what": "pack", "item": key}),
            demo.post("/api/plan/schedule", json={"target_keys": ["m42", "m45"]}),
            demo.patch("/api/evening", json={"steadiness": 2}),
        ]
        assert [(one.status_code, one.text) for one in answers if one.is_error] == []

    demo.patch("/api/evening", json={"transparency": 4}).raise_for_status()
    demo.post("/api/plan/schedule", json={"target_keys": ["m42"]}).raise_for_status()
    all_written("one")
    with closing(connect(tmp_path / DATABASE_NAME)) as db:
        db.execute("PRAGMA ignore_check_constraints = ON")
        for table, change in ONLY_ONES.items():
            assert db.execute(f"UPDATE {table} SET {change}").rowcount, table
    told = " ".join(demo.get("/api/journal/everything/unreadable").json())
    assert all(f"The {table.replace('_', ' ')}" in told for table in ONLY_ONES)
    all_written("two", version=1)
    assert demo.get("/api/evening").json()["choice"]["transparency"] == 4  # the rest is read


def test_the_page_hears_of_damage_and_decides(client, tmp_path):
    path = "/api/journal/everything/damage"
    assert client.get(path).json() is None
    refused = client.post(path, json={"take": "copy"})
    assert refused.status_code == 422 and "no copy to put back" in refused.json()["detail"]
    settled = client.post(path, json={"take": "anew"})
    assert (settled.status_code, settled.headers["x-changed"]) == (204, "everything")
