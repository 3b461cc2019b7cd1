"""Everything out and in: round trips, numbers that move, zips that mean harm."""

import io
import json
import struct
import zipfile
from contextlib import closing
from datetime import UTC, datetime

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.journal import Observation
from jade_perch.core.fields import NOT_WRITTEN
from jade_perch.core.journal.archive import KINDS, NAMED, SPECIAL, renumbered
from jade_perch.core.kit import Observer
from jade_perch.core.site import Site
from jade_perch.demo.loader import load_demo
from jade_perch.exchange.archive import FILES, read_archive, write_archive
from jade_perch.store.connection import atomic, connect
from jade_perch.store.evening import SITES
from jade_perch.store.everything import TABLES, Merge, lines_of, pictures_of
from jade_perch.store.items import (
    add_item,
    delete_item,
    get_item,
    list_items,
)
from jade_perch.store.journal import OBSERVATIONS, add_once
from jade_perch.store.kit import OBSERVERS, TELESCOPES
from jade_perch.store.opening import bring_forward
from tests.store.notes import NOW, found, noted


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
        for one in (part, part.get("items", {}), *part.get("anyOf", [])):
            if "$ref" in one:
                yield from fields(defs[one["$ref"].split("/")[-1]], defs)

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
