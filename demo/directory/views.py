"""What a directory answers."""

import base64
import hashlib
import time
from collections.abc import Callable
from functools import wraps
from typing import Any

import jwt
from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse, HttpResponseRedirect, JsonResponse
from django.shortcuts import render
from django.utils.http import urlencode
from django.views.decorators.csrf import csrf_exempt

from apps.people.models import Account

CODE_SECONDS, TOKEN_SECONDS = 60, 300
CODES, TOKENS = "stand-in directory: codes", "stand-in directory: tokens"

View = Callable[[HttpRequest], HttpResponse]


def _for_demos_only(view: View) -> View:
    @wraps(view)
    def call(request: HttpRequest) -> HttpResponse:
        return view(request) if settings.DEMO else HttpResponse(status=404)

    return call


def _client() -> dict[str, Any]:
    providers: Any = settings.SOCIALACCOUNT_PROVIDERS
    found: dict[str, Any] = providers["openid_connect"]["APPS"][0]
    return found


def _issuer(request: HttpRequest) -> str:
    return f"{request.scheme}://{request.get_host()}/stand-in/directory"


@_for_demos_only
def configuration(request: HttpRequest) -> JsonResponse:
    """Where everything is."""
    here = _issuer(request)
    return JsonResponse(
        {
            "issuer": here, "authorization_endpoint": f"{here}/authorize", "token_endpoint": f"{here}/token",
            "userinfo_endpoint": f"{here}/who", "jwks_uri": f"{here}/keys", "response_types_supported": ["code"],
            "subject_types_supported": ["public"], "id_token_signing_alg_values_supported": ["HS256"],
            "token_endpoint_auth_methods_supported": ["client_secret_post"],
            "code_challenge_methods_supported": ["S256"],
        }
    )  # fmt: skip


@_for_demos_only
def keys(_request: HttpRequest) -> JsonResponse:
    """None: tokens are signed with the client's secret."""
    return JsonResponse({"keys": []})


@_for_demos_only
def authorize(request: HttpRequest) -> HttpResponse:
    """Ask who somebody is, and send them back with a code."""
    asked = request.GET
    if asked.get("client_id") != _client()["client_id"]:
        return HttpResponse("Unknown client.", status=400)
    if not (email := asked.get("who")):
        people = Account.objects.filter(is_active=True).order_by("name")
        refuse = _back(asked, error="access_denied")
        return render(request, "directory/who.html", {"people": people, "asked": list(asked.items()), "refuse": refuse})
    code = signing.dumps(
        {"email": email, "challenge": asked.get("code_challenge", ""), "nonce": asked.get("nonce", "")}, salt=CODES
    )
    return HttpResponseRedirect(_back(asked, code=code))


def _back(asked: Any, **answer: str) -> str:
    return f"{asked['redirect_uri']}?{urlencode({**answer, 'state': asked.get('state', '')})}"


@csrf_exempt
@_for_demos_only
def token(request: HttpRequest) -> HttpResponse:
    """A token for a code."""
    client, asked = _client(), request.POST
    if (asked.get("client_id"), asked.get("client_secret")) != (client["client_id"], client["secret"]):
        return JsonResponse({"error": "invalid_client"}, status=401)
    try:
        known = signing.loads(asked.get("code", ""), salt=CODES, max_age=CODE_SECONDS)
    except signing.BadSignature:
        return JsonResponse({"error": "invalid_grant"}, status=400)
    digest = hashlib.sha256(asked.get("code_verifier", "").encode()).digest()
    if base64.urlsafe_b64encode(digest).decode().rstrip("=") != known["challenge"]:
        return JsonResponse({"error": "invalid_grant"}, status=400)
    now = int(time.time())
    claims = {**_claims(known["email"]), "iss": _issuer(request), "aud": client["client_id"], "iat": now,
              "exp": now + TOKEN_SECONDS, "nonce": known["nonce"]}  # fmt: skip
    return JsonResponse(
        {
            "access_token": signing.dumps(known["email"], salt=TOKENS), "token_type": "Bearer",
            "expires_in": TOKEN_SECONDS, "id_token": jwt.encode(claims, client["secret"], algorithm="HS256"),
        }
    )  # fmt: skip


@_for_demos_only
def who(request: HttpRequest) -> HttpResponse:
    """What the directory knows of whoever a token is of."""
    given = request.headers.get("Authorization", "").removeprefix("Bearer ")
    try:
        email = signing.loads(given, salt=TOKENS, max_age=TOKEN_SECONDS)
    except signing.BadSignature:
        return HttpResponse(status=401)
    return JsonResponse(_claims(email))


def _claims(email: str) -> dict[str, Any]:
    """The stand-in vouches for every address, also of who has no account here."""
    checked = not email.startswith("unchecked.")
    return {"sub": email, "email": email, "email_verified": checked, "name": email.split("@")[0]}
