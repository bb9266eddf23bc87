"""The session: who is signed in; and the token that scripts sign in with."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from django.conf import settings
from django.contrib.auth import (
    authenticate,
    get_user_model,
    login,
    logout,
    update_session_auth_hash,
)
from django.middleware.csrf import get_token
from drf_spectacular.utils import extend_schema
from rest_framework import exceptions, permissions, serializers
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_server import access
from plinto_server.apps.accounts import services
from plinto_server.apps.accounts.models import ScriptToken
from plinto_server.errors import Busy
from plinto_server.requests import View, body


class DemoAccount(serializers.Serializer):
    username = serializers.CharField()
    password = serializers.CharField()


class Session(serializers.Serializer):
    username = serializers.CharField(allow_null=True)
    demo = DemoAccount(allow_null=True)
    house = serializers.CharField(allow_blank=True)
    first_run = serializers.BooleanField()
    """Nobody has an account yet: the first one is made now."""


class FirstAccount(serializers.Serializer):
    house = serializers.CharField(max_length=100, allow_blank=True, default="")
    username = serializers.RegexField(r"^[\w.@+-]+$", max_length=150)
    password = serializers.CharField(max_length=200, trim_whitespace=False)


class Credentials(serializers.Serializer):
    username = serializers.CharField(max_length=150)
    password = serializers.CharField(max_length=200, trim_whitespace=False)


class TooManyTries(exceptions.APIException):
    """Somebody has guessed too often."""

    status_code = 429
    default_code = "too-many-tries"
    default_detail = "Too many tries with this name from this place."
    remedy = "Wait a quarter of an hour, or have the password set by whoever keeps the server."


_HASHING = threading.BoundedSemaphore(2)
_PATIENCE = 5.0
"""Seconds that a sign-in waits for others: hashing is made to be slow, and must not take all threads."""


@contextmanager
def hashing() -> Iterator[None]:
    """Two at once may have passwords hashed; raises Busy where it takes too long to come by."""
    if not _HASHING.acquire(timeout=_PATIENCE):
        raise Busy("Too many are signing in just now.")
    try:
        yield
    finally:
        _HASHING.release()


def _session(request: Request) -> dict[str, object]:
    get_token(request)
    user = request.user
    demo = settings.DEMO_ACCOUNT
    exists = get_user_model().objects.filter(username=demo["username"]).exists()
    return {
        "username": user.get_username() if user.is_authenticated else None,
        "demo": demo if exists and not user.is_authenticated else None,
        "house": services.house_name(),
        "first_run": services.nobody_yet(),
    }


class SessionView(View):
    permission_classes = [permissions.AllowAny]

    @extend_schema(responses=Session, operation_id="session_read")
    def get(self, request: Request) -> Response:
        """Who is signed in; sets the CSRF cookie."""
        return Response(_session(request))

    @extend_schema(request=Credentials, responses=Session, operation_id="session_sign_in")
    def post(self, request: Request) -> Response:
        """Sign in; from this installation's own pages only, and not as often as one likes."""
        SessionAuthentication().enforce_csrf(request)
        given = body(request, Credentials)
        with hashing():
            user = authenticate(request._request, **given)
        if getattr(request._request, "axes_locked_out", False):
            raise TooManyTries
        if user is None:
            raise exceptions.PermissionDenied("The name and the password do not match.")
        login(request, user)
        return Response(_session(request))

    @extend_schema(responses={204: None}, operation_id="session_sign_out")
    def delete(self, request: Request) -> Response:
        """Sign out."""
        logout(request)
        return Response(status=204)


class FirstRun(View):
    permission_classes = [permissions.AllowAny]

    @extend_schema(request=FirstAccount, responses=Session, operation_id="session_first_run")
    def post(self, request: Request) -> Response:
        """Make the first account of a new installation, and sign in; later there is no such way."""
        SessionAuthentication().enforce_csrf(request)
        user = services.make_first_account(**body(request, FirstAccount))
        login(request, user, backend=settings.AUTHENTICATION_BACKENDS[-1])
        return Response(_session(request), status=201)


class TokenData(serializers.Serializer):
    exists = serializers.BooleanField()
    created = serializers.DateTimeField(allow_null=True)
    ends = serializers.DateTimeField(allow_null=True)
    used = serializers.DateTimeField(allow_null=True)
    key = serializers.CharField(allow_null=True)
    """Only in the answer that made it."""


class TokenWanted(serializers.Serializer):
    days = serializers.IntegerField(min_value=1, max_value=3650, default=365)
    """After which it ends."""


class TokenView(View):
    @extend_schema(responses=TokenData, operation_id="token_read")
    def get(self, request: Request) -> Response:
        """Whether there is a token; the token itself is shown only once, when it is made."""
        token = ScriptToken.objects.filter(user=access.person(request)).first()
        return Response(TokenData(_token(token)).data)

    @extend_schema(request=TokenWanted, responses=TokenData, operation_id="token_make")
    def post(self, request: Request) -> Response:
        """Make a new token; a former one is void from now on."""
        made, key = ScriptToken.make(access.person(request), body(request, TokenWanted)["days"])
        return Response(TokenData({**_token(made), "key": key}).data, status=201)

    @extend_schema(responses={204: None}, operation_id="token_void")
    def delete(self, request: Request) -> Response:
        """Make the token void."""
        ScriptToken.objects.filter(user=access.person(request)).delete()
        return Response(status=204)


def _token(token: ScriptToken | None) -> dict[str, object]:
    known = {name: getattr(token, name, None) for name in ("created", "ends", "used")}
    return {"exists": token is not None, **known, "key": None}


class NewPassword(serializers.Serializer):
    present = serializers.CharField(max_length=200, trim_whitespace=False)
    password = serializers.CharField(max_length=200, trim_whitespace=False)


class PasswordView(View):
    @extend_schema(request=NewPassword, responses={204: None}, operation_id="password_change")
    def post(self, request: Request) -> Response:
        """Change one's password; other browsers are signed out by it."""
        given = body(request, NewPassword)
        user = access.person(request)
        with hashing():
            if not user.check_password(given["present"]):
                raise exceptions.PermissionDenied("That is not the present password.")
            services.set_password(user, given["password"])
        update_session_auth_hash(request, user)
        return Response(status=204)
