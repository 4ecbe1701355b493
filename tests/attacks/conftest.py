"""The small company of the apps' tests, attacked."""

from tests.apps.conftest import *  # noqa: F403 - its fixtures
from tests.apps.conftest import _no_zone_kept, _quick_passwords  # noqa: F401
