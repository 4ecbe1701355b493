"""Skills, job types and equipment of Hallam & Reyne Lift and Door."""

from dataclasses import dataclass

SKILLS = {
    "traction": "Traction lifts",
    "hydraulic": "Hydraulic lifts",
    "escalator": "Escalators",
    "doors": "Door drives",
    "controller": "Controller programming",
    "rigging": "Rigging",
    "welding": "Welding",
    "inspection": "Statutory inspection",
    "rescue": "Rescue",
}
PARTS = {
    "safety-contact": "Safety contact", "door-roller": "Door roller", "light-curtain": "Light curtain",
    "car-lamp": "Car lamp", "gate-spring": "Gate spring", "seal-set": "Seal set",
    "suspension-rope-m": "Suspension rope, m", "rope-socket": "Rope socket",
}  # fmt: skip


@dataclass(frozen=True)
class Job:
    """A job type. `fits` are the kinds of equipment it is done on."""

    code: str
    name: str
    minutes: int | None
    priority: int
    needs: dict[str, int]
    fits: tuple[str, ...]
    share: float
    advice: str = ""


TRACTION, HYDRAULIC, ESCALATOR = "Traction lift", "Hydraulic lift", "Escalator"
DOOR, DOCK, GATE = "Automatic door", "Dock leveller", "Rolling gate"
LIFTS = (TRACTION, HYDRAULIC)

JOBS = (
    Job(
        "trapped", "Passengers trapped", 60, 1, {"rescue": 2}, LIFTS, 0.4, "Stay on the phone until somebody is there."
    ),
    Job("stopped", "Lift stopped", 90, 2, {"traction": 2}, (TRACTION,), 3, "Ask for the code on the display."),
    Job("stopped-hyd", "Hydraulic lift stopped", 90, 2, {"hydraulic": 2}, (HYDRAULIC,), 2),
    Job("door-open", "Door does not close", 60, 2, {"doors": 2}, (DOOR, *LIFTS), 3),
    Job("door-noise", "Noisy door", 45, 4, {"doors": 1}, (DOOR, *LIFTS), 3),
    Job("leak", "Leaking cylinder", 150, 3, {"hydraulic": 3}, (HYDRAULIC,), 1.5, "Ask how much oil is in the pit."),
    Job("upkeep-month", "Monthly upkeep", 60, 4, {"traction": 1}, (TRACTION,), 8),
    Job("upkeep-hyd", "Monthly upkeep, hydraulic", 60, 4, {"hydraulic": 1}, (HYDRAULIC,), 4),
    Job("upkeep-quarter", "Quarterly upkeep", 105, 4, {"traction": 2}, (TRACTION,), 5),
    Job("upkeep-esc", "Escalator upkeep", 120, 4, {"escalator": 2}, (ESCALATOR,), 3),
    Job("upkeep-door", "Door upkeep", 45, 4, {"doors": 1}, (DOOR,), 5),
    Job("upkeep-gate", "Gate upkeep", 50, 4, {"doors": 1}, (GATE,), 2),
    Job("inspection", "Yearly statutory inspection", 120, 3, {"inspection": 2}, LIFTS, 2),
    Job("rope", "Rope change", 240, 3, {"rigging": 3, "traction": 3}, (TRACTION,), 0.6, "Tell the tenants."),
    Job("survey", "Modernisation survey", 120, 4, {"traction": 3}, (TRACTION,), 0.8),
    Job("strip", "Modernisation strip-out", 420, 3, {"rigging": 2}, (TRACTION,), 0.2),
    Job("commission", "Commissioning", 240, 3, {"controller": 3}, (TRACTION,), 0.4),
    Job("spring", "Gate spring replacement", 120, 3, {"doors": 2, "welding": 1}, (GATE,), 1.2),
    Job("dock", "Dock leveller repair", 105, 3, {"hydraulic": 2, "welding": 1}, (DOCK,), 1.5),
    Job("controller", "Controller fault search", 120, 2, {"controller": 2}, (*LIFTS, ESCALATOR), 1.5),
    Job("step-chain", "Step chain adjustment", 150, 3, {"escalator": 3}, (ESCALATOR,), 0.8),
    Job("handrail", "Handrail replacement", 180, 3, {"escalator": 2}, (ESCALATOR,), 0.6),
    Job("sensor", "Door sensor replacement", 40, 3, {"doors": 1}, (DOOR, *LIFTS), 2.5),
    Job("lamp", "Car light replacement", 30, 5, {}, LIFTS, 2, "Can wait for other work close by."),
    Job(
        "look",
        "Look and report",
        None,
        5,
        {},
        (*LIFTS, ESCALATOR, DOOR, DOCK, GATE),
        1,
        "Nobody knows yet how long it takes.",
    ),
)
MAKES = {
    TRACTION: (("Norrvik", "T4"), ("Norrvik", "T6"), ("Castell", "Ropeline 630"), ("Abendorf", "M2")),
    HYDRAULIC: (("Pellam", "H2"), ("Pellam", "H3"), ("Castell", "Oilramp 400")),
    ESCALATOR: (("Abendorf", "E100"), ("Steyn", "Walkline")),
    DOOR: (("Steyn", "Glide 2"), ("Orrin", "Swingdrive"), ("Orrin", "Slide 90")),
    DOCK: (("Marlow & Pike", "DL-6"), ("Marlow & Pike", "DL-10")),
    GATE: (("Orrin", "Rollgate 5"), ("Haldane", "RG 40")),
}
COMPLAINTS = {
    "trapped": ("Two people in the car between 2nd and 3rd floor.", "One person trapped, calm, on the intercom."),
    "stopped": ("Stands on the ground floor, display shows E{n}.", "Does not answer any call since this morning."),
    "stopped-hyd": ("Sinks slowly and stops, code {n}.", "Pump runs, car does not move."),
    "door-open": ("Opens again before it closes, three tries, then stays open.", "Door stands open on floor {f}."),
    "door-noise": ("Scrapes on closing, tenants complain.", "Rattles in wind."),
    "leak": ("Oil in the pit, about {n} litres.", "Oil film on the piston, getting worse."),
    "controller": ("Forgets calls, now and then, fault log attached.", "Levelling off by a hand on floor {f}."),
    "sensor": ("Closes on people: light curtain dead.", "Sensor flickers, door reverses for nothing."),
    "lamp": ("Car light out on one side.", "Light flickers."),
    "look": (
        "Smells of burning, sometimes. Nobody knows from where.",
        "Wants somebody to look at it and say what to do.",
    ),
}
