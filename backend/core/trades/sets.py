"""The starter sets. Lengths and priorities are round guesses to begin with: each company soon knows better."""

from core.trades.model import StarterJob, Trade

_LIFTS = Trade(
    "lifts",
    "Lifts",
    (
        StarterJob(
            code="lift-trapped",
            name="Passengers trapped",
            minutes=45,
            priority=1,
            respond_minutes=45,
            needs={"Lift rescue": 2},
            tasks=("Speak to the passengers", "Free them", "Leave the lift switched off"),
        ),
        StarterJob(
            code="lift-stopped",
            name="Lift stopped",
            minutes=90,
            priority=2,
            respond_minutes=240,
            needs={"Lifts": 3},
            tasks=("Read the fault memory", "Find the cause", "Test ride over all floors"),
        ),
        StarterJob(code="lift-door", name="Lift door fault", minutes=75, needs={"Lifts": 2}, resolve_days=3),
        StarterJob(
            code="lift-service",
            name="Lift service",
            minutes=120,
            priority=4,
            needs={"Lifts": 2},
            tasks=(
                "Check doors and locks",
                "Check the brake",
                "Test the emergency call",
                "Clean the pit",
                "Sign the log",
            ),
        ),
        StarterJob(
            code="lift-inspection",
            name="Lift inspection with the inspector",
            minutes=150,
            needs={"Lifts": 3},
            tasks=("Prepare the papers", "Load test", "Safety gear test"),
        ),
        StarterJob(
            code="lift-modernising",
            name="Lift modernising",
            minutes=420,
            priority=4,
            crew=2,
            needs={"Lifts": 3},
        ),
    ),
)

_HEATING = Trade(
    "heating",
    "Heating and cooling",
    (
        StarterJob(
            code="gas-smell",
            name="Smell of gas",
            minutes=60,
            priority=1,
            respond_minutes=60,
            needs={"Gas": 3},
            certificates=("Gas work",),
            tasks=("Shut the gas off", "Measure", "Find the leak", "Report"),
        ),
        StarterJob(
            code="no-heating",
            name="No heating",
            minutes=90,
            priority=2,
            respond_minutes=480,
            needs={"Heating": 2},
        ),
        StarterJob(
            code="cooling-fault",
            name="Cooling does not work",
            minutes=90,
            priority=2,
            needs={"Cooling": 2},
            certificates=("Refrigerants",),
            resolve_days=2,
        ),
        StarterJob(
            code="boiler-service",
            name="Boiler service",
            minutes=75,
            priority=4,
            needs={"Heating": 2},
            tasks=("Clean the burner", "Measure the flue gas", "Check the expansion vessel", "Test the safety valve"),
        ),
        StarterJob(
            code="cooling-service",
            name="Air conditioning service",
            minutes=60,
            priority=4,
            needs={"Cooling": 1},
            tasks=("Clean the filters", "Check for leaks", "Clean the drain", "Measure supply and return air"),
        ),
        StarterJob(
            code="heat-pump",
            name="Heat pump installation",
            minutes=480,
            priority=4,
            crew=2,
            needs={"Cooling": 3, "Electrical": 2},
            certificates=("Refrigerants",),
        ),
    ),
)

_ELECTRICAL = Trade(
    "electrical",
    "Electrical",
    (
        StarterJob(
            code="no-power",
            name="No power",
            minutes=75,
            priority=1,
            respond_minutes=120,
            needs={"Electrical": 2},
            tasks=("Make safe", "Find the fault", "Measure insulation", "Restore supply"),
        ),
        StarterJob(code="socket", name="Sockets and switches", minutes=60, needs={"Electrical": 1}, resolve_days=7),
        StarterJob(code="lighting", name="Lighting fault", minutes=60, needs={"Electrical": 1}, resolve_days=5),
        StarterJob(
            code="installation-test",
            name="Periodic test of the installation",
            minutes=180,
            priority=4,
            needs={"Electrical": 3},
            tasks=("Look at all boards", "Test the protective devices", "Write the report"),
        ),
        StarterJob(
            code="charging-point", name="Charging point for cars", minutes=240, priority=4, needs={"Electrical": 3}
        ),
        StarterJob(code="new-board", name="New distribution board", minutes=300, priority=4, needs={"Electrical": 3}),
    ),
)

_PLUMBING = Trade(
    "plumbing",
    "Plumbing",
    (
        StarterJob(
            code="burst-pipe",
            name="Burst pipe",
            minutes=90,
            priority=1,
            respond_minutes=90,
            needs={"Plumbing": 2},
            tasks=("Shut the water off", "Repair", "Test under pressure", "Photograph the damage"),
        ),
        StarterJob(
            code="blocked-drain",
            name="Blocked drain",
            minutes=60,
            priority=2,
            respond_minutes=480,
            needs={"Drains": 1},
        ),
        StarterJob(
            code="hot-water", name="No hot water", minutes=75, priority=2, needs={"Plumbing": 2}, resolve_days=1
        ),
        StarterJob(code="leak", name="Dripping or leaking", minutes=60, needs={"Plumbing": 1}, resolve_days=3),
        StarterJob(code="new-tap", name="New tap, basin or toilet", minutes=120, priority=4, needs={"Plumbing": 1}),
        StarterJob(
            code="drain-camera",
            name="Drain survey with camera",
            minutes=120,
            priority=4,
            needs={"Drains": 2},
        ),
    ),
)

_DOORS = Trade(
    "doors",
    "Doors and gates",
    (
        StarterJob(
            code="door-open",
            name="Door does not close",
            minutes=60,
            priority=1,
            respond_minutes=120,
            needs={"Doors": 2},
            tasks=("Secure the opening", "Repair", "Measure the closing force"),
        ),
        StarterJob(
            code="door-stuck", name="Door does not open", minutes=60, priority=2, needs={"Doors": 2}, resolve_days=1
        ),
        StarterJob(code="door-noisy", name="Noisy door", minutes=45, priority=4, needs={"Doors": 1}, resolve_days=10),
        StarterJob(
            code="door-service",
            name="Door and gate service",
            minutes=60,
            priority=4,
            needs={"Doors": 1},
            tasks=("Measure the forces", "Test the safety edges", "Grease", "Put the label on"),
        ),
        StarterJob(
            code="fire-door",
            name="Fire door inspection",
            minutes=30,
            priority=4,
            needs={"Doors": 2},
            certificates=("Fire doors",),
            tasks=("Test the release", "Look at gaps and seals", "Sign the log"),
        ),
        StarterJob(code="new-gate", name="Gate installation", minutes=420, priority=4, crew=2, needs={"Doors": 3}),
    ),
)

_IT = Trade(
    "it",
    "IT and networks",
    (
        StarterJob(
            code="network-down",
            name="Network down",
            minutes=90,
            priority=1,
            respond_minutes=240,
            needs={"Networks": 3},
            tasks=("Look at the line", "Look at router and switches", "Write down what was it"),
        ),
        StarterJob(
            code="server-fault", name="Server fault", minutes=120, priority=2, needs={"Servers": 2}, resolve_days=1
        ),
        StarterJob(
            code="workplace", name="Workplace does not work", minutes=60, needs={"Workplaces": 1}, resolve_days=2
        ),
        StarterJob(
            code="printer", name="Printer fault", minutes=45, priority=4, needs={"Workplaces": 1}, resolve_days=5
        ),
        StarterJob(code="new-workplace", name="New workplace", minutes=120, priority=4, needs={"Workplaces": 1}),
        StarterJob(
            code="cabling",
            name="Network cabling",
            minutes=360,
            priority=4,
            crew=2,
            needs={"Networks": 1},
            tasks=("Pull the cables", "Label both ends", "Measure each line"),
        ),
    ),
)

TRADES: tuple[Trade, ...] = (_LIFTS, _HEATING, _ELECTRICAL, _PLUMBING, _DOORS, _IT)


def starter_jobs() -> dict[str, StarterJob]:
    """Every starter job, by its code."""
    return {job.code: job for trade in TRADES for job in trade.jobs}
