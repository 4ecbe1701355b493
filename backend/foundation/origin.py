"""Where a request comes from. What a proxy says of it counts only where the settings name that proxy."""

from ipaddress import ip_address, ip_network

from django.conf import settings
from django.http import HttpRequest

# Whoever has one address of the newer kind has so many that only the network tells them apart.
IPV6_PREFIX = 64


def client_address(request: HttpRequest) -> str:
    """The address of who asks: the last one in X-Forwarded-For that is not a proxy of ours, else the sender's own."""
    at = str(request.META.get("REMOTE_ADDR", ""))
    said = [part.strip() for part in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",") if part.strip()]
    while said and _is_ours(at):
        at = said.pop()
    return at


def client_network(request: HttpRequest) -> str:
    """The same, as far as it tells people apart."""
    at = client_address(request)
    try:
        parsed = ip_address(at)
    except ValueError:
        return at
    return str(ip_network(f"{at}/{IPV6_PREFIX}", strict=False)) if parsed.version == 6 else at


def _is_ours(at: str) -> bool:
    try:
        parsed = ip_address(at)
    except ValueError:
        return False
    return any(parsed in ip_network(row) for row in settings.TRUSTED_PROXIES)
