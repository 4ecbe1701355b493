"""Who tests what: every capability has tests under its own name, or a reason why they stand elsewhere."""

from collections.abc import Iterator
from pathlib import Path

from ops.paths import ROOT
from ops.say import Stop

# Where the tests of a capability stand that has none under its own name.
ELSEWHERE = {
    "core/basics": "tests/core/customers/test_files.py",  # values all tests are made of; phones in files
}
SIDES = ("core", "apps")


def figures() -> list[str]:
    """Lines of code and of tests by capability; raises Stop for one that nothing tests."""
    rows, missing = [f"{'capability':22} {'code':>7} {'tests':>7} {'share':>6}"], []
    for name in _capabilities():
        code, tests = _lines(ROOT / "backend" / name), _lines(ROOT / "tests" / name)
        elsewhere = ELSEWHERE.get(name)
        if not tests and not (elsewhere and (ROOT / elsewhere).exists()):
            missing.append(name)
        rows.append(f"{name:22} {code:7} {tests:7} {_share(code, tests):>6}  {'' if tests else elsewhere or 'NONE'}")
    code = sum(_lines(ROOT / folder) for folder in ("backend", "demo", "ops", "frontend/src"))
    tests = sum(_lines(ROOT / folder) for folder in ("tests", "frontend/tests"))
    rows.append(f"{'everything':22} {code:7} {tests:7} {_share(code, tests):>6}")
    stale = [name for name in ELSEWHERE if (ROOT / "tests" / name).exists()]
    if missing or stale:
        raise Stop("\n".join([*rows, f"without tests: {missing}", f"has tests of its own by now: {stale}"]))
    return rows


def _capabilities() -> Iterator[str]:
    for side in SIDES:
        for folder in sorted((ROOT / "backend" / side).iterdir()):
            if folder.is_dir() and folder.name != "__pycache__":
                yield f"{side}/{folder.name}"


def _lines(folder: Path) -> int:
    files = [path for kind in ("py", "ts", "tsx") for path in folder.rglob(f"*.{kind}")]
    return sum(len(path.read_text().splitlines()) for path in files if not {"migrations", "generated"} & {*path.parts})


def _share(code: int, tests: int) -> str:
    return f"{tests / code:.0%}" if code and tests else "-"
