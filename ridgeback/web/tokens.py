"""Tokens that are given out: told once, kept as a digest."""

import hashlib
import secrets
from typing import Final

TOKEN_BYTES: Final = 24


def new_token(strength: int = TOKEN_BYTES) -> str:
    """A token of so many random bytes, to be told once."""
    return secrets.token_urlsafe(strength)


def digest_of(token: str) -> str:
    """What is kept of a token."""
    return hashlib.sha256(token.encode()).hexdigest()
