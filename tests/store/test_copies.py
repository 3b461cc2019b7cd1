"""The daily copy: one moment whole, kept for a fortnight, put back by the command."""

from contextlib import closing
from datetime import date, timedelta

import pytest

from jade_perch.cli import main
from jade_perch.store import copies
from jade_perch.store.connection import (
    DATABASE_NAME,
    atomic,
    connect,
    connect_again,
    copy_database,
    in_use,
)
from jade_perch.store.copies import KEPT_DAYS, list_copies, make_copy
from jade_perch.store.errors import DatabaseUnusable
from jade_perch.store.items import list_items
from jade_perch.store.journal import OBSERVATIONS
from jade_perch.store.opening import bring_forward
from tests.store.notes import NOW, found, noted


def no_pause(_seconds):
    return None


def test_who_reads_makes_no_empty_database_of_one_that_is_gone(tmp_path):
    path = tmp_path / DATABASE_NAME
    for read in (
        lambda: connect_again(path),
        lambda: make_copy(tmp_path, date(2027, 2, 13), no_pause),
        lambda: copy_database(path, tmp_path / "other"),
    ):
        with pytest.raises(DatabaseUnusable, match="is gone"):
            read()
    assert not path.exists()


def test_a_folder_may_be_called_anything(tmp_path):
    """Also what means something in an address."""
    folder = tmp_path / "50 % #1? a&b"
    folder.mkdir()
    with closing(connect(folder / DATABASE_NAME)) as db:
        bring_forward(db, NOW)
        noted(db)
    path = make_copy(folder, date(2027, 2, 13), no_pause)
    assert [one.path for one in list_copies(folder)] == [path]
    assert main(["restore", "2027-02-13", "--data-dir", str(folder)]) == 0
    with closing(connect_again(folder / DATABASE_NAME)) as db:
        assert len(list_items(db, OBSERVATIONS)) == 1


def test_a_copy_is_one_moment_whole_however_much_is_written(db, tmp_path, monkeypatch):
    with atomic(db):
        for n in range(3000):
            noted(db, words="dust " * 60, minutes=n)
    counts = []

    def write(_seconds):
        noted(db, words="written meanwhile")
        counts.append(1)

    monkeypatch.setattr(copies, "STEP_PAGES", 100)
    path = make_copy(tmp_path, date(2027, 2, 13), write)
    with closing(connect(path)) as copy:
        assert len(counts) > 2 and len(list_items(copy, OBSERVATIONS)) == 3000
        assert (
            found(copy, "meanwhile") == []
            and copy.execute("PRAGMA quick_check").fetchone()[0] == "ok"
        )
    assert path.stat().st_mode & 0o777 == 0o600


def test_copies_are_kept_for_a_fortnight(db, tmp_path):
    first = date(2027, 1, 1)
    for n in range(KEPT_DAYS + 3):
        make_copy(tmp_path, first + timedelta(days=n), no_pause)
    (tmp_path / "copies" / "mine.sqlite3").write_bytes(b"not one of ours")
    days = [one.day for one in list_copies(tmp_path)]
    assert len(days) == KEPT_DAYS and days[0] == first + timedelta(days=KEPT_DAYS + 2)
    assert (tmp_path / "copies" / "mine.sqlite3").exists()


def test_a_copy_comes_back_by_the_command_and_what_was_there_is_laid_aside(tmp_path, capsys):
    database = tmp_path / DATABASE_NAME
    with closing(connect(database)) as db:
        bring_forward(db, NOW)
        noted(db, words="kept")
        make_copy(tmp_path, date(2027, 2, 13), no_pause)
        noted(db, words="lost again")
    folder = ["--data-dir", str(tmp_path)]
    assert main(["restore", *folder]) == 0 and "2027-02-13" in capsys.readouterr().out
    with in_use(tmp_path, alone=False):
        assert main(["restore", "latest", *folder]) == 2
        assert "End it first" in capsys.readouterr().err
    assert main(["restore", "2027-02-13", *folder]) == 0
    with closing(connect(database)) as db:
        assert [one.words for one in list_items(db, OBSERVATIONS)] == ["kept"]
    (aside,) = tmp_path.glob("before-*")
    with closing(connect(aside / DATABASE_NAME)) as db:
        assert len(list_items(db, OBSERVATIONS)) == 2


@pytest.mark.parametrize("content", [b"", b"no database", None])
def test_a_damaged_copy_replaces_nothing(tmp_path, capsys, content):
    with closing(connect(tmp_path / DATABASE_NAME)) as db:
        bring_forward(db, NOW)
        noted(db, words="kept")
        good = make_copy(tmp_path, date(2027, 2, 13), no_pause).read_bytes()
    bad = tmp_path / "bad.sqlite3"
    middle = bytearray(good)
    middle[5000:9000] = b"\xff" * 4000
    bad.write_bytes(bytes(middle) if content is None else content)
    assert main(["restore", str(bad), "--data-dir", str(tmp_path)]) == 2
    assert "another copy" in capsys.readouterr().err
    with closing(connect(tmp_path / DATABASE_NAME)) as db:
        assert found(db, "kept") == [1]


def test_a_missing_copy_is_said_so(tmp_path, capsys):
    assert main(["restore", "latest", "--data-dir", str(tmp_path)]) == 2
    assert "There is no copy" in capsys.readouterr().err
    with (
        pytest.raises(DatabaseUnusable),
        in_use(tmp_path, alone=True),
        in_use(tmp_path, alone=False),
    ):
        pass
