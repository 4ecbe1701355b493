"""Bringing in the roads of a large region: an extract of a million points, made here, read by a process of its own."""

import json
import os
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

import osmium
from osmium.osm.mutable import Node, Way

from tests.bench.figures import Figures

SIDE, BENDS, HOUSES = 330, 4, 120_000
"""Streets each way; points between two crossings; buildings with a number."""
STEP = 0.0012


def write_extract(path: Path, *, side: int = SIDE, bends: int = BENDS, houses: int = HOUSES) -> int:
    """A town of streets each way with bends between their crossings, footpaths, houses and boundaries; how many points
    it has."""
    count = 0
    with osmium.SimpleWriter(str(path), overwrite=True) as writer:
        for number, place, tags in _points(side, bends, houses):
            writer.add_node(Node(id=number, location=place, tags=tags))
            count += 1
        for number, (nodes, tags) in enumerate(_ways(side, bends), start=1):
            writer.add_way(Way(id=number, nodes=nodes, tags=tags))
    return count


def _crossing(side: int, row: int, column: int) -> int:
    return 1 + row * side + column


def _bend(side: int, bends: int, along: int, row: int, column: int, number: int) -> int:
    return 1 + side * side + (((along * side + row) * side) + column) * bends + number


def _points(side: int, bends: int, houses: int) -> Iterator[tuple[int, tuple[float, float], dict[str, str]]]:
    for row in range(side):
        for column in range(side):
            yield _crossing(side, row, column), (column * STEP, 50 + row * STEP), {}
    for along in (0, 1):
        for row in range(side):
            for column in range(side):
                for number in range(bends):
                    off = (number + 1) / (bends + 1) * STEP
                    lon = column * STEP + (off if along == 0 else 0.00003 * number)
                    lat = 50 + row * STEP + (off if along else 0.00003 * number)
                    yield _bend(side, bends, along, row, column, number), (lon, lat), {}
    first = 1 + side * side * (1 + 2 * bends)
    for number in range(houses):
        row, column = divmod(number * 7 % (side * side), side)
        tags = {
            "addr:street": f"Row {row}",
            "addr:housenumber": str(1 + number % 400),
            "addr:postcode": f"{4000 + row}",
        }
        yield first + number, (column * STEP + 0.0002, 50 + row * STEP + 0.0001), tags


def _ways(side: int, bends: int) -> Iterator[tuple[list[int], dict[str, str]]]:
    for row in range(side):
        kind = "primary" if row % 10 == 0 else "residential"
        for start in range(0, side - 1, 6):
            nodes = [_crossing(side, row, start)]
            for column in range(start, min(start + 6, side - 1)):
                nodes += [_bend(side, bends, 0, row, column, number) for number in range(bends)]
                nodes.append(_crossing(side, row, column + 1))
            yield nodes, {"highway": kind, "name": f"Row {row}"}
    for column in range(side):
        for start in range(0, side - 1, 6):
            nodes = [_crossing(side, start, column)]
            for row in range(start, min(start + 6, side - 1)):
                nodes += [_bend(side, bends, 1, row, column, number) for number in range(bends)]
                nodes.append(_crossing(side, row + 1, column))
            yield nodes, {"highway": "footway" if column % 5 == 0 else "tertiary", "name": f"Column {column}"}


def region(figures: Figures) -> None:
    """Time and memory of reading an extract of a million points, and of using it for the first time."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "town.osm.pbf"
        began = time.perf_counter()
        points = write_extract(path)
        print(
            f"  {points:,} points, {path.stat().st_size / 2**20:.0f} MB, written in {time.perf_counter() - began:.0f} s"
        )
        for what, wanted in (("import", ("< 300 s", "< 4096 MB")), ("use", ("", ""))):
            env = os.environ | {"RELAY_OWN_REGION": f"{folder}/region", "RELAY_DEMO": "0"}
            run = subprocess.run(
                [sys.executable, "-m", "tests.bench.region", what, str(path)], capture_output=True, text=True, env=env
            )
            if run.returncode:
                raise RuntimeError(run.stderr[-2000:])
            *said, figure = run.stdout.strip().splitlines()
            for line in said:
                print(f"  {line}")
            taken = json.loads(figure)
            figures.note(f"region: {what}, seconds", taken["seconds"], wanted=wanted[0])
            figures.note(f"region: {what}, MB at most", taken["megabytes"], wanted=wanted[1])


def _child(what: str, path: str) -> None:
    import django

    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    django.setup()
    began = time.perf_counter()
    if what == "import":
        from django.core.management import call_command

        call_command("import_roads", path)
    else:
        from apps.roads.region import address_book, network

        print(f"{len(network().nodes):,} junctions; {address_book().search('Row 7 12')[0].address.text}")
    megabytes = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(json.dumps({"seconds": round(time.perf_counter() - began, 1), "megabytes": round(megabytes)}))


if __name__ == "__main__":
    _child(*sys.argv[1:])
