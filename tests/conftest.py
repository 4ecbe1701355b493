"""What all tests share."""

import pytest
from hypothesis import HealthCheck, settings

# Machines that run the suite are busy: how long one example takes says nothing about the code.
settings.register_profile("busy", deadline=None, suppress_health_check=[HealthCheck.too_slow], print_blob=True)
settings.load_profile("busy")


@pytest.hookimpl(tryfirst=True)  # before the distributor reads the groups
def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Browser journeys share one running world: one process takes them all. Last comes what sends anything at all to
    every address: nobody's path leads through what it leaves behind."""
    items.sort(key=lambda item: item.path.name == "test_api_document.py")
    for item in items:
        if "tests/journeys/" in str(item.path):
            item.add_marker(pytest.mark.journey)
            item.add_marker(pytest.mark.xdist_group("journeys"))
