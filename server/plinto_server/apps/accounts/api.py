"""The session: who is signed in."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth import authenticate, get_user_model, login, logout
from django.middleware.csrf import get_token
from drf_spectacular.utils import extend_schema
from rest_framework import exceptions, permissions, serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView


class DemoAccount(serializers.Serializer):
    username = serializers.CharField()
    password = serializers.CharField()


class Session(serializers.Serializer):
    username = serializers.CharField(allow_null=True)
    demo = DemoAccount(allow_null=True)


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
    }


class SessionView(APIView):
    permission_classes = [permissions.AllowAny]

    @extend_schema(responses=Session, operation_id="session_read")
    def get(self, request: Request) -> Response:
        """Who is signed in; sets the CSRF cookie."""
        return Response(_session(request))

    @extend_schema(request=Credentials, responses=Session, operation_id="session_sign_in")
    def post(self, request: Request) -> Response:
        """Sign in."""
        given = Credentials(data=request.data)
        given.is_valid(raise_exception=True)
        user = authenticate(request, **given.validated_data)
        if user is None:
            raise exceptions.PermissionDenied("The name and the password do not match.")
        login(request, user)
        return Response(_session(request))

    @extend_schema(responses={204: None}, operation_id="session_sign_out")
    def delete(self, request: Request) -> Response:
        """Sign out."""
        logout(request)
        return Response(status=204)
