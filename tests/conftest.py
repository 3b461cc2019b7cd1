"""What every suite shares: an application over an empty or a demo database."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from hypothesis import settings

from jade_perch.api.app import create_app
from jade_perch.demo import CLOCK
from jade_perch.devices.clock import parse_clock
from tests.asking import asking, lay_out

# how fast a machine is says nothing about whether a property holds, and a gate says the same
# twice; --hypothesis-profile=wide looks for new cases instead
settings.register_profile("gate", deadline=None, derandomize=True)
settings.register_profile("wide", deadline=None)
settings.load_profile("gate")


@pytest.fixture
def client(request: pytest.FixtureRequest, tmp_path: Path) -> Iterator[TestClient]:
    """An application with the demo evening's clock; empty where no demo is meant."""
    lay_out(tmp_path, is_demo="demo" in request.fixturenames)
    with asking(create_app(tmp_path, parse_clock(CLOCK))) as client:
        yield client


@pytest.fixture
def demo(client: TestClient) -> TestClient:
    """The same application with the demo scenario in it."""
    return client
