"""A demo workshop in a temporary folder, and the application on it without a socket."""

import io
import shutil
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

import pytest
from fastapi import FastAPI
from hypothesis import HealthCheck, settings
from starlette.testclient import TestClient

from marquetry.demo.workshop import make_demo
from marquetry.store import archive
from marquetry.store.database import Connection, connect
from marquetry.store.photos import folder_of
from marquetry.web.site.app import begin_on, create_app
from tests.strategies import MODEL

settings.register_profile("any machine", suppress_health_check=[HealthCheck.too_slow], deadline=None)
settings.load_profile("any machine")
"""A machine that stands still for five seconds says nothing of how inputs are made."""


def copy_of(workshop: Path, to: Path) -> Path:
    """A workshop's database and its pictures, to be changed at will."""
    shutil.copytree(folder_of(workshop), folder_of(to))
    return Path(shutil.copy(workshop, to))


@pytest.fixture(scope="session")
def demo_file(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo as it is at first, made once: whoever changes it takes a copy."""
    file = tmp_path_factory.mktemp("as-at-first") / "demo.sqlite3"
    make_demo(file, MODEL)
    return file


@pytest.fixture(scope="session")
def demo_archive(demo_file: Path) -> bytes:
    """The demo workshop as an archive, packed once."""
    packed = io.BytesIO()
    with closing(connect(demo_file, MODEL)) as connection:
        archive.pack(connection, demo_file, packed)
    return packed.getvalue()


@pytest.fixture
def database(tmp_path: Path, demo_file: Path) -> Path:
    return copy_of(demo_file, tmp_path / "demo.sqlite3")


@pytest.fixture
def connection(database: Path) -> Iterator[Connection]:
    with closing(connect(database, MODEL)) as opened:
        yield opened


@pytest.fixture(scope="session")
def application(demo_file: Path) -> FastAPI:
    """Made once: a second is spent on its routes, which a thousand tests need not."""
    return create_app(demo_file, MODEL)


@pytest.fixture
def client(database: Path, application: FastAPI) -> Iterator[TestClient]:
    begin_on(application, database, MODEL)
    with TestClient(application, base_url="http://127.0.0.1") as made:
        yield made
