"""In front of everything: how much may be sent, before any of it is read.

The framework takes a whole body to disk before it looks at who sent it; so what is too large is refused here, by its
announced length, or as soon as more has come than is allowed.
"""

import json
from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any

Scope = MutableMapping[str, Any]
Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
# Frameworks type their side of it each in their own way.
Application = Callable[[Any, Any, Any], Awaitable[None]]

# Files of customers (15 MB) and of records (12 MB), with what surrounds them in a form.
LARGEST_FILE = 17 * 1024 * 1024
LARGEST_BODY = 2 * 1024 * 1024
# Who is not signed in signs in, fills in the public form, or is a device that reports.
LARGEST_OF_STRANGERS = 128 * 1024


class Guard:
    """Wraps an ASGI application.

    Parameters
    ----------
    session_cookie
        Whoever does not even have it is a stranger.
    """

    def __init__(self, application: Application, *, session_cookie: str) -> None:
        self.application = application
        self.session_cookie = session_cookie.encode()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.application(scope, receive, send)
            return
        headers = {name.lower(): value for name, value in scope["headers"]}
        if "\x00" in scope["path"] or b"%00" in scope.get("query_string", b""):
            await _refuse(send, 400, "no_such_address", "There is no such address.")
            return
        most = self._most(headers)
        announced = headers.get(b"content-length", b"0")
        if not announced.isdigit() or int(announced) > most:
            await _refuse(send, 413, "too_large", _words(most))
            return
        await self._counted(scope, receive, send, most)

    def _most(self, headers: MutableMapping[bytes, bytes]) -> int:
        if self.session_cookie + b"=" not in headers.get(b"cookie", b""):
            return LARGEST_OF_STRANGERS
        is_file = headers.get(b"content-type", b"").lower().startswith(b"multipart/form-data")
        return LARGEST_FILE if is_file else LARGEST_BODY

    async def _counted(self, scope: Scope, receive: Receive, send: Send, most: int) -> None:
        """A body without an announced length is cut off as soon as it is too long: for the application its sender has
        gone away."""
        came = 0
        too_much = False

        async def counting() -> Message:
            nonlocal came, too_much
            message = await receive()
            came += len(message.get("body", b""))
            if came > most:
                too_much = True
                return {"type": "http.disconnect"}
            return message

        async def answering(message: Message) -> None:
            if not too_much:
                await send(message)

        await self.application(scope, counting, answering)
        if too_much:
            await _refuse(send, 413, "too_large", _words(most))


def _words(most: int) -> str:
    size = f"{most // 2**20} MB" if most >= 2**20 else f"{most // 1024} KB"
    return f"That is more than can be sent at once ({size})."


async def _refuse(send: Send, status: int, code: str, sentence: str) -> None:
    body = json.dumps({"title": sentence, "status": status, "code": code}).encode()
    headers = [
        (b"content-type", b"application/problem+json"),
        (b"content-length", str(len(body)).encode()),
        (b"connection", b"close"),
    ]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
