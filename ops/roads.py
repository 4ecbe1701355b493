"""`./relay roads`: roads from OpenStreetMap, areas and sites from GeoJSON."""

import argparse
from pathlib import Path

from ops import cluster
from ops.processes import manage
from ops.say import line
from ops.start import COMPANY_DATABASE, DEMO_DATABASE, application_environment


def run(options: argparse.Namespace) -> int:
    file = str(Path(options.file).resolve())
    database = cluster.start("pg", first_port=54320)
    name = DEMO_DATABASE if options.demo else COMPANY_DATABASE
    env = application_environment(database, name, demo=options.demo)
    if options.what != "import":
        cluster.ensure_database(database, name)
        manage(env, "prepare")
    for row in manage(env, f"import_{'roads' if options.what == 'import' else options.what}", file).splitlines():
        line(row)
    return 0
