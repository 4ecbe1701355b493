"""What all tests share."""

import pytest


@pytest.hookimpl(tryfirst=True)  # before the distributor reads the groups
def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Browser journeys share one running world: one process takes them all."""
    for item in items:
        if "tests/journeys/" in str(item.path):
            item.add_marker(pytest.mark.journey)
            item.add_marker(pytest.mark.xdist_group("journeys"))
