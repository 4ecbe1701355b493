"""Signing in and answering as the interface does, and a phone that makes codes."""

import base64
import hashlib
import hmac
import json
import secrets
import struct
import time
from typing import Any

from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec
from django.test import Client, TestCase
from fido2 import cbor
from fido2.cose import ES256

from tests.apps.conftest import PASSWORD

AUTH = "/api/auth/browser/v1"


class Visitor:
    """A browser with cookies and the token of its page."""

    def __init__(self, **more: Any) -> None:
        self.client = Client(**{"HTTP_HOST": "127.0.0.1", "enforce_csrf_checks": True, **more})

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

    def make_a_passkey(self, device: "Device", password: str = PASSWORD) -> Any:
        """As on the page of one's own account: the password once more, then the device."""
        self.send("POST", "/auth/reauthenticate", {"password": password})
        asked = self.client.get(f"{AUTH}/account/authenticators/webauthn?passwordless").json()["data"]
        credential = device.make(asked["creation_options"]["publicKey"])
        body = {"name": "Laptop", "credential": credential, "passwordless": True}
        return self.send("POST", "/account/authenticators/webauthn", body)

    def prove_passkey(self, device: "Device", way: str = "login") -> Any:
        """Come in with a passkey, or take the second step with it."""
        asked = self.client.get(f"{AUTH}/auth/webauthn/{way}").json()["data"]["request_options"]["publicKey"]
        return self.send("POST", f"/auth/webauthn/{way}", {"credential": device.prove(asked)})

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


class Device:
    """A device with one passkey: makes it and proves it as a browser would (Web Authentication, W3C; ES256, no
    attestation)."""

    def __init__(self, *, host: str = "localhost", verifies: bool = True) -> None:
        self.host, self.key, self.id = host, ec.generate_private_key(ec.SECP256R1()), secrets.token_bytes(16)
        self.count, self.user = 0, b""
        self.verifies = verifies  # by finger, face or PIN

    def make(self, options: Any) -> Any:
        """What a browser answers to `creation_options`."""
        self.user = _unsafe(options["user"]["id"])
        held = (
            struct.pack(">H", len(self.id)) + self.id + cbor.encode(ES256.from_cryptography_key(self.key.public_key()))
        )
        said = cbor.encode({"fmt": "none", "attStmt": {}, "authData": self._data(0x40, bytes(16) + held)})
        return self._answer(
            {"clientDataJSON": _safe(self._client("webauthn.create", options)), "attestationObject": _safe(said)}
        )

    def prove(self, options: Any) -> Any:
        """What a browser answers to `request_options`."""
        client, data = self._client("webauthn.get", options), self._data(0, b"")
        signed = self.key.sign(data + hashlib.sha256(client).digest(), ec.ECDSA(hashes.SHA256()))
        return self._answer(
            {"clientDataJSON": _safe(client), "authenticatorData": _safe(data), "signature": _safe(signed),
             "userHandle": _safe(self.user)}
        )  # fmt: skip

    def _client(self, kind: str, options: Any) -> bytes:
        told = {"type": kind, "challenge": options["challenge"], "origin": f"http://{self.host}", "crossOrigin": False}
        return json.dumps(told).encode()

    def _data(self, flags: int, more: bytes) -> bytes:
        self.count += 1
        flags |= 0x05 if self.verifies else 0x01
        return hashlib.sha256(self.host.encode()).digest() + bytes([flags]) + struct.pack(">I", self.count) + more

    def _answer(self, response: Any) -> Any:
        return {"id": _safe(self.id), "rawId": _safe(self.id), "type": "public-key", "response": response,
                "clientExtensionResults": {}}  # fmt: skip


def _safe(content: bytes) -> str:
    return base64.urlsafe_b64encode(content).decode().rstrip("=")


def _unsafe(text: str) -> bytes:
    return base64.urlsafe_b64decode(text + "=" * (-len(text) % 4))
