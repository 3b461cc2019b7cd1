"""What a start finds and leaves: one database, whole, for its owner alone."""

import sqlite3
import stat
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from datetime import date
from threading import Barrier

import pytest

from jade_perch.api.app import create_app
from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Mount
from jade_perch.devices.clock import Clock
from jade_perch.store.connection import DATABASE_NAME, connect, one_at_a_time
from jade_perch.store.copies import make_copy
from jade_perch.store.damage import damage_of, decide, look_over
from jade_perch.store.errors import NameTaken
from jade_perch.store.items import add_item, list_items
from jade_perch.store.journal import OBSERVATIONS
from jade_perch.store.kit import MOUNTS
from jade_perch.store.migrations import MIGRATIONS, migrate
from jade_perch.store.opening import make_ready
from tests.store.notes import NOW, noted

AT_ONCE = 6
PAGE = 4096


def mode_of(path):
    return stat.S_IMODE(path.stat().st_mode)


def shared(work):
    """Do a thing in several threads that all begin in the same moment."""
    ready = Barrier(AT_ONCE)

    def begin(_):
        ready.wait()
        return work()

    with ThreadPoolExecutor(AT_ONCE) as pool:
        return list(pool.map(begin, range(AT_ONCE)))


def spoil(path):
    """Overwrite the second half of a database, as a failing disk might."""
    pages = path.stat().st_size // PAGE
    with path.open("r+b") as file:
        for page in range(pages // 2, pages):
            file.seek(page * PAGE)
            file.write(b"\xa5" * PAGE)


def filled(folder):
    """A database with a note, closed, and one good copy of it."""
    make_ready(folder / DATABASE_NAME, NOW)
    with closing(connect(folder / DATABASE_NAME)) as db:
        noted(db, words="kept")
        db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    return make_copy(folder, date(2027, 2, 13), lambda _: None)


def words_in(path):
    with closing(connect(path)) as db:
        return [one.words for one in list_items(db, OBSERVATIONS)]


def in_line(folder):
    with one_at_a_time(folder):
        assert look_over(folder, NOW) is None
        make_ready(folder / DATABASE_NAME, NOW)


def test_first_starts_at_once_all_come_up(tmp_path):
    shared(lambda: in_line(tmp_path / "house"))
    shared(lambda: make_ready(tmp_path / "bare.sqlite3", NOW))  # even without waiting in line
    for path in (tmp_path / "house" / DATABASE_NAME, tmp_path / "bare.sqlite3"):
        with closing(connect(path)) as db:
            names = [row[0] for row in db.execute("SELECT name FROM migration ORDER BY name")]
        assert names == [step.name for step in MIGRATIONS]


def test_the_file_is_its_owners_alone(tmp_path):
    folder = tmp_path / "far" / "house"
    create_app(folder, Clock())
    with closing(connect(folder / DATABASE_NAME)) as db:
        noted(db)
        found = {one.name: mode_of(one) for one in folder.iterdir()}
    make_copy(folder, date(2027, 2, 13), lambda _: None)
    assert {mode_of(folder), mode_of(folder / "copies")} == {0o700}
    assert len(found) >= 4 and set(found.values()) == {0o600}, found
    (folder / DATABASE_NAME).chmod(0o644)  # as an earlier version left it
    create_app(folder, Clock())
    assert mode_of(folder / DATABASE_NAME) == 0o600


def test_a_damaged_file_is_laid_aside_and_the_last_good_copy_put_back(tmp_path):
    good = filled(tmp_path)
    newer = make_copy(tmp_path, date(2027, 2, 14), lambda _: None)
    spoil(newer)
    spoil(tmp_path / DATABASE_NAME)
    spoiled = (tmp_path / DATABASE_NAME).read_bytes()
    create_app(tmp_path, Clock())
    found = damage_of(tmp_path)
    assert found.copy_path == str(good) and found.copy_day == date(2027, 2, 13)
    assert found.folder in found.words and "2027-02-13" in found.words
    (aside,) = tmp_path.glob("damaged-*")
    assert str(aside) == found.folder and (aside / DATABASE_NAME).read_bytes() == spoiled
    with closing(connect(tmp_path / DATABASE_NAME)) as db:
        assert list_items(db, OBSERVATIONS) == []
        noted(db, words="since then")
        create_app(tmp_path, Clock())  # started again before anybody decided: still offered
        assert damage_of(tmp_path) == found
        since = decide(tmp_path, "copy", NOW)
        # a connection that was open all the time reads what is there now
        assert [one.words for one in list_items(db, OBSERVATIONS)] == ["kept"]
    assert words_in(since / DATABASE_NAME) == ["since then"]
    assert damage_of(tmp_path) is None and look_over(tmp_path, NOW) is None


@pytest.mark.parametrize("content", [b"Dear Ilse, " * 900, b"SQLite format 3\x00" + b"\xff" * 9000])
def test_a_file_that_is_no_database_is_laid_aside_without_a_copy(tmp_path, content):
    (tmp_path / DATABASE_NAME).write_bytes(content)
    create_app(tmp_path, Clock())
    found = damage_of(tmp_path)
    assert found.copy_day is None and "no good copy" in found.words
    with pytest.raises(OutOfRange, match="no copy to put back"):
        decide(tmp_path, "copy", NOW)
    decide(tmp_path, "anew", NOW)
    assert damage_of(tmp_path) is None
    (aside,) = tmp_path.glob("damaged-*")
    assert (aside / DATABASE_NAME).read_bytes() == content


def test_a_whole_database_is_left_alone_also_while_another_writes(tmp_path):
    filled(tmp_path)
    with closing(connect(tmp_path / DATABASE_NAME)) as other:
        other.execute("BEGIN IMMEDIATE")
        assert look_over(tmp_path, NOW) is None
        other.execute("ROLLBACK")
    assert list(tmp_path.glob("damaged-*")) == [] and words_in(tmp_path / DATABASE_NAME) == ["kept"]


@pytest.mark.parametrize(
    ("one", "other"),
    [("Élan", "élan"), ("Straße", "STRASSE"), ("Élan", "E\u0301LAN"), ("ΣΊΣΥΦΟΣ", "σίσυφος")],
)
def test_names_that_read_the_same_are_one_name(db, one, other):
    add_item(db, MOUNTS, Mount(name=one, kind="altaz"))
    with pytest.raises(NameTaken, match="is there already"):
        add_item(db, MOUNTS, Mount(name=other, kind="altaz"))


def test_namesakes_of_an_earlier_version_stay_and_are_told_apart(tmp_path):
    with closing(connect(tmp_path / "old.sqlite3")) as old:
        migrate(old, MIGRATIONS[:15])
        add = "INSERT INTO observer (name) VALUES (?)"
        for name in ("Élan", "élan", "Strasse", "STRAßE", "Ida"):
            old.execute(add, (name,))
        old.execute(
            "INSERT INTO upkeep (item_kind, item_id, task, note, every_days, last_done) "
            "VALUES ('telescope', 1, 'cleaning', '', 3650, '9999-12-31')"
        )
        migrate(old)
        rows = list(old.execute("SELECT name, name_folded FROM observer ORDER BY id"))
        names = ["Élan", "élan (no. 2)", "Strasse", "STRAßE (no. 4)", "Ida"]
        assert [row["name"] for row in rows] == names
        assert len({row["name_folded"] for row in rows}) == 5
        assert old.execute("SELECT last_done FROM upkeep").fetchone()[0] is None
        with pytest.raises(sqlite3.IntegrityError):
            old.execute("UPDATE observer SET name_folded = 'ida' WHERE id = 1")
