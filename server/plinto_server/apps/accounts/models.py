"""What scripts sign in with."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models
from django.utils import timezone

_BYTES = 32
_NOTED_EVERY = timedelta(minutes=1)


class ScriptToken(models.Model):
    """A person's token: of the key itself only the SHA-256 is kept, which for 32 random bytes is enough."""

    user = models.OneToOneField(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="script_token"
    )
    digest = models.CharField(max_length=64, unique=True)
    created = models.DateTimeField(auto_now_add=True)
    ends = models.DateTimeField()
    used = models.DateTimeField(null=True)

    @classmethod
    def make(cls, user: User, days: int) -> tuple[ScriptToken, str]:
        """A new token in place of a former one, and its key, which nobody can read again."""
        key = secrets.token_urlsafe(_BYTES)
        made, _ = cls._default_manager.update_or_create(
            user=user,
            defaults={
                "digest": digest_of(key), "created": timezone.now(), "used": None,
                "ends": timezone.now() + timedelta(days=days),
            },
        )  # fmt: skip
        return made, key

    def note_use(self) -> None:
        """Note that it was used, once a minute at most."""
        now = timezone.now()
        if self.used is None or now - self.used > _NOTED_EVERY:
            type(self)._default_manager.filter(pk=self.pk).update(used=now)


def digest_of(key: str) -> str:
    return hashlib.sha256(key.encode()).hexdigest()
