"""Keeping things: transactions, migrations, undo, and files that are no database."""

import sqlite3

import pytest

from jade_perch.core.evening.context import EveningChoice
from jade_perch.core.kit import Eyepiece, Telescope, Upkeep
from jade_perch.core.records import Record, check_together, compare, read_record, write_records
from jade_perch.demo.loader import load_demo, load_demo_kit
from jade_perch.store.connection import atomic, connect
from jade_perch.store.errors import Contradiction, DatabaseUnusable, NameTaken, NotFound
from jade_perch.store.evening import SITES, get_choice, save_choice
from jade_perch.store.items import (
    add_item,
    change_item,
    delete_item,
    get_item,
    list_items,
    restore_item,
)
from jade_perch.store.journal import OBSERVATIONS
from jade_perch.store.kit import (
    EYEPIECES,
    MOUNTS,
    OBSERVERS,
    TELESCOPES,
    UPKEEPS,
    import_records,
    whole_kit,
)
from jade_perch.store.migrations import MIGRATIONS, migrate

TUBE = Telescope(name="Tube", aperture_mm=100, focal_length_mm=900, design="refractor")
OLD_TELESCOPE = """
INSERT INTO telescope
  (name, aperture_mm, focal_length_mm, design, obstruction_percent, focuser_barrel_in)
VALUES ('Tube', 100, 900, 'refractor', 0, '1.25')
"""
SCHEMA = "SELECT name, sql FROM sqlite_master WHERE sql IS NOT NULL ORDER BY name"


@pytest.fixture
def db(tmp_path):
    db = connect(tmp_path / "test.sqlite3")
    migrate(db)
    yield db
    db.close()


def schema_of(db):
    return [tuple(row) for row in db.execute(SCHEMA)]


def test_the_connection_keeps_its_promises(db):
    assert db.execute("PRAGMA foreign_keys").fetchone()[0] == 1
    assert db.execute("PRAGMA journal_mode").fetchone()[0] == "wal"
    assert db.execute("PRAGMA synchronous").fetchone()[0] == 2
    tables = [r for r in db.execute("PRAGMA table_list") if r["type"] == "table"]
    assert all(r["strict"] for r in tables if not r["name"].startswith("sqlite_"))


@pytest.mark.parametrize("from_step", range(len(MIGRATIONS)))
def test_every_earlier_version_comes_forward(tmp_path, db, from_step):
    old = connect(tmp_path / "old.sqlite3")
    migrate(old, MIGRATIONS[:from_step])
    if from_step:
        old.execute(OLD_TELESCOPE)
    migrate(old)
    migrate(old)
    assert schema_of(old) == schema_of(db)
    assert len(list_items(old, TELESCOPES)) == (1 if from_step else 0)
    old.close()


def test_a_failing_step_leaves_nothing_and_stays_pending(tmp_path):
    db = connect(tmp_path / "x.sqlite3")
    broken = (("001_bad", ("CREATE TABLE one (id INTEGER) STRICT", "CREATE TABLE one (x)")),)
    with pytest.raises(sqlite3.OperationalError):
        migrate(db, broken)
    assert [name for name, _ in schema_of(db) if name == "one"] == []
    migrate(db, (("001_bad", ("CREATE TABLE one (id INTEGER) STRICT",)),))
    assert [name for name, _ in schema_of(db) if name == "one"] == ["one"]
    db.close()


def test_a_newer_database_and_a_strange_file_are_refused(tmp_path, db):
    migrate(db, (*MIGRATIONS, ("999_future", ())))
    with pytest.raises(DatabaseUnusable, match="999_future"):
        migrate(db)
    strange = tmp_path / "letter.sqlite3"
    strange.write_text("Dear Ilse, " * 200)
    with pytest.raises(DatabaseUnusable):
        migrate(connect(strange))
    assert strange.read_text().startswith("Dear Ilse")


def test_half_a_transaction_is_none(db):
    with pytest.raises(RuntimeError), atomic(db):
        add_item(db, TELESCOPES, TUBE)
        raise RuntimeError
    assert list_items(db, TELESCOPES) == []


def test_an_item_comes_back_as_it_went_in(db):
    eyepiece = Eyepiece(name="E", focal_length_mm=12.4, apparent_field_deg=82, eye_relief_mm=None)
    stored = add_item(db, EYEPIECES, eyepiece)
    assert get_item(db, EYEPIECES, stored.id) == stored
    assert stored.model_copy(update={"id": None}) == eyepiece


def test_deleting_can_be_undone_unless_the_name_is_in_use(db):
    first = add_item(db, TELESCOPES, TUBE)
    delete_item(db, TELESCOPES, first.id)
    with pytest.raises(NotFound, match="telescope number 1"):
        get_item(db, TELESCOPES, first.id)
    with pytest.raises(NotFound):
        change_item(db, TELESCOPES, first.id, TUBE)
    second = add_item(db, TELESCOPES, TUBE.model_copy(update={"name": "TUBE"}))
    with pytest.raises(NameTaken):
        restore_item(db, TELESCOPES, first.id)
    delete_item(db, TELESCOPES, second.id)
    assert restore_item(db, TELESCOPES, first.id) == first
    with pytest.raises(NotFound):
        restore_item(db, TELESCOPES, first.id)


def test_an_import_is_all_or_nothing(db):
    add_item(db, TELESCOPES, TUBE)
    changed = TUBE.model_copy(update={"aperture_mm": 80.0})
    bad = TUBE.model_copy(update={"name": "x" * 200})  # past the model, refused by the table
    records = [
        Record(place=n, item="telescope", name=one.name, model=one)
        for n, one in enumerate((changed, bad))
    ]
    with pytest.raises(Contradiction):
        import_records(db, records)
    assert [t.aperture_mm for t in list_items(db, TELESCOPES)] == [100.0]


def test_references_by_name_become_real_ones(db):
    telescope = {"item": "telescope", **TUBE.model_dump(exclude_none=True), "mount_name": "Stand"}
    mount = {"item": "mount", "name": "Stand", "kind": "altaz"}
    import_records(db, [read_record(1, telescope), read_record(2, mount)])
    (stored,), (stand,) = list_items(db, TELESCOPES), list_items(db, MOUNTS)
    assert stored.mount_id == stand.id


def test_old_glasses_and_amplifiers_come_forward(tmp_path):
    old = connect(tmp_path / "old.sqlite3")
    migrate(old, MIGRATIONS[:3])
    old.execute("INSERT INTO observer (name, wears_glasses) VALUES ('Ilse', 1), ('Tam', 0)")
    old.execute(
        "INSERT INTO evening_choice (id, school, steadiness, amplifiers_on) "
        "VALUES (1, 'steady', 4, 0)"
    )
    migrate(old)
    assert [o.glasses for o in list_items(old, OBSERVERS)] == ["sight", "none"]
    choice = get_choice(old)
    assert (choice.school, choice.steadiness, choice.amplifiers_on) == ("steady", 4, False)
    old.close()


def test_the_demo_never_touches_what_is_there(db):
    own = add_item(db, TELESCOPES, TUBE)
    load_demo(db)
    load_demo_kit(db)
    assert whole_kit(db) == [own]
    assert len(list_items(db, SITES)) == 2  # there was no place yet
    assert list_items(db, OBSERVATIONS) == []


def test_choices_are_kept_and_point_at_real_things(db):
    load_demo(db)
    choice = get_choice(db).model_copy(update={"steadiness": 5, "amplifiers_on": False})
    save_choice(db, choice)
    assert get_choice(db) == choice
    with pytest.raises(NotFound, match="site number 99"):
        save_choice(db, EveningChoice(site_id=99))
    assert get_choice(db) == choice


def test_upkeep_is_of_something_there_and_each_task_once(db):
    load_demo(db)
    tube = list_items(db, TELESCOPES)[0]
    cleaning = Upkeep(item_kind="telescope", item_id=tube.id, task="cleaning")
    add_item(db, UPKEEPS, cleaning)
    with pytest.raises(NameTaken, match="cleaning"):
        add_item(db, UPKEEPS, cleaning)
    with pytest.raises(NotFound, match="eyepiece number 99"):
        add_item(db, UPKEEPS, Upkeep(item_kind="eyepiece", item_id=99, task="cleaning"))
    # what was deleted takes its upkeep out of the export, and brings it back with undo
    before = write_records(whole_kit(db))
    delete_item(db, TELESCOPES, tube.id)
    records = [read_record(n, one) for n, one in enumerate(write_records(whole_kit(db)))]
    assert compare(check_together(records, whole_kit(db)), whole_kit(db)).refused == 0
    assert not [one for one in records if one.item == "upkeep" and "Heron 140" in one.name]
    restore_item(db, TELESCOPES, tube.id)
    assert write_records(whole_kit(db)) == before
