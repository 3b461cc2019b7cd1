"""A database as it stands after a first start."""

from contextlib import closing

import pytest

from jade_perch.store.connection import DATABASE_NAME, connect
from jade_perch.store.opening import bring_forward
from tests.store.notes import NOW


@pytest.fixture
def db(tmp_path):
    with closing(connect(tmp_path / DATABASE_NAME)) as db:
        bring_forward(db, NOW)
        yield db
