"""The small company of the apps' tests, attacked."""

from tests.apps.conftest import *  # noqa: F403 - its fixtures
from tests.apps.conftest import _nothing_kept, _quick_passwords  # noqa: F401
