"""Benchmarks are run seldom: what they import has to be there all the same."""

import importlib
from pathlib import Path

import pytest

BENCH = Path(__file__).parents[1] / "bench"
MODULES = sorted(
    ".".join(path.relative_to(BENCH.parents[1]).with_suffix("").parts)
    for path in BENCH.rglob("*.py")
    if not path.name.startswith("__")
)


@pytest.mark.parametrize("module", MODULES)
def test_a_benchmark_can_be_loaded(module):
    assert importlib.import_module(module).__doc__
