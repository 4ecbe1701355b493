"""Signing in and answering as the interface does, and a phone that makes codes."""

import base64
import hmac
import json
import struct
import time
from typing import Any

from django.test import Client, TestCase

from tests.apps.conftest import PASSWORD

AUTH = "/api/auth/browser/v1"


class Visitor:
    """A browser with cookies and the token of its page."""

    def __init__(self, **more: Any) -> None:
        self.client = Client(HTTP_HOST="127.0.0.1", enforce_csrf_checks=True, **more)

    def session(self) -> Any:
        return self.client.get("/api/v1/session").json()

    def send(self, method: str, path: str, body: Any = None, **headers: str) -> Any:
        token = self.session()["csrf_token"]
        with TestCase.captureOnCommitCallbacks(execute=True):
            return self.client.generic(
                method, path if path.startswith("/api/") else f"{AUTH}{path}", _json(body),
                content_type="application/json", headers={"X-CSRFToken": token, **headers},
            )  # fmt: skip

    def set_up_a_second_factor(self, password: str = PASSWORD) -> str:
        """As on the page of one's own account: the password once more, then a code. Gives the secret."""
        self.send("POST", "/auth/reauthenticate", {"password": password})
        secret: str = self.client.get(f"{AUTH}/account/authenticators/totp").json()["meta"]["secret"]
        assert self.send("POST", "/account/authenticators/totp", {"code": code_of(secret)}).status_code == 200
        return secret

    def sign_in(self, email: str = "dispatcher@test.example", password: str = PASSWORD) -> Any:
        return self.send("POST", "/auth/login", {"email": email, "password": password})


def _json(body: Any) -> bytes:
    return b"" if body is None else json.dumps(body).encode()


def code_of(secret: str, *, at: float | None = None) -> str:
    """The six digits that a phone shows (RFC 6238, SHA-1, 30 s)."""
    counter = struct.pack(">Q", int((time.time() if at is None else at) // 30))
    digest = hmac.digest(base64.b32decode(secret + "=" * (-len(secret) % 8)), counter, "sha1")
    start = digest[-1] & 15
    return f"{(struct.unpack('>I', digest[start : start + 4])[0] & 0x7FFFFFFF) % 1_000_000:06d}"
