"""Migrations lead back and forth, with the demo's data in the tables."""

import os
from urllib.parse import urlsplit, urlunsplit

import psycopg
import pytest

from ops.processes import base_environment, manage


@pytest.fixture
def env():
    database = f"migrations_{os.environ.get('PYTEST_XDIST_WORKER', 'alone')}"
    parts = urlsplit(os.environ["DATABASE_URL"])
    server = urlunsplit(parts._replace(path="/postgres"))
    with psycopg.connect(server, autocommit=True) as connection:
        connection.execute(f'DROP DATABASE IF EXISTS "{database}" WITH (FORCE)')
        connection.execute(f'CREATE DATABASE "{database}"')
    yield base_environment() | {"DATABASE_URL": urlunsplit(parts._replace(path=f"/{database}"))}
    with psycopg.connect(server, autocommit=True) as connection:
        connection.execute(f'DROP DATABASE IF EXISTS "{database}" WITH (FORCE)')


def test_every_capability_goes_back_to_nothing_and_forth_again(env):
    manage(env, "prepare")
    manage(env, "load_demo", "--on", "2026-11-25")
    # Every capability stands on the company, and goes back with it.
    manage(env, "migrate", "company", "zero", "-v0")
    manage(env, "migrate", "-v0")
    assert "sites" in manage(env, "load_demo", "--on", "2026-11-25")
