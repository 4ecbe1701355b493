"""Clock, settings, audit, health."""

import os
import subprocess
import sys
from datetime import UTC, datetime
from pathlib import Path

import pytest
from django.test import Client

from foundation import clock
from foundation.errors import Conflict, Rejected, TryAgain

ROOT = Path(__file__).parents[3]


@pytest.mark.parametrize("key", ["", "short", "change-me-change-me-change-me-change-me"])
def test_production_refuses_to_start_without_a_secret_of_its_own(key):
    env = os.environ | {"RELAY_SECRET_KEY": key, "DJANGO_SETTINGS_MODULE": "config.settings"}
    command = [sys.executable, "-c", "import django; django.setup()"]
    done = subprocess.run(command, cwd=ROOT, env=env, capture_output=True, text=True)
    assert done.returncode != 0
    assert "Set RELAY_SECRET_KEY" in done.stderr


def test_cookies_are_secure_unless_a_demo_says_otherwise():
    env = os.environ | {"RELAY_INSECURE_COOKIES": "0", "DJANGO_SETTINGS_MODULE": "config.settings"}
    shown = "s.SESSION_COOKIE_SECURE, s.CSRF_COOKIE_SECURE, s.SECURE_HSTS_SECONDS > 0"
    code = f"from django.conf import settings as s; print({shown})"
    done = subprocess.run([sys.executable, "-c", code], cwd=ROOT, env=env, capture_output=True, text=True)
    assert done.stdout.split() == ["True", "True", "True"]


def test_the_clock_can_stand_still(db):
    moment = datetime(2026, 11, 23, 9, tzinfo=UTC)
    with clock.frozen(moment):
        assert clock.now() == moment
        with clock.running():
            assert clock.now() > moment
        assert clock.now() == moment


def test_only_a_demo_s_clock_can_be_set(db, settings):
    with clock.running():
        clock.set_shift(86_400)
        ahead = (clock.now() - datetime.now(UTC)).total_seconds()
        settings.DEMO = False
        plain = (clock.now() - datetime.now(UTC)).total_seconds()
        clock.set_shift(0)
    assert ahead == pytest.approx(86_400, abs=5)
    assert plain == pytest.approx(0, abs=5)


def test_health_says_when_no_worker_is_alive(db):
    answer = Client(HTTP_HOST="127.0.0.1").get("/api/v1/health")
    assert (answer.status_code, answer.json()) == (503, {"database": True, "worker": None})


def test_errors_carry_what_programs_and_people_need():
    assert Rejected("No.", field="due", reasons=["a"]).details() == {"field": "due", "reasons": ["a"]}
    assert Conflict("No.", current_version=3).details() == {"current_version": 3}
    assert TryAgain().status == 503


@pytest.mark.parametrize("path", ["/api/v1/nothing-here", "/api/v1/board/nothing", "/assets/gone.js"])
def test_an_address_that_nothing_answers_is_a_problem(path):
    answer = Client(HTTP_HOST="127.0.0.1").get(path)
    assert (answer.status_code, answer["Content-Type"]) == (404, "application/problem+json")
    assert answer.json()["code"] == "no_such_address"
