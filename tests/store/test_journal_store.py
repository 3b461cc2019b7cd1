"""The journal kept: the index in step with every edit, everything out and in, daily copies."""

import io
import json
import struct
import zipfile
from contextlib import closing
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.stateful import Bundle, RuleBasedStateMachine, consumes, invariant, rule

from jade_perch.cli import main
from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.journal import Observation
from jade_perch.core.fields import NOT_WRITTEN
from jade_perch.core.journal.archive import KINDS, NAMED, SPECIAL, renumbered
from jade_perch.core.journal.search import Wanted
from jade_perch.core.kit import Observer
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.units import METRIC
from jade_perch.demo.loader import load_demo
from jade_perch.exchange.archive import FILES, read_archive, write_archive
from jade_perch.store import copies
from jade_perch.store.connection import DATABASE_NAME, atomic, connect, in_use
from jade_perch.store.copies import KEPT_DAYS, list_copies, make_copy
from jade_perch.store.errors import DatabaseUnusable
from jade_perch.store.evening import SITES
from jade_perch.store.evenings import PAGE_EVENINGS, open_evening, past_evenings
from jade_perch.store.everything import TABLES, Merge, lines_of, pictures_of
from jade_perch.store.items import (
    add_item,
    change_item,
    delete_item,
    get_item,
    list_items,
    restore_item,
)
from jade_perch.store.journal import OBSERVATIONS, add_once
from jade_perch.store.kit import OBSERVERS, TELESCOPES
from jade_perch.store.lists import noted_things
from jade_perch.store.migrations import MIGRATIONS, migrate
from jade_perch.store.opening import bring_forward
from jade_perch.store.search import PAGE_ROWS, search, telescopes_used
from jade_perch.store.uses import uses

NOW = datetime(2027, 2, 13, 20, tzinfo=UTC)


@pytest.fixture
def db(tmp_path):
    with closing(connect(tmp_path / DATABASE_NAME)) as db:
        bring_forward(db, NOW)
        yield db


def noted(db, name="M42", minutes=0, **more):
    at = NOW - timedelta(minutes=minutes)
    return add_item(db, OBSERVATIONS, Observation(observed_at_utc=at, object_name=name, **more))


def found(db, text="", **wanted):
    return [one.id for one in search(db, Wanted(text=text, **wanted), catalogue()).rows]


def test_words_prefixes_names_places_glasses_and_people_are_found(db):
    first = noted(db, words="A Nébuleuse like smoke", site_name="Yard", glass="13 mm").id
    second = noted(db, "Albireo", 10, observer_name="Tam Okoro", telescope_name="Heron").id
    assert found(db, "nebul") == [first] == found(db, "SMO yard") == found(db, "13 mm")
    assert found(db, "tam her") == [second] and found(db, "smoke tam") == []
    assert found(db, "ngc 1976") == [first] == found(db, "great orion nebula smoke")
    assert found(db, "") == [first, second] and found(db, "…") == []
    assert found(db, 'NEAR("smoke" -') == [] and found(db, '"; DROP TABLE observation') == []


def test_filters_narrow_by_kind_outcome_telescope_and_date(db):
    add_item(db, SITES, Site(name="Yard", latitude_deg=48, longitude_deg=8, zone="UTC"))
    galaxy = noted(db, "M31", outcome="glimpsed", telescope_name="Gone 90", site_name="Yard").id
    old = noted(db, "M42", 60 * 24 * 400, outcome="seen", site_name="Yard").id
    assert found(db, kind="galaxy") == [galaxy] == found(db, outcome="glimpsed")
    assert found(db, telescope="Gone 90") == [galaxy] == found(db, since=date(2027, 1, 1))
    assert found(db, until=date(2026, 12, 31)) == [old]
    assert found(db, kind="galaxy", outcome="seen") == []
    assert [one.name for one in telescopes_used(db)] == ["Gone 90"]


def test_pages_of_a_search_follow_each_other_without_a_gap(db):
    with atomic(db):
        # many of the same minute: the number decides
        ids = [noted(db, words="dust", minutes=n // 50).id for n in range(2 * PAGE_ROWS + 7)]
    had, before = [], None
    while True:
        page = search(db, Wanted(text="dust"), catalogue(), before)
        had += [one.id for one in page.rows]
        if page.is_all:
            break
        before = (page.rows[-1].observed_at_utc, page.rows[-1].id)
    assert sorted(had) == sorted(ids) and len(had) == len(set(had))


class IndexInStep(RuleBasedStateMachine):
    """Whatever is added, changed, taken out and put back: what is found is what lives."""

    notes = Bundle("notes")
    words = st.sampled_from(["dust", "dusk lane", "Élan", "two stars", ""])

    def __init__(self):
        super().__init__()
        self.db = connect(Path(":memory:"))
        migrate(self.db)

    @rule(target=notes, name=st.sampled_from(["M42", "Mizar"]), words=words)
    def add(self, name, words):
        return noted(self.db, name, words=words).id

    @rule(note=notes, words=words)
    def change(self, note, words):
        if note in found(self.db):
            one = get_item(self.db, OBSERVATIONS, note)
            change_item(self.db, OBSERVATIONS, note, one.model_copy(update={"words": words}))

    @rule(note=consumes(notes))
    def take_out(self, note):
        if note in found(self.db):
            delete_item(self.db, OBSERVATIONS, note)

    @rule(target=notes, note=consumes(notes))
    def out_and_back(self, note):
        if note in found(self.db):
            delete_item(self.db, OBSERVATIONS, note)
            restore_item(self.db, OBSERVATIONS, note)
        return note

    @rule()
    def break_off(self):
        with pytest.raises(ZeroDivisionError), atomic(self.db):
            noted(self.db, words="dust never kept")
            raise ZeroDivisionError

    @invariant()
    def what_is_found_lives(self):
        living = list_items(self.db, OBSERVATIONS)
        for word in ("dust", "elan", "star"):
            plain = {one.id for one in living if word in one.words.lower().replace("é", "e")}
            assert set(found(self.db, word)) == plain
        check = (
            "INSERT INTO observation_text (observation_text, rank) VALUES ('integrity-check', 1)"
        )
        self.db.execute(check)

    def teardown(self):
        self.db.close()


TestIndexInStep = IndexInStep.TestCase
TestIndexInStep.settings = settings(max_examples=30, stateful_step_count=20, deadline=None)


def test_notes_of_before_the_index_are_found_too(tmp_path):
    with closing(connect(tmp_path / "old.sqlite3")) as old:
        migrate(old, MIGRATIONS[:14])
        old.execute("INSERT INTO observation (observed_at_utc, object_name, telescope_name, glass, "
                    "words, site_name, zone, deleted_at_utc) VALUES "
                    "('2020-01-01T20:00:00Z', 'M42', '', '', 'smoke', '', 'UTC', NULL), "
                    "('2020-01-01T20:00:00Z', 'M31', '', '', 'smoke', '', 'UTC', '2')")  # fmt: skip
        bring_forward(old, NOW)
        assert found(old, "smoke") == [1]


def test_evenings_come_newest_first_page_by_page_with_what_is_left_of_them(db):
    place = add_item(db, SITES, Site(name="Yard", latitude_deg=48, longitude_deg=8, zone="UTC"))
    for n in range(PAGE_EVENINGS + 3):
        noted(db, minutes=n * 60 * 24, site_name="Yard", outcome="seen")
    noted(db, "Moon", 5)  # on the same night, at no place
    delete_item(db, SITES, place.id)
    first = past_evenings(db, catalogue())
    last = first.bars[-1]
    rest = past_evenings(db, catalogue(), (last.date, last.evening_id))
    dates = [one.date for one in (*first.bars, *rest.bars)]
    assert not first.is_all and rest.is_all and dates == sorted(dates, reverse=True)
    assert len(dates) == PAGE_EVENINGS + 4 == first.evenings and first.notes == len(dates)
    # a place that was taken out is still where it was
    assert {one.place_name for one in first.bars} == {"Yard", ""}
    assert all((one.shape is None) == (one.place_name == "") for one in first.bars)
    told = open_evening(db, first.bars[0].evening_id, catalogue(), METRIC)
    assert [one.id for one in told.observations] == [one.id for one in told.bar.marks]


def test_the_first_of_the_best_counts(db):
    noted(db, "M42", 10, outcome="not seen")
    noted(db, "Great Orion Nebula", 20, outcome="glimpsed")
    second = noted(db, "m 42", 5, outcome="seen").id
    noted(db, "M42", 1, outcome="seen")
    noted(db, "Blurry 7", outcome="not seen")
    kept = noted(db, "blurry-7", 3).id
    things = noted_things(db)
    assert (things["m42"].state, things["m42"].times) == ("seen", 4)
    assert things["m42"].observation_id == second
    assert things["~blurry7"].observation_id == kept and things["~blurry7"].times == 2


# --- everything out and in -------------------------------------------------------------------


def export(db, path):
    with write_archive(path) as out:
        for kind in FILES:
            out.lines(kind, lines_of(db, kind))
        for picture in pictures_of(db):
            out.picture(picture)
        out.manifest()
    return path.read_bytes()


def take_in(db, path):
    with read_archive(path) as archive, atomic(db):
        merge = Merge(db, NOW)
        for kind in FILES:
            merge.kind(kind, archive.lines(kind))
        merge.pictures(archive.pictures())
    return merge.merged


def told(path):
    with zipfile.ZipFile(path) as archive:
        return {
            name: [json.loads(line) for line in archive.read(name).decode().splitlines()]
            for name in archive.namelist()
            if name.endswith(".jsonl")
        }


visible = st.characters(exclude_categories=["Cs", "Cc"])
anything = st.characters(exclude_categories=["Cs"], exclude_characters="\x00")
notes = st.builds(
    Observation,
    observed_at_utc=st.datetimes(datetime(1901, 1, 1), datetime(2027, 2, 1)).map(
        lambda at: at.replace(microsecond=0, tzinfo=UTC)
    ),
    object_name=st.text(
        st.characters(exclude_categories=["Cs", "Cc"]), min_size=1, max_size=20
    ).map(lambda text: text.strip() or "x"),
    magnification=st.none() | st.floats(0.5, 5000),
    outcome=st.sampled_from(["seen", "glimpsed", "not seen", None]),
    words=st.text(
        st.characters(exclude_categories=["Cs"], exclude_characters="\x00"), max_size=60
    ).map(str.strip),
    site_name=st.sampled_from(["", "Larkstone Common", "Nowhere"]),
    sketch=st.just(()) | st.just(({"points": [1, 2, -3, 4], "pencil": "fine"},)),
)


@settings(max_examples=8, deadline=None)
@given(made=st.lists(notes, max_size=8))
def test_out_and_into_nothing_gives_the_same_file(made, tmp_path_factory):
    folder = tmp_path_factory.mktemp("round")
    with closing(connect(folder / "a")) as one, closing(connect(folder / "b")) as other:
        bring_forward(one, NOW)
        bring_forward(other, NOW)
        load_demo(one)
        for note in made:
            add_once(one, OBSERVATIONS, note)
        for _ in range(2):  # taken out twice under one name, and there again
            gone = list_items(one, TELESCOPES)[-1]
            delete_item(one, TELESCOPES, gone.id)
            add_item(one, TELESCOPES, gone)
        first = export(one, folder / "first.zip")
        merged = take_in(other, folder / "first.zip")
        assert merged.problems == []
        assert export(other, folder / "second.zip") == first
        again = take_in(other, folder / "first.zip")
        assert again.new == 0 and export(other, folder / "third.zip") == first


def test_into_a_filled_database_numbers_move_and_mean_the_same(tmp_path):
    with closing(connect(tmp_path / "a")) as one, closing(connect(tmp_path / "b")) as other:
        for db in (one, other):
            bring_forward(db, NOW)
        add_item(other, OBSERVERS, Observer(name="Somebody Else"))
        add_item(other, SITES, Site(name="Elsewhere", latitude_deg=1, longitude_deg=2, zone="UTC"))
        mine = noted(other, "M1", words="mine").id
        load_demo(one)
        tube = list_items(one, TELESCOPES)[0]
        one.execute("INSERT INTO evening (date, site_id, people_ids) VALUES "
                    "('2027-01-01', (SELECT id FROM site WHERE name = 'Larkstone Common'), "
                    "(SELECT json_array(id) FROM observer WHERE name LIKE 'Tam%'))")  # fmt: skip
        evening = one.execute("SELECT max(id) FROM evening").fetchone()[0]
        look = {"target_key": "m42", "rung_key": "e2.1+a1!", "at_utc": "2027-01-01T20:00:00Z"}
        packed = ["eyepiece-2", "tube-1", "filters"]
        sitting = {"looks": [look], "person_id": 2, "queue": [1, 2], "packed": packed}
        one.execute("INSERT INTO sitting (evening_id, telescope_id, sitting) VALUES (?, ?, ?)",
                    (evening, tube.id, json.dumps(sitting)))  # fmt: skip
        export(one, tmp_path / "a.zip")
        merged = take_in(other, tmp_path / "a.zip")
        assert merged.problems == [] and get_item(other, OBSERVATIONS, mine).words == "mine"
        row = other.execute(
            "SELECT e.date, s.name AS place, e.people_ids, t.name AS tube, k.sitting "
            "FROM sitting k "
            "JOIN evening e ON e.id = k.evening_id JOIN site s ON s.id = e.site_id "
            "JOIN telescope t ON t.id = k.telescope_id"
        ).fetchone()
        assert (row["date"], row["place"], row["tube"]) == (
            "2027-01-01",
            "Larkstone Common",
            tube.name,
        )
        names = {one.id: one.name for one in list_items(other, OBSERVERS)}
        assert [names[n] for n in json.loads(row["people_ids"])] == ["Tam Okoro-Lind"]
        kept = json.loads(row["sitting"])
        assert [names[n] for n in kept["queue"]] == ["Ilse Marrow", "Tam Okoro-Lind"]
        assert names[kept["person_id"]] == "Tam Okoro-Lind" and "filters" in kept["packed"]
        assert take_in(other, tmp_path / "a.zip").new == 0


def test_every_number_of_another_thing_is_known_by_its_field():
    """A new field that names something by its number has to be told, or an import would mix up."""

    def fields(schema, defs):
        for name, part in schema.get("properties", {}).items():
            yield name
            yield from inside(part, defs)

    def inside(part, defs):
        for found in (part, part.get("items", {}), *part.get("anyOf", [])):
            if "$ref" in found:
                yield from fields(defs[found["$ref"].split("/")[-1]], defs)

    named = set()
    for kind in KINDS.values():
        schema = kind.model.model_json_schema()
        named |= set(fields(schema, schema.get("$defs", {})))
    numbers = {name for name in named if name.endswith(("_id", "_ids")) and name not in NOT_WRITTEN}
    assert numbers - set(NAMED) - {"item_id"} == set()
    assert set(SPECIAL) - {"rungs"} <= named and set(TABLES) == set(KINDS)
    assert renumbered({"finder_id": 9, "people_ids": [1, 2]}, {("observer", 2): 5}) == {
        "finder_id": None, "people_ids": [5],
    }  # fmt: skip


def zipped(members):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in members:
            archive.writestr(name, content)
    return out.getvalue()


def manifest(version=1, **counts):
    mark = {"format": "jade-perch-everything", "version": version, "counts": counts}
    return ("manifest.json", json.dumps(mark))


NOTE = '{"id": 1, "observed_at_utc": "2027-01-01T20:00:00Z", "object_name": "M42"}\n'
HOSTILE = {
    "no zip at all": (b"hello", "whole zip"),
    "half of one": (zipped([manifest()])[:-30], "whole zip"),
    "no manifest": (zipped([("observation.jsonl", NOTE)]), "manifest"),
    "somebody else's": (zipped([("manifest.json", '{"format": "other"}')]), "version 1"),
    "of a newer version": (zipped([manifest(2)]), "newer version"),
    "a path upwards": (zipped([manifest(), ("../../etc/passwd", "x")]), "only members"),
    "an absolute path": (zipped([manifest(), ("/tmp/x.jsonl", NOTE)]), "only members"),
    "a path in a picture": (zipped([manifest(), ("pictures/../a.png", "x")]), "only members"),
    "a bomb": (zipped([manifest(observation=1), ("observation.jsonl", " " * 40_000_000)]),
               "packed"),
    "a list of members without end": (
        zipped([manifest()])[:-10] + struct.pack("<IIH", 2**31, 0, 0), "a list of"),
    "a line lost": (zipped([manifest(observation=2), ("observation.jsonl", NOTE)]), "2 lines"),
    "no JSON": (zipped([manifest(observation=1), ("observation.jsonl", "{nothing\n")]),
                "one JSON object"),
    "a list": (zipped([manifest(observation=1), ("observation.jsonl", "[1]\n")]), "one JSON"),
    "a picture under another's name": (
        zipped([manifest(), (f"pictures/{'a' * 40}.png", b"not this")]), "what its name says"),
    "a manifest that is a list": (zipped([("manifest.json", "[]")]), "version 1"),
    "counts that are none": (
        zipped([("manifest.json", '{"format": "jade-perch-everything", "version": 1, '
                                  '"counts": {"observation": "many"}}')]), "a number a kind"),
}  # fmt: skip


@pytest.mark.parametrize("what", HOSTILE)
def test_a_hostile_zip_is_refused_with_a_reason_and_nothing_changes(db, tmp_path, what):
    content, words = HOSTILE[what]
    noted(db, words="mine")
    path = tmp_path / "in.zip"
    path.write_bytes(content)
    with pytest.raises(OutOfRange, match=words):
        take_in(db, path)
    assert found(db, "mine") == [1] and len(list_items(db, OBSERVATIONS)) == 1


@pytest.mark.filterwarnings("ignore:Duplicate name")
def test_a_name_twice_and_a_torn_member_are_refused(db, tmp_path):
    path = tmp_path / "in.zip"
    path.write_bytes(zipped([manifest(), ("observation.jsonl", NOTE), ("observation.jsonl", NOTE)]))
    with pytest.raises(OutOfRange, match="each member once"):
        take_in(db, path)
    torn = bytearray(zipped([manifest(observation=1), ("observation.jsonl", NOTE * 1)]))
    at = torn.find(b"observation.jsonl") + 25
    torn[at] ^= 0xFF
    path.write_bytes(bytes(torn))
    with pytest.raises(OutOfRange, match="undamaged"):
        take_in(db, path)


RIGHT = {"id": 1, "observed_at_utc": "2027-01-01T20:00:00Z", "object_name": "M42"}


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"observed_at_utc": "soon"}, "observed_at_utc"),
        ({"observed_at_utc": "1700-01-01T00:00:00Z"}, "from 1900"),
        ({"object_name": " "}, "object_name"),
        ({"id": -4}, "whole number"),
        ({"id": 2**63}, "whole number"),
        ({"x": 1}, "x is"),
        ({"evening_id": "first"}, "evening_id"),
        ({"deleted_at_utc": "2027-01-02T00:00:00Z"}, "deleted_at_utc"),
    ],
)
def test_a_line_that_is_wrong_is_named_with_its_reason(db, tmp_path, changes, field):
    line = json.dumps(RIGHT | changes)
    path = tmp_path / "in.zip"
    path.write_bytes(zipped([manifest(observation=1), ("observation.jsonl", line + "\n")]))
    ((kind, number, problems),) = take_in(db, path).problems
    assert (kind, number) == ("observation", 1) and any(field in one.detail for one in problems)


def test_notes_of_a_time_to_come_are_taken_over_and_counted(db, tmp_path):
    path = tmp_path / "in.zip"
    lines = [json.dumps(RIGHT | {"id": n, "observed_at_utc": f"20{n}-01-01T20:00:00Z"})
             for n in (26, 27, 35)]  # fmt: skip
    path.write_bytes(zipped([manifest(observation=3), ("observation.jsonl", "\n".join(lines))]))
    counted = take_in(db, path).counts["observation"]
    assert counted.words() == "3 new, 1 of a time still to come"


def test_an_open_solar_session_is_never_taken_over(db, tmp_path):
    session = {"id": 1, "telescope_name": "T", "filter_name": "F",
               "opened_at_utc": "2027-02-13T11:00:00Z", "closed_at_utc": None}  # fmt: skip
    path = tmp_path / "in.zip"
    path.write_bytes(
        zipped([manifest(solar_session=1), ("solar_session.jsonl", json.dumps(session) + "\n")])
    )
    ((_, _, (problem,)),) = take_in(db, path).problems
    assert problem.field == "closed_at_utc"
    db.execute("INSERT INTO solar_session (telescope_name, filter_name, opened_at_utc) "
               "VALUES ('T', 'F', '2027-02-13T11:00:00Z')")  # fmt: skip
    assert list(lines_of(db, "solar_session")) == []


# --- daily copies ----------------------------------------------------------------------------


def no_pause(_seconds):
    return None


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


def test_what_was_used_is_what_was_in_out_or_looked_through(db):
    load_demo(db)
    tube = next(one for one in list_items(db, TELESCOPES) if one.name == "Dipper 77")
    worn = {"telescope": tube.id, "mount": tube.mount_id}
    for n, day in enumerate(("2027-02-01", "2027-02-02", "2027-02-03"), 90):
        db.execute("INSERT INTO evening (id, date, site_id) VALUES (?, ?, 1)", (n, day))
    look = {"target_key": "m42", "rung_key": "e2+a1", "at_utc": "2027-02-01T20:00:00Z"}
    begun = json.dumps({"begun_utc": "2027-02-01T20:00:00Z", "looks": [look]})
    sitting = "INSERT INTO sitting (evening_id, telescope_id, sitting) VALUES (?, ?, ?)"
    db.execute(sitting, (90, tube.id, begun))
    db.execute(sitting, (91, tube.id, "{}"))  # nobody began it
    reading = (
        "INSERT INTO setup_reading (evening_id, telescope_id, step, recorded_at_utc, words, "
        "is_good, figures, inputs, spoiled_by, simulated) VALUES "
        "(92, ?, 'level', '2027-02-03T18:00:00Z', 'Level.', 1, '{}', '{}', '', ?)"
    )
    db.execute(reading, (tube.id, "level"))  # practice with a simulated level wears nothing
    first = date(2027, 2, 1)
    assert all(uses(db)[kind, number] == (first,) for kind, number in worn.items())
    db.execute(reading, (tube.id, ""))
    used = uses(db)
    assert all(used[kind, number] == (first, date(2027, 2, 3)) for kind, number in worn.items())
    assert used["eyepiece", 2] == (first,) == used["amplifier", 1]
    assert ("eyepiece", 1) not in used


def test_an_evening_of_which_less_was_said_is_filled_in(tmp_path):
    with closing(connect(tmp_path / "a")) as one, closing(connect(tmp_path / "b")) as other:
        for db in (one, other):
            bring_forward(db, NOW)
            add_item(db, SITES, Site(name="Yard", latitude_deg=48, longitude_deg=8, zone="UTC"))
        add = "INSERT INTO evening (date, site_id, steadiness, transparency) VALUES (?, 1, ?, ?)"
        one.execute(add, ("2027-01-01", 5, 4))
        other.execute(add, ("2027-01-01", 2, None))
        export(one, tmp_path / "a.zip")
        merged = take_in(other, tmp_path / "a.zip")
        row = other.execute("SELECT steadiness, transparency FROM evening").fetchone()
        assert tuple(row) == (2, 4) and merged.counts["evening"].differs == 1
