"""Reading a file of open work: from bytes to rows whose every field is checked, or refused with reasons."""

import csv
import io
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date, datetime, time
from zoneinfo import ZoneInfo

from core.basics import Interval, Place
from core.basics.tables import read_day, separator_of
from core.calendars import epoch

COLUMNS = (
    "customer", "site", "address", "lon", "lat", "phone", "email", "job_type", "description", "priority", "duration",
    "promise_from", "promise_to", "due", "skills", "contact", "po_number",
)  # fmt: skip
REQUIRED = ("customer", "description")
MAX_ROWS = 20_000


class BadFile(ValueError):
    """The file as a whole cannot be read; the text says why."""


@dataclass(frozen=True, kw_only=True)
class OpenWorkRow:
    """One line of the file. With `problems` it is refused, and its other fields mean nothing."""

    line: int
    customer: str = ""
    site: str = ""
    address: str = ""
    place: Place | None = None
    contact: str = ""
    phone: str = ""
    email: str = ""
    job_type: str = ""
    description: str = ""
    priority: int | None = None
    duration_seconds: int | None = None
    promise: Interval | None = None
    due: int | None = None
    needs: Mapping[str, int] | None = None
    po_number: str = ""
    problems: tuple[str, ...] = ()


def read_open_work(text: str, tz: ZoneInfo) -> list[OpenWorkRow]:
    """Rows of a CSV file with a header line, separated by commas, semicolons or tabs.

    Parameters
    ----------
    tz
        Zone of the dates and times in the file.

    Raises
    ------
    BadFile
        When it is empty, lacks a needed column or is too long.
    """
    if "\x00" in text:
        raise BadFile("This is not a text file.")
    lines = text.splitlines()
    first = next((line for line in lines if line.strip()), "")
    if not first:
        raise BadFile("The file is empty.")
    reader = csv.DictReader(io.StringIO(text), delimiter=separator_of(first))
    header = [_column(name or "") for name in reader.fieldnames or []]
    missing = [name for name in REQUIRED if name not in header]
    if missing:
        raise BadFile(f"The first line must name the columns; missing: {', '.join(missing)}.")
    unknown = [name for name in header if name and name not in COLUMNS]
    if unknown:
        # Passed over in silence, a misspelt "promise_form" would lose every promise of the file.
        raise BadFile(f"Unknown column: {', '.join(unknown)}. Known are {', '.join(COLUMNS)}.")
    reader.fieldnames = header
    return list(_rows(reader, tz))


def _column(name: str) -> str:
    return re.sub(r"[\s-]+", "_", name.strip().lower())


def _rows(reader: "csv.DictReader[str]", tz: ZoneInfo) -> Iterator[OpenWorkRow]:
    count = 0
    try:
        for raw in reader:
            cells = {
                key: (value or "").strip()
                for key, value in raw.items()
                if isinstance(key, str) and not isinstance(value, list)
            }
            if not any(cells.values()):
                continue
            count += 1
            if count > MAX_ROWS:
                raise BadFile(f"More than {MAX_ROWS:,} rows: split the file.")
            yield _row(cells, reader.line_num, tz)
    except csv.Error as error:
        raise BadFile(f"Line {reader.line_num} cannot be read: {error}.") from error


def _row(cells: Mapping[str, str], line: int, tz: ZoneInfo) -> OpenWorkRow:
    check = _Check(cells, tz)
    row = OpenWorkRow(
        line=line,
        customer=check.text("customer", required=True, longest=160),
        site=check.text("site", longest=160),
        address=check.text("address", longest=240),
        place=check.place(),
        contact=check.text("contact", longest=120),
        phone=check.text("phone", longest=40),
        email=check.text("email", longest=254),
        job_type=check.text("job_type", longest=80),
        description=check.text("description", required=True, longest=4000),
        priority=check.number("priority", least=1, most=5),
        duration_seconds=check.minutes("duration"),
        promise=check.promise(),
        due=check.due(),
        needs=check.skills(),
        po_number=check.text("po_number", longest=60),
    )
    if not check.problems:
        return row
    return OpenWorkRow(
        line=line, customer=row.customer, site=row.site, address=row.address, description=row.description,
        problems=tuple(check.problems),
    )  # fmt: skip


class _Check:
    """Reads the cells of one row and collects what is wrong with them."""

    def __init__(self, cells: Mapping[str, str], tz: ZoneInfo) -> None:
        self.cells = cells
        self.tz = tz
        self.problems: list[str] = []

    def text(self, name: str, *, required: bool = False, longest: int) -> str:
        value = self.cells.get(name, "")
        if required and not value:
            self.problems.append(f"{name} is empty")
        if len(value) > longest:
            self.problems.append(f"{name} is longer than {longest} letters")
        return value

    def number(self, name: str, *, least: int, most: int) -> int | None:
        value = self.cells.get(name, "")
        if not value:
            return None
        if not re.fullmatch(r"\d{1,6}", value) or not least <= int(value) <= most:
            self.problems.append(f"{name} must be a whole number from {least} to {most}, not “{value}”")
            return None
        return int(value)

    def minutes(self, name: str) -> int | None:
        """Minutes, or hours and minutes as "1:30"."""
        value = self.cells.get(name, "")
        if match := re.fullmatch(r"(\d{1,2}):([0-5]\d)", value):
            minutes = int(match[1]) * 60 + int(match[2])
        else:
            minutes = self.number(name, least=1, most=20_160) or 0
        return minutes * 60 or None

    def place(self) -> Place | None:
        lon, lat = self.cells.get("lon", ""), self.cells.get("lat", "")
        if not lon and not lat:
            return None
        try:
            return Place(round(float(lon.replace(",", ".")), 6), round(float(lat.replace(",", ".")), 6))
        except ValueError:
            self.problems.append(f"coordinates “{lon}”, “{lat}” are not a longitude and a latitude")
            return None

    def promise(self) -> Interval | None:
        start, end = self.cells.get("promise_from", ""), self.cells.get("promise_to", "")
        if not start and not end:
            return None
        if not start or not end:
            self.problems.append("a promise needs both promise_from and promise_to")
            return None
        from_ = self._moment("promise_from", start, at=time(8))
        until = self._moment("promise_to", end, at=time(17), day=_day_in(start))
        if from_ is None or until is None:
            return None
        if until <= from_:
            self.problems.append("promise_to is not after promise_from")
            return None
        return Interval(start=from_, end=until)

    def due(self) -> int | None:
        value = self.cells.get("due", "")
        return self._moment("due", value, at=time(23, 59)) if value else None

    def skills(self) -> dict[str, int] | None:
        """ "Traction lifts:3; Rigging" - a skill without a level asks for level 1."""
        value = self.cells.get("skills", "")
        if not value:
            return None
        needs: dict[str, int] = {}
        for part in re.split(r"[;|,]", value):
            name, _, level = (piece.strip() for piece in part.partition(":"))
            if not name:
                continue
            if level and not re.fullmatch("[1-5]", level):
                self.problems.append(f"skill level of {name} must be 1 to 5, not “{level}”")
                continue
            needs[name] = int(level or 1)
        return needs

    def _moment(self, name: str, value: str, *, at: time, day: date | None = None) -> int | None:
        """ISO or day/month/year, with or without a time of day; a time alone needs a day from elsewhere."""
        found_day = _day_in(value) or day
        clock = re.search(r"(?:^|[\sT])(\d{1,2}):(\d{2})", value)
        rest = _DAY.sub("", value)
        leftover = re.sub(r"^[\sT]*(\d{1,2}:\d{2}(:\d{2})?)?Z?$", "", rest.strip())
        try:
            if found_day is None or leftover:
                raise ValueError
            moment = epoch(found_day, time(int(clock[1]), int(clock[2])) if clock else at, self.tz)
            return moment if not value.endswith("Z") else int(datetime.fromisoformat(value).timestamp())
        except ValueError:
            self.problems.append(f"{name} “{value}” is not a date: use 2026-11-24 10:00 or 24/11/2026 10:00")
            return None


_DAY = re.compile(r"\d{4}-\d{1,2}-\d{1,2}|\d{1,2}[/.]\d{1,2}[/.]\d{4}")


def _day_in(value: str) -> date | None:
    match = _DAY.search(value)
    return read_day(match[0]) if match else None
