"""A fingerprint of what was read or signed: the same words and amounts always have the same one."""

import hashlib
import json
from collections.abc import Mapping
from typing import Any


def digest(content: Mapping[str, Any]) -> str:
    """SHA-256 of plain values in one canonical spelling (JSON, sorted keys, no spaces), in hexadecimal."""
    spelled = json.dumps(content, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    return hashlib.sha256(spelled.encode()).hexdigest()
