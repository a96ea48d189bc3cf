"""Sending a signed request to an address that a keeper gave: to nobody but whom it names, and never to this machine itself.

References
----------
Standard Webhooks, symmetric signatures: https://github.com/standard-webhooks/standard-webhooks/blob/main/spec/standard-webhooks.md
"""

import base64
import hashlib
import hmac
import http.client
import ipaddress
import socket
import ssl
from datetime import datetime
from typing import Final
from urllib.parse import SplitResult, urlsplit

from django.conf import settings
from django.utils.crypto import salted_hmac

from husbandry.errors import HusbandryError
from ridgeback.api.models import Webhook

PATIENCE_S: Final = 8.0
PREFIX: Final = "whsec_"


class UnfitAddressError(HusbandryError, ValueError):
    """An address that nothing is sent to: no http or https, or within this machine or, unless allowed, this network."""


class NotTakenError(HusbandryError):
    """What was sent was not taken; `said` is why, in a few words of English."""

    def __init__(self, said: str) -> None:
        super().__init__(said)
        self.said = said


def secret_of(webhook: Webhook, by: str | None = None) -> str:
    """The secret that an address checks signatures by; `by` is a key of before."""
    key = salted_hmac("ridgeback.api.webhook", webhook.seed, secret=by, algorithm="sha256").digest()
    return PREFIX + base64.b64encode(key).decode()


def signatures(webhook: Webhook, ident: str, at: int, body: bytes) -> str:
    """Signatures by the key and those of before, so that who still checks by an older secret takes it too."""
    secrets = [secret_of(webhook), *(secret_of(webhook, old) for old in settings.SECRET_KEY_FALLBACKS)]
    return " ".join(signature(secret, ident, at, body) for secret in secrets)


def signature(secret: str, ident: str, at: int, body: bytes) -> str:
    """The signature of a body sent at a moment (seconds since 1970) under an identity."""
    key = base64.b64decode(secret.removeprefix(PREFIX))
    return "v1," + base64.b64encode(hmac.new(key, f"{ident}.{at}.".encode() + body, hashlib.sha256).digest()).decode()


def parts_of(address: str) -> SplitResult:
    """An address that a keeper typed, in parts. Raises UnfitAddressError."""
    try:
        found = urlsplit(address)
        port = found.port
    except ValueError:
        raise UnfitAddressError from None
    printable = address.isascii() and address.isprintable() and " " not in address
    if found.scheme not in ("http", "https") or not found.hostname or "@" in found.netloc or not printable or port == 0:
        raise UnfitAddressError
    return found


def allowed(address: str) -> bool:
    """Whether something may be sent to an address of the network (`ip`)."""
    ip = ipaddress.ip_address(address)
    ip = getattr(ip, "ipv4_mapped", None) or ip
    if settings.WEBHOOKS == "anywhere":
        return True
    if settings.WEBHOOKS == "nearby":
        return not (ip.is_loopback or ip.is_link_local or ip.is_multicast or ip.is_unspecified or ip.is_reserved)
    return ip.is_global and not ip.is_multicast


def post(webhook: Webhook, ident: str, body: bytes, now: datetime) -> None:
    """Send a body to a webhook's address. Redirects are not followed. Raises NotTakenError."""
    at = int(now.timestamp())
    headers = {
        "Content-Type": "application/json",
        "User-Agent": "Ridgeback",
        "webhook-id": ident,
        "webhook-timestamp": str(at),
        "webhook-signature": signatures(webhook, ident, at, body),
    }
    try:
        parts = parts_of(webhook.address)
        connection = _connection(parts)
        try:
            connection.request("POST", (parts.path or "/") + (f"?{parts.query}" if parts.query else ""), body, headers)
            status = connection.getresponse().status
        finally:
            connection.close()
    except UnfitAddressError:
        raise NotTakenError("the address is not one that may be sent to") from None
    except (OSError, http.client.HTTPException, UnicodeError) as error:
        raise NotTakenError(f"no answer ({type(error).__name__})") from error
    if not 200 <= status < 300:
        raise NotTakenError(f"answered {status}")


def _connection(parts: SplitResult) -> http.client.HTTPConnection:
    """A connection to the very address that was looked up and allowed: a name is not asked twice."""
    host = parts.hostname or ""
    port = parts.port or (443 if parts.scheme == "https" else 80)
    found = [str(one[4][0]) for one in socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)]
    if not found or not all(allowed(one) for one in found):
        raise UnfitAddressError
    connected = socket.create_connection((found[0], port), timeout=PATIENCE_S)
    connection = http.client.HTTPConnection(host, port, timeout=PATIENCE_S)
    if parts.scheme == "https":
        connected = ssl.create_default_context().wrap_socket(connected, server_hostname=host)
    connection.sock = connected
    return connection
