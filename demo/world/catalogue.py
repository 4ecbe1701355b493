"""What the job types of Hallam & Reyne ask for besides time and skills: crews, tasks, checklists, parts, sequences."""

from typing import Any

from core.reports import KINDS, WAY

DAY = 86_400


def _steps(*must: str) -> list[dict[str, Any]]:
    """The usual steps, of which these have to be done."""
    return [{"kind": kind, "must": kind in must or kind in WAY} for kind in KINDS]


DOOR_GAP = {
    "key": "door_gap", "label": "Gap of the car door", "kind": "number", "least": 2, "most": 8, "unit": "mm",
    "required": "to close", "hint": "Measured at the sill, door closed.",
}  # fmt: skip
UPKEEP_TASKS = ["Clean and oil the guide rails", "Test the door reversal", "Test the alarm to the control room"]
UPKEEP_QUESTIONS = [
    DOOR_GAP,
    {"key": "levelling", "label": "Levelling, worst floor", "kind": "number", "least": 0, "most": 10, "unit": "mm",
     "required": "to close"},
    {"key": "oil", "label": "Oil lost?", "kind": "yes_no"},
    {"key": "oil_where", "label": "Where is the oil?", "kind": "text", "shown_if": ["oil", True],
     "required": "to close"},
]  # fmt: skip
UPKEEP = {"tasks": UPKEEP_TASKS, "questions": UPKEEP_QUESTIONS, "steps": _steps("form", "tasks")}
MORE: dict[str, dict[str, Any]] = {
    "trapped": {
        "respond_minutes": 45,
        "tasks": ["Speak to the people in the car", "Main switch off, lock it", "Free them", "Find the cause"],
        "questions": [
            {"key": "freed_at", "label": "Everybody out at", "kind": "text", "required": "to close"},
            {"key": "hurt", "label": "Anybody hurt?", "kind": "yes_no", "required": "to close"},
            {"key": "ambulance", "label": "Ambulance called?", "kind": "yes_no", "shown_if": ["hurt", True]},
            {"key": "signed", "label": "Signature of who was there", "kind": "signature"},
        ],
        "steps": _steps("know", "form", "tasks"),
    },
    "upkeep-month": UPKEEP,
    "upkeep-hyd": UPKEEP,
    "upkeep-quarter": {**UPKEEP, "tasks": [*UPKEEP_TASKS, "Measure the ropes", "Clean the pit"]},
    "upkeep-door": {
        "tasks": ["Clean the sill", "Check the closing force", "Count twenty cycles"], "questions": [DOOR_GAP],
        "steps": _steps("form", "tasks"),
    },
    "door-noise": {"tasks": ["Find where it rubs", "Set the rollers", "Count twenty cycles"]},
    "stopped": {
        "respond_minutes": 240,
        "resolve_minutes": 2880,
        "tasks": ["Read the fault log", "Find the cause", "Test run, three full trips"],
        "fields": [{"key": "display_code", "label": "Code on the display", "kind": "text"}],
        "parts": {"safety-contact": 2},
    },
    "stopped-hyd": {"respond_minutes": 240, "resolve_minutes": 2880},
    "leak": {"parts": {"seal-set": 1}},
    "spring": {"parts": {"gate-spring": 1}},
    "door-open": {
        "resolve_minutes": 1440,
        "tasks": ["Make the door safe", "Set the drive", "Count twenty cycles"],
        "steps": _steps("know", "form", "tasks", "photos", "acceptance"),
        "questions": [
            {"key": "cycles", "label": "Cycles counted", "kind": "number", "least": 1, "most": 500,
             "required": "to close"},
            {"key": "cause", "label": "Cause", "kind": "choice", "choices": ["roller", "drive", "sensor", "vandalism"],
             "required": "to close"},
            {"key": "damage", "label": "Picture of the damage", "kind": "photo", "shown_if": ["cause", "vandalism"]},
        ],
        "parts": {"door-roller": 2, "light-curtain": 1},
    },
    "lamp": {"parts": {"car-lamp": 2}, "promise_minutes": 240},
    "rope": {
        "crew": 2,
        "certificates": ["rope-access"],
        "tasks": ["Secure the car and counterweight", "Change the ropes", "Set the tension", "Test with full load"],
        "parts": {"suspension-rope-m": 60, "rope-socket": 8},
        "questions": [
            {"key": "tension", "label": "Tension spread", "kind": "number", "least": 0, "most": 20, "unit": "%",
             "required": "to close"},
            {"key": "tested", "label": "Tested with full load", "kind": "yes_no", "required": "to close"},
        ],
    },
    "inspection": {
        "visits": [
            {"title": "Hand for the inspector", "seconds": 7200, "needs": {"traction": 1}, "crew": 1,
             "ties": [{"kind": "together", "to": 1}]},
        ],
        "tasks": ["Load test", "Speed governor", "Report to the authority"],
    },
    "survey": {
        "visits": [
            {"title": "Strip-out", "seconds": 25200, "needs": {"rigging": 2}, "crew": 1,
             "ties": [{"kind": "after", "to": 1, "least": DAY}]},
            {"title": "Install, day 1", "seconds": 25200, "needs": {"rigging": 2}, "crew": 1,
             "ties": [{"kind": "after", "to": 2, "least": 8 * 3600}, {"kind": "same_technician", "to": 2}]},
            {"title": "Commissioning", "seconds": 14400, "needs": {"controller": 3}, "crew": 1,
             "ties": [{"kind": "after", "to": 3, "least": 8 * 3600}]},
        ],
    },
}  # fmt: skip
# What an order usually brings, in euros.
WORTH = {
    "trapped": 180, "stopped": 320, "stopped-hyd": 340, "door-open": 260, "door-noise": 120, "leak": 640,
    "upkeep-month": 95, "upkeep-hyd": 95, "upkeep-quarter": 150, "upkeep-esc": 210, "upkeep-door": 80,
    "upkeep-gate": 85, "inspection": 390, "rope": 3400, "survey": 450, "strip": 5200, "commission": 1900,
    "spring": 680, "dock": 540, "controller": 480, "lamp": 60,
}  # fmt: skip
OWN_FIELDS: dict[str, list[dict[str, Any]]] = {
    "customer": [
        {"key": "grade", "label": "Grade", "kind": "choice", "choices": ["gold", "silver", "bronze"]},
    ],
    "site": [{"key": "floors", "label": "Floors", "kind": "number", "least": 1, "most": 80}],
    "asset": [
        {"key": "load", "label": "Rated load", "kind": "number", "least": 100, "most": 20000, "unit": "kg"},
    ],
    "order": [
        {"key": "insurance", "label": "Insurance case", "kind": "yes_no"},
        {"key": "claim", "label": "Claim number", "kind": "text", "shown_if": ["insurance", True]},
    ],
    "vehicle": [
        {"key": "tyres", "label": "Tyres are good", "kind": "yes_no", "required": "to close"},
        {"key": "lights", "label": "All lights work", "kind": "yes_no", "required": "to close"},
        {"key": "first_aid", "label": "First-aid box is whole", "kind": "yes_no"},
    ],
}  # fmt: skip
# Who wants a purchase-order number, and whose bills go elsewhere.
NEEDS_PO = ("Varnholm General Hospital", "University of Varnholm")
