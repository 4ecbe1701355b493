"""The command line of Iron Relay."""

import argparse
import sys
from datetime import date

from ops.say import Stop

ABOUT = """
Iron Relay dispatches field service. Commands:

  start    install what is missing, start the application with the demo world, print its address
  test     the whole test suite (core, applications, API, browser), on a database of its own
  check    formatting, lint, types, import rules, stale generated files, missing migrations
  bench    print the benchmark figures
  shots    start the demo without a screen and write docs/screenshots/
  roads    import FILE: roads from an OpenStreetMap extract; areas FILE, sites FILE: from GeoJSON
  types    write the interface's API types from the running code
  lock     write requirements.lock anew from pyproject.toml
"""


def parser() -> argparse.ArgumentParser:
    main = argparse.ArgumentParser(
        prog="./relay", description=ABOUT, formatter_class=argparse.RawDescriptionHelpFormatter
    )
    commands = main.add_subparsers(dest="command", required=True, metavar="COMMAND")
    start = commands.add_parser("start", help="start the application")
    start.add_argument("--port", type=int, help="port of the web server (default 8040, or the next free one)")
    start.add_argument("--reset-demo", action="store_true", help="throw the demo's data away and load it anew")
    start.add_argument("--on", type=date.fromisoformat, help="load the demo around another day, as 2026-12-24")
    start.add_argument(
        "--no-demo", action="store_true", help="an empty company with one administrator, whose password is printed once"
    )
    test = commands.add_parser("test", help="run the tests")
    test.add_argument("arguments", nargs=argparse.REMAINDER, help="passed to pytest")
    commands.add_parser("check", help="check the code")
    bench = commands.add_parser("bench", help="print benchmark figures")
    bench.add_argument("arguments", nargs=argparse.REMAINDER, help="names of benchmarks")
    shots = commands.add_parser("shots", help="write docs/screenshots/")
    shots.add_argument("names", nargs="*", help="only these pictures")
    shots.add_argument("--into", help="another folder to write to")
    roads = commands.add_parser("roads", help="bring in a region of one's own")
    roads.add_argument("what", choices=["import", "areas", "sites"])
    roads.add_argument("file", help=".osm.pbf or .osm for import, .geojson for areas and sites")
    roads.add_argument("--demo", action="store_true", help="areas and sites: into the demo world")
    commands.add_parser("types", help="write the API types")
    commands.add_parser("lock", help="write requirements.lock")
    return main


def main() -> int:
    options = parser().parse_args()
    from ops import bench, check, lock, roads, shots, start, test, types

    actions = {
        "start": start.run,
        "test": test.run,
        "check": check.run,
        "bench": bench.run,
        "roads": roads.run,
        "shots": shots.run,
        "types": types.run,
        "lock": lock.run,
    }
    try:
        return actions[options.command](options)
    except Stop as stop:
        print(f"\n{stop}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        print("\nstopped", file=sys.stderr)
        return 130


if __name__ == "__main__":
    sys.exit(main())
