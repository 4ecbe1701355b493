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


def test_what_lay_on_vans_and_what_visits_take_is_kept_as_parts_in_places(env):
    manage(env, "migrate", "stock", "0004", "-v0")
    with psycopg.connect(env["DATABASE_URL"]) as connection:
        first = "(SELECT min(id) FROM orders_visit)"
        connection.execute(f"""UPDATE orders_visit SET takes = '{{"odd-bracket": 2}}' WHERE id = {first}""")
        connection.execute("UPDATE stock_part SET name = 'Of nobody''s price list' WHERE code = 'car-lamp'")
        before = _sums(connection, "stock_vanpart")
    assert sum(before.values()) > 100
    manage(env, "migrate", "-v0")
    with psycopg.connect(env["DATABASE_URL"]) as connection:
        vans = "stock_level AS l JOIN stock_stockplace AS p ON p.id = l.place_id AND p.kind = 'van'"
        assert _sums(connection, vans) == before
        assert _sums(connection, "stock_movement") == before
        known = {row[0] for row in connection.execute("SELECT code FROM stock_part")}
        taken = {row[0] for row in connection.execute("SELECT DISTINCT jsonb_object_keys(takes) FROM orders_visit")}
        asked = {
            row[0] for row in connection.execute("SELECT DISTINCT jsonb_object_keys(parts) FROM catalogue_jobtype")
        }
        assert "odd-bracket" in taken
        assert taken | asked <= known
        # What the price list does not know is listed for tidying; what it knows belongs to it.
        untidy = {row[0] for row in connection.execute("SELECT code FROM stock_part WHERE untidy")}
        assert {"odd-bracket", "car-lamp"} <= untidy < known
        numbers = [row[0] for row in connection.execute("SELECT number FROM stock_part")]
        assert len(set(numbers)) == len(numbers)


def _sums(connection, rows: str) -> dict[int, int]:
    """So many of each part, where there are any."""
    found = connection.execute(f"SELECT part_id, sum(quantity) FROM {rows} GROUP BY part_id HAVING sum(quantity) > 0")
    return {part: int(number) for part, number in found}
