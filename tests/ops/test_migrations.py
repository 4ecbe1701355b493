"""Migrations lead back and forth, with the demo's data in the tables."""

import os
from urllib.parse import urlsplit, urlunsplit

import psycopg
import pytest

from ops import templates
from ops.processes import base_environment, manage


@pytest.fixture
def env(tmp_path):
    """With the demo's data in the tables."""
    database = f"migrations_{os.environ.get('PYTEST_XDIST_WORKER', 'alone')}"
    parts = urlsplit(os.environ["DATABASE_URL"])
    server = urlunsplit(parts._replace(path="/postgres"))
    env = base_environment() | {"DATABASE_URL": urlunsplit(parts._replace(path=f"/{database}"))}
    if ready := os.environ.get("RELAY_TEMPLATES"):
        templates.copy_demo(server, database, said=ready, files=tmp_path)
    else:
        templates.copy(server, database, of=None)
        manage(env, "prepare")
        manage(env, "load_demo", "--on", templates.DEMO_DAY)
    yield env
    with psycopg.connect(server, autocommit=True) as connection:
        connection.execute(f'DROP DATABASE IF EXISTS "{database}" WITH (FORCE)')


def test_every_capability_goes_back_to_nothing_and_forth_again(env):
    # Every capability stands on the company, and goes back with it.
    manage(env, "migrate", "company", "zero", "-v0")
    manage(env, "migrate", "-v0")
    assert "Sign in as" in manage(env, "create_company")
