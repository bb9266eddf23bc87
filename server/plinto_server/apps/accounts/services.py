"""Accounts: the first one, further ones, and the name of the house."""

from __future__ import annotations

from axes.utils import reset
from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction

from plinto_core.errors import BadInput
from plinto_server.apps.accounts.models import ScriptToken
from plinto_server.apps.house.models import House
from plinto_server.apps.profiles.services import add_standard_profiles
from plinto_server.errors import Conflict


def nobody_yet() -> bool:
    """Whether no account exists."""
    return not get_user_model().objects.exists()


def house_name() -> str:
    """The name of the house, empty where nobody gave it."""
    house = House.objects.first()
    return house.name if house else ""


@transaction.atomic
def make_first_account(username: str, password: str, house: str = "") -> User:
    """The first account of an installation; raises Conflict where there is one already."""
    if not nobody_yet():
        raise Conflict("The first account exists already. Sign in with it.")
    user = add_account(username, password)
    if house.strip():
        House.objects.create(name=house.strip())
    add_standard_profiles()
    return user


def add_account(username: str, password: str) -> User:
    """One more account; raises BadInput for a taken name or a password that is too easy."""
    users = get_user_model().objects
    if users.filter(username=username).exists():
        raise BadInput(f"There is an account {username!r} already.", remedy="Choose another name.")
    _judge(password)
    return users.create_user(username, password=password)


def account(username: str) -> User:
    """An account by its name; raises BadInput where there is none."""
    user = get_user_model().objects.filter(username=username).first()
    if user is None:
        raise BadInput(f"There is no account {username!r}.", remedy="plinto user list shows them.")
    return user


@transaction.atomic
def set_password(user: User, password: str) -> None:
    """Give an account another password and let it sign in again; raises BadInput for one too easy."""
    _judge(password, user)
    user.set_password(password)
    user.is_active = True
    user.save()
    reset(username=user.get_username())


@transaction.atomic
def retire(user: User) -> None:
    """Keep somebody from signing in; what is theirs stays. A new password brings them back."""
    user.is_active = False
    user.save()
    ScriptToken.objects.filter(user=user).delete()


def _judge(password: str, user: User | None = None) -> None:
    try:
        validate_password(password, user)
    except ValidationError as error:
        raise BadInput(" ".join(error.messages)) from error
