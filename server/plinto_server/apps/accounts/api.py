"""The session: who is signed in; and the token that scripts sign in with."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth import authenticate, get_user_model, login, logout
from django.middleware.csrf import get_token
from drf_spectacular.utils import extend_schema
from rest_framework import exceptions, permissions, serializers
from rest_framework.authtoken.models import Token
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_server import access
from plinto_server.apps.accounts import services
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
        """Sign in."""
        user = authenticate(request, **body(request, Credentials))
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
        user = services.make_first_account(**body(request, FirstAccount))
        login(request, user)
        return Response(_session(request), status=201)


class TokenData(serializers.Serializer):
    exists = serializers.BooleanField()
    created = serializers.DateTimeField(allow_null=True)
    key = serializers.CharField(allow_null=True)
    """Only in the answer that made it."""


class TokenView(View):
    @extend_schema(responses=TokenData, operation_id="token_read")
    def get(self, request: Request) -> Response:
        """Whether there is a token; the token itself is shown only once, when it is made."""
        return Response(TokenData(_token(request)).data)

    @extend_schema(request=None, responses=TokenData, operation_id="token_make")
    def post(self, request: Request) -> Response:
        """Make a new token; a former one is void from now on."""
        Token.objects.filter(user=access.person(request)).delete()
        made = Token.objects.create(user=access.person(request))
        return Response(TokenData({**_token(request), "key": made.key}).data, status=201)

    @extend_schema(responses={204: None}, operation_id="token_void")
    def delete(self, request: Request) -> Response:
        """Make the token void."""
        Token.objects.filter(user=access.person(request)).delete()
        return Response(status=204)


def _token(request: Request) -> dict[str, object]:
    token = Token.objects.filter(user=access.person(request)).first()
    return {"exists": token is not None, "created": token and token.created, "key": None}
