"""A demo workshop in a temporary folder, and the application on it without a socket."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from starlette.testclient import TestClient

from marquetry.demo.workshop import make_demo
from marquetry.web.site.app import create_app
from tests.strategies import MODEL


@pytest.fixture
def database(tmp_path: Path) -> Path:
    file = tmp_path / "demo.sqlite3"
    make_demo(file, MODEL)
    return file


@pytest.fixture
def client(database: Path) -> Iterator[TestClient]:
    with TestClient(create_app(database, MODEL), base_url="http://127.0.0.1") as made:
        yield made
