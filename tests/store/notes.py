"""Notes put into a database by hand and found again, for the tests of the journal's store."""

from datetime import UTC, datetime, timedelta

from jade_perch.core.evening.journal import Observation
from jade_perch.core.journal.search import Wanted
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.store.items import add_item
from jade_perch.store.journal import OBSERVATIONS
from jade_perch.store.search import search

NOW = datetime(2027, 2, 13, 20, tzinfo=UTC)


def noted(db, name="M42", minutes=0, **more):
    at = NOW - timedelta(minutes=minutes)
    return add_item(db, OBSERVATIONS, Observation(observed_at_utc=at, object_name=name, **more))


def found(db, text="", **wanted):
    return [one.id for one in search(db, Wanted(text=text, **wanted), catalogue()).rows]
