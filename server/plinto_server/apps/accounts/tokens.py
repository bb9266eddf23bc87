"""How a request with a token is known."""

from __future__ import annotations

from contextlib import suppress
from typing import Any

from django.db import OperationalError
from django.utils import timezone
from drf_spectacular.authentication import TokenScheme
from rest_framework.authentication import TokenAuthentication
from rest_framework.exceptions import AuthenticationFailed

from plinto_server.apps.accounts.models import ScriptToken, digest_of


class ScriptTokens(TokenAuthentication):
    """`Authorization: Token …`, by what is kept of it; one that has ended or whose person was retired is none."""

    def authenticate_credentials(self, key: str) -> tuple[Any, Any]:
        token = ScriptToken.objects.select_related("user").filter(digest=digest_of(key)).first()
        if token is None or not token.user.is_active:
            raise AuthenticationFailed("The token is not known, or was made void.")
        if token.ends <= timezone.now():
            raise AuthenticationFailed("The token has ended; make a new one.")
        with suppress(OperationalError):
            # When it was used last is for the eye; a held database must not keep scripts out.
            token.note_use()
        return token.user, token


class ScriptTokenScheme(TokenScheme):  # type: ignore[no-untyped-call]
    target_class = "plinto_server.apps.accounts.tokens.ScriptTokens"
