"""Which parts a profile can play, and whose it is: those of whom artwork, recipes or policies use it."""

from django.conf import settings
from django.db import migrations, models


def to_everybody(apps, schema_editor):
    """What was in the list so far could be used by all accounts, and stays so for them."""
    User = apps.get_model(*settings.AUTH_USER_MODEL.split("."))
    users = list(User.objects.all())
    for name in ("StoredProfile", "ColourTable"):
        model = apps.get_model("profiles", name)
        for row in model.objects.all():
            if name == "ColourTable" or row.origin == "uploaded":
                row.holders.set(users)


class Migration(migrations.Migration):
    dependencies = [
        ("profiles", "0002_colourtable"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField("storedprofile", "parts", models.JSONField(default=list)),
        migrations.AddField(
            "storedprofile", "holders", models.ManyToManyField(blank=True, to=settings.AUTH_USER_MODEL)
        ),
        migrations.AddField(
            "colourtable", "holders", models.ManyToManyField(blank=True, to=settings.AUTH_USER_MODEL)
        ),
        migrations.RunPython(to_everybody, migrations.RunPython.noop),
    ]
