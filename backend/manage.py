"""Django's command line."""

import os
import sys
from pathlib import Path


def main() -> None:
    root = Path(__file__).resolve().parent
    sys.path[:0] = [str(root), str(root.parent)]
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    if sys.argv[1:3] == ["procrastinate", "worker"]:
        os.environ["RELAY_PART"] = "worker"
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)


if __name__ == "__main__":
    main()
