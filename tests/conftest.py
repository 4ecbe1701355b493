"""What all tests share."""

import os

import pytest
from hypothesis import HealthCheck, settings

from ops.templates import MIGRATED

# Machines that run the suite are busy: how long one example takes says nothing about the code.
settings.register_profile("busy", deadline=None, suppress_health_check=[HealthCheck.too_slow], print_blob=True)
settings.load_profile("busy")


@pytest.hookimpl(tryfirst=True)
def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Last comes what sends anything at all to every address: nobody's path leads through what it leaves behind."""
    items.sort(key=lambda item: item.path.name == "test_api_document.py")
    for item in items:
        if "tests/journeys/" in str(item.path):
            item.add_marker(pytest.mark.journey)


@pytest.fixture(scope="session")
def django_db_modify_db_settings(django_db_modify_db_settings: None) -> None:
    """Copied from one that is migrated already, where the test command has made one."""
    from django.conf import settings as of_django

    if "RELAY_TEMPLATES" in os.environ:
        of_django.DATABASES["default"].setdefault("TEST", {})["TEMPLATE"] = MIGRATED
