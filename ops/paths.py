"""Where things lie. Everything the project makes for itself is below .relay/."""

from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
RELAY = ROOT / ".relay"
BACKEND = ROOT / "backend"
FRONTEND = ROOT / "frontend"
LOGS = RELAY / "logs"
PYTHON = RELAY / "venv" / "bin" / "python"
API_TYPES = FRONTEND / "src" / "api" / "generated" / "schema.d.ts"
