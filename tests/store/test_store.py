"""Keeping things: transactions, migrations, undo, and files that are no database."""

import sqlite3
from datetime import UTC, datetime, timedelta

import pytest

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.context import EveningChoice
from jade_perch.core.kit import Eyepiece, Mount, Telescope, Upkeep
from jade_perch.core.moments import Now
from jade_perch.core.records import Record, check_together, compare, read_record, write_records
from jade_perch.demo.loader import load_demo, load_demo_kit
from jade_perch.store.connection import atomic, connect
from jade_perch.store.desk import choose, read_desk
from jade_perch.store.errors import (
    Contradiction,
    DatabaseUnusable,
    NameTaken,
    NotFound,
    Stale,
)
from jade_perch.store.evening import EVENINGS, SITES, ensure_evening
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
from jade_perch.store.migrations import MIGRATIONS, Step, migrate
from jade_perch.store.opening import bring_forward
from jade_perch.store.setup import PARFOCALS, READINGS, SOLAR_SESSIONS

NOW = datetime(2027, 2, 13, 16, 10, tzinfo=UTC)
TUBE = Telescope(name="Tube", aperture_mm=100, focal_length_mm=900, design="refractor")
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
    migrate(old)
    migrate(old)
    assert schema_of(old) == schema_of(db)
    old.close()


# What each version could hold, in the words of its own time; every row of them must come through.
HELD = {
    1: (
        "INSERT INTO telescope (name, aperture_mm, focal_length_mm, design, obstruction_percent, "
        "focuser_barrel_in) VALUES ('Tube', 100, 900, 'refractor', 0, '1.25')",
        "INSERT INTO eyepiece (name, focal_length_mm, apparent_field_deg, barrel_in) "
        "VALUES ('Long', 25, 50, '1.25'), ('Short', 10, 50, '1.25')",
    ),
    2: (
        "INSERT INTO site (name, latitude_deg, longitude_deg, elevation_m, zone) "
        "VALUES ('Yard', 48, 8, 100, 'Europe/Berlin'), ('Atoll', -21, -175.2, 3, 'Pacific/Apia')",
        "INSERT INTO observer (name, wears_glasses) VALUES ('Ilse', 1), ('Tam', 0)",
        "INSERT INTO evening_choice (id, site_id, telescope_id, observer_id, school, steadiness, "
        "amplifiers_on) VALUES (1, 1, 1, 1, 'steady', 4, 0)",
    ),
    3: (
        "INSERT INTO observation (observed_at_utc, object_name, telescope_name, glass, words, "
        "site_name, zone) VALUES "
        "('2026-01-02T23:30:00Z', 'm 42', 'Tube', '25 mm', 'A fan', 'Yard', 'Europe/Berlin'), "
        "('2026-01-03T01:00:00Z', 'A bright thing', '', '', '', 'Gone', 'UTC'), "
        "('2026-01-03T06:00:00Z', 'Moon', '', '', '', 'Atoll', 'Pacific/Apia')",
    ),
    4: (
        "INSERT INTO mount (name, kind, feet, levelling) VALUES ('Fork', 'altaz_motor', 3, 'none')",
        "INSERT INTO finder (name, kind, magnification, offset_mm, clock_hour, screws, "
        "telescope_id) VALUES ('Dot', 'dot', 1, 70, 12, 2, 1)",
        "UPDATE telescope SET mount_id = 1 WHERE id = 1",
        "INSERT INTO upkeep (item_kind, item_id, task, note, every_days) "
        "VALUES ('finder', 1, 'battery', 'CR2032', 90)",
    ),
    5: (
        "INSERT INTO setup_reading (evening_date, telescope_id, step, recorded_at_utc, words, "
        "is_good, figures, inputs, spoiled_by, deleted_at_utc) VALUES "
        "('2026-01-02', 1, 'level', '2026-01-02T16:00:00Z', 'Leans', 1, '{\"tilt_arcmin\": 7}', "
        "'{}', '', NULL), "
        "('2026-01-04', 1, 'focus', '2026-01-04T16:00:00Z', 'In focus.', 1, '{}', '{}', '', NULL), "
        "('2026-01-04', 1, 'cool', '2026-01-04T16:00:00Z', 'Cools', 1, '{}', '{}', '', 'then')",
        "INSERT INTO parfocal (telescope_id, from_eyepiece_id, to_eyepiece_id, shift_mm, note) "
        "VALUES (1, 1, 2, -2.5, '')",
        "INSERT INTO solar_session (telescope_name, filter_name, opened_at_utc) "
        "VALUES ('Tube', 'Foil', '2026-01-02T11:00:00Z')",
    ),
}


@pytest.mark.parametrize("version", HELD)
def test_whatever_an_earlier_version_held_is_there_afterwards(tmp_path, version):
    old = connect(tmp_path / "old.sqlite3")
    for step in range(1, version + 1):
        migrate(old, MIGRATIONS[:step])
        for statement in HELD[step]:
            old.execute(statement)
    now = datetime(2026, 1, 9, 20, tzinfo=UTC)
    bring_forward(old, now)
    bring_forward(old, now + timedelta(days=9))  # opened again later: nothing moves
    assert [one.name for one in list_items(old, EYEPIECES)] == ["Long", "Short"]
    (tube,) = list_items(old, TELESCOPES)
    desk = read_desk(old, Now(now))
    assert (tube.name, tube.version) == ("Tube", 1) and desk.telescope == tube
    if version >= 2:
        assert [one.glasses for one in list_items(old, OBSERVERS)] == ["sight", "none"]
        assert (desk.place.name, desk.observer.name, desk.choice.school) == (
            *("Yard", "Ilse"),
            "steady",
        )
        assert desk.choice.amplifiers_on is False
        # the steadiness belongs to the evening it was opened on first, and to no other
        assert desk.choice.steadiness == 4
        assert read_desk(old, Now(now + timedelta(days=1))).choice.steadiness is None
    if version >= 3:
        rows = {one.id: one for one in list_items(old, EVENINGS)}
        seen = {one.object_name: one for one in list_items(old, OBSERVATIONS)}
        evenings = {name: rows[one.evening_id] for name, one in seen.items()}
        assert (str(evenings["m 42"].date), evenings["m 42"].site_id) == ("2026-01-02", 1)
        assert (str(evenings["A bright thing"].date), evenings["A bright thing"].site_id) == (
            *("2026-01-02",),
            None,
        )
        # a zone far from its longitude: seven in the evening of the third there
        assert (str(evenings["Moon"].date), evenings["Moon"].site_id) == ("2026-01-03", 2)
        assert [seen[name].target_key for name in seen] == ["moon", None, "m42"]
    if version >= 4:
        assert tube.mount_id == 1 and desk.mount.kind == "altaz_motor"
        assert [one.screws for one in desk.finders] == [2] and list_items(old, UPKEEPS)
    if version >= 5:
        kept = {one.step: rows[one.evening_id] for one in list_items(old, READINGS)}
        assert {step: (str(e.date), e.site_id) for step, e in kept.items()} == {
            "level": ("2026-01-02", 1),
            "focus": ("2026-01-04", 1),
        }
        assert old.execute("SELECT count(*) FROM setup_reading").fetchone()[0] == 3
        assert list_items(old, PARFOCALS) and list_items(old, SOLAR_SESSIONS)
    old.close()


def test_a_rebuilt_table_leaves_no_reference_hanging(db):
    """Dropped and made anew under those who refer to it; a row lost on the way stops it all."""
    stand = add_item(db, MOUNTS, Mount(name="Stand"))
    add_item(db, TELESCOPES, TUBE.model_copy(update={"mount_id": stand.id}))
    before = schema_of(db)
    lost = Step(
        "999_loses",
        (
            "CREATE TABLE mount_new (id INTEGER PRIMARY KEY, name TEXT)",
            "DROP TABLE mount",
            "ALTER TABLE mount_new RENAME TO mount",
        ),
        rebuilds=True,
    )
    with pytest.raises(DatabaseUnusable, match="telescope → mount"):
        migrate(db, (*MIGRATIONS, lost))
    assert schema_of(db) == before and list_items(db, MOUNTS) == [stand]
    assert db.execute("PRAGMA foreign_keys").fetchone()[0] == 1


def test_a_failing_step_leaves_nothing_and_stays_pending(tmp_path):
    db = connect(tmp_path / "x.sqlite3")
    broken = (Step("001_bad", ("CREATE TABLE one (id INTEGER) STRICT", "CREATE TABLE one (x)")),)
    with pytest.raises(sqlite3.OperationalError):
        migrate(db, broken)
    assert [name for name, _ in schema_of(db) if name == "one"] == []
    migrate(db, (Step("001_bad", ("CREATE TABLE one (id INTEGER) STRICT",)),))
    assert [name for name, _ in schema_of(db) if name == "one"] == ["one"]
    db.close()


def test_a_newer_database_and_a_strange_file_are_refused(tmp_path, db):
    migrate(db, (*MIGRATIONS, Step("999_future", ())))
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
    assert stored.model_copy(update={"id": None, "version": None}) == eyepiece


def test_deleting_can_be_undone_unless_the_name_is_in_use(db):
    first = add_item(db, TELESCOPES, TUBE)
    delete_item(db, TELESCOPES, first.id)
    with pytest.raises(NotFound, match="telescope number 1"):
        get_item(db, TELESCOPES, first.id)
    with pytest.raises(NotFound):
        change_item(db, TELESCOPES, first.id, first)
    second = add_item(db, TELESCOPES, TUBE.model_copy(update={"name": "TUBE"}))
    with pytest.raises(NameTaken):
        restore_item(db, TELESCOPES, first.id)
    delete_item(db, TELESCOPES, second.id)
    assert restore_item(db, TELESCOPES, first.id) == first.model_copy(update={"version": 2})
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


def test_the_demo_never_touches_what_is_there(db):
    own = add_item(db, TELESCOPES, TUBE)
    load_demo(db)
    load_demo_kit(db)
    assert whole_kit(db) == [own]
    assert len(list_items(db, SITES)) == 2  # there was no place yet
    assert list_items(db, OBSERVATIONS) == []


def test_a_change_of_choices_touches_only_what_it_names(db):
    load_demo(db)
    first = choose(db, EveningChoice(steadiness=5, amplifiers_on=False), Now(NOW)).choice
    assert (first.steadiness, first.amplifiers_on, first.telescope_id) == (5, False, 1)
    second = choose(db, EveningChoice(telescope_id=2), Now(NOW)).choice
    assert (second.steadiness, second.telescope_id) == (5, 2)
    choose(db, EveningChoice(rungs={"1": "e2"}), Now(NOW))
    third = choose(db, EveningChoice(rungs={"2": "e3"}), Now(NOW)).choice
    assert third.rungs == {"1": "e2", "2": "e3"}
    with pytest.raises(NotFound, match="site number 99"):
        choose(db, EveningChoice(site_id=99, steadiness=1), Now(NOW))
    assert read_desk(db, Now(NOW)).choice == third


def test_what_is_said_of_one_evening_is_not_said_of_another(db):
    load_demo(db)
    choose(db, EveningChoice(steadiness=5, people_ids=[2]), Now(NOW))
    assert read_desk(db, Now(NOW + timedelta(days=1))).choice.steadiness is None
    bay = choose(db, EveningChoice(site_id=2), Now(NOW))
    assert (bay.place.name, bay.choice.steadiness, len(bay.people)) == ("Pumice Bay", None, 2)
    back = choose(db, EveningChoice(site_id=1, date=NOW.date()), Now(NOW))
    assert (back.choice.steadiness, [one.name for one in back.people]) == (5, ["Tam Okoro-Lind"])
    # both at once: what is one evening's goes to the evening chosen by the same change
    later = choose(db, EveningChoice(date=NOW.date() + timedelta(days=7), steadiness=2), Now(NOW))
    assert later.choice.steadiness == 2
    assert choose(db, EveningChoice(date=None), Now(NOW)).choice.steadiness == 5


def test_a_late_change_is_refused_with_both_values(db):
    mine = add_item(db, TELESCOPES, TUBE)
    theirs = change_item(db, TELESCOPES, mine.id, mine.model_copy(update={"aperture_mm": 90.0}))
    assert (mine.version, theirs.version) == (1, 2)
    late = mine.model_copy(update={"name": "Mine"})
    with pytest.raises(Stale) as refusal:
        change_item(db, TELESCOPES, mine.id, late)
    assert refusal.value.changed == {"name": ("Mine", "Tube"), "aperture_mm": (100.0, 90.0)}
    assert refusal.value.stored == theirs == get_item(db, TELESCOPES, mine.id)
    # the same words sent twice, because the answer was lost, are stored once
    again = change_item(db, TELESCOPES, mine.id, theirs.model_copy(update={"version": 1}))
    assert again == theirs
    with pytest.raises(OutOfRange, match="version"):
        change_item(db, TELESCOPES, mine.id, TUBE)


def test_one_evening_stands_once(db):
    load_demo(db)
    one = ensure_evening(db, NOW.date(), 1)
    assert ensure_evening(db, NOW.date(), 1) == one
    assert ensure_evening(db, NOW.date(), 2).id != one.id
    assert ensure_evening(db, None, None) == ensure_evening(db, None, None)


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
    assert compare(check_together(records, whole_kit(db), NOW), whole_kit(db)).refused == 0
    assert not [one for one in records if one.item == "upkeep" and "Heron 140" in one.name]
    restore_item(db, TELESCOPES, tube.id)
    assert write_records(whole_kit(db)) == before
