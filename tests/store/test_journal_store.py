"""The journal kept: the index in step with every edit, evenings page by page, what was used."""

import json
from contextlib import closing
from datetime import date
from pathlib import Path
from tempfile import TemporaryDirectory

import pytest
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import Bundle, RuleBasedStateMachine, consumes, invariant, rule

from jade_perch.core.journal.search import Wanted
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.units import METRIC
from jade_perch.demo.loader import load_demo
from jade_perch.store.connection import DATABASE_NAME, atomic, connect
from jade_perch.store.evening import SITES
from jade_perch.store.evenings import PAGE_EVENINGS, open_evening, past_evenings
from jade_perch.store.items import (
    add_item,
    change_item,
    delete_item,
    get_item,
    list_items,
    restore_item,
)
from jade_perch.store.journal import OBSERVATIONS
from jade_perch.store.kit import TELESCOPES
from jade_perch.store.lists import noted_things
from jade_perch.store.migrations import MIGRATIONS, migrate
from jade_perch.store.opening import bring_forward
from jade_perch.store.search import PAGE_ROWS, search, telescopes_used
from jade_perch.store.uses import uses
from tests.store.notes import NOW, found, noted


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
        self.folder = TemporaryDirectory()
        self.db = connect(Path(self.folder.name) / DATABASE_NAME)
        self.db.execute("PRAGMA synchronous = OFF")  # nothing here is about what a cut leaves
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
        self.folder.cleanup()


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
