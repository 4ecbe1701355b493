"""Simulated lift monitors: they measure, and report what gets worse and what stops, over HTTP like real ones."""

import json
import random
import time
import urllib.error
import urllib.request
from dataclasses import dataclass
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from apps.customers.models import Asset
from demo.accounts import DEVICE_TOKEN
from foundation import clock

WATCHED = 12
# By what is measured: usual value, worrying value, how much worse it gets in a round, unit.
MEASURES = {
    "Ride vibration": (14.0, 22.0, 0.35, "mg"),
    "Machine-room temperature": (27.0, 40.0, 0.5, "°C"),
    "Door cycles since service": (3000.0, 9000.0, 120.0, "cycles"),
}
# In so many rounds of one lift, one stop.
STOPS_ONE_IN = 900


@dataclass
class Monitor:
    """One lift's monitor: what it measures, and where the value stands."""

    serial: str
    measure: str
    value: float
    reported: bool = False


def monitors(serials: list[str], *, seed: int) -> list[Monitor]:
    dice = random.Random(seed)
    names = list(MEASURES)
    return [Monitor(serial=serial, measure=names[n % len(names)], value=MEASURES[names[n % len(names)]][0] *
                    dice.uniform(0.9, 1.4)) for n, serial in enumerate(serials)]  # fmt: skip


def measured(monitor: Monitor, dice: random.Random) -> dict[str, Any] | None:
    """The next round of a monitor: what it has to report, or nothing."""
    _usual, worrying, worse, unit = MEASURES[monitor.measure]
    monitor.value += worse * dice.uniform(-0.6, 1.4)
    if dice.randrange(STOPS_ONE_IN) == 0:
        return {"kind": "stopped", "text": "Stop fault", "value": None, "unit": ""}
    if monitor.value < worrying or monitor.reported:
        return None
    monitor.reported = True
    return {"kind": "worsening", "text": monitor.measure, "value": round(monitor.value, 1), "unit": unit}


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("url", help="where the application answers, like http://127.0.0.1:8040")
        parser.add_argument("--every", type=float, default=20.0, help="seconds between two rounds")

    def handle(self, *_args: Any, url: str, every: float, **_options: Any) -> None:
        lifts = Asset.objects.filter(kind__icontains="lift").exclude(serial="").order_by("id")
        found = monitors(list(lifts.values_list("serial", flat=True)[:WATCHED]), seed=7)
        dice = random.Random()
        while True:
            for monitor in found:
                report = measured(monitor, dice)
                if report is not None:
                    self._post(url, monitor.serial, report)
            time.sleep(every)

    def _post(self, url: str, serial: str, report: dict[str, Any]) -> None:
        now = clock.now()
        body = {**report, "serial": serial, "reference": f"{serial}-{now.timestamp():.0f}", "at": int(now.timestamp())}
        request = urllib.request.Request(
            f"{url}/api/v1/intake/alarms", data=json.dumps(body).encode(),
            headers={"Content-Type": "application/json", "Authorization": f"Bearer {DEVICE_TOKEN}"},
        )  # fmt: skip
        try:
            urllib.request.urlopen(request, timeout=10).close()
        except urllib.error.URLError as error:
            self.stderr.write(f"{serial}: {error}")
