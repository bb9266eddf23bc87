"""A row for each moment in place of one cell of history; revisions, looks and removal."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def former_name(recipe):
    """The arrival space had another name in recipes."""
    out = {("arrival" if k == "working" else k): v for k, v in recipe.items()}
    return out


def to_rows(apps, schema_editor):
    Destination = apps.get_model("jobs", "Destination")
    Moment = apps.get_model("jobs", "Moment")
    for destination in Destination.objects.all().iterator():
        history = [former_name(r) for r in destination.history]
        Moment.objects.bulk_create(
            Moment(destination=destination, number=i, recipe=recipe)
            for i, recipe in enumerate(history)
        )
        destination.recipe = history[destination.position] if history else {}
        destination.newest = max(0, len(history) - 1)
        destination.save(update_fields=["recipe", "newest"])


def to_who_took_in(apps, schema_editor):
    """An embedded profile belongs to those whose artwork it came with."""
    profiles = apps.get_model("profiles", "StoredProfile")
    for artwork in apps.get_model("artwork", "Artwork").objects.all().iterator():
        sha = artwork.facts.get("profile_sha256")
        for profile in profiles.objects.filter(sha256=sha or "-"):
            profile.holders.add(artwork.owner_id)


class Migration(migrations.Migration):
    dependencies = [
        ("jobs", "0002_questions_points_notes"),
        ("artwork", "0002_artwork_page"),
        ("profiles", "0003_parts_and_holders"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField("job", "removed", models.DateTimeField(blank=True, null=True)),
        migrations.AddField("destination", "revision", models.PositiveIntegerField(default=1)),
        migrations.AddField("destination", "touched", models.JSONField(default=dict)),
        migrations.AddField("destination", "recipe", models.JSONField(default=dict)),
        migrations.AddField("destination", "oldest", models.PositiveIntegerField(default=0)),
        migrations.AddField("destination", "newest", models.PositiveIntegerField(default=0)),
        migrations.CreateModel(
            name="Moment",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("number", models.PositiveIntegerField()),
                ("recipe", models.JSONField()),
                ("created", models.DateTimeField(auto_now_add=True)),
                ("destination", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="moments", to="jobs.destination")),
            ],
            options={"ordering": ["number"]},
        ),
        migrations.AddConstraint(
            "moment", models.UniqueConstraint(fields=("destination", "number"), name="one_moment_a_number")
        ),
        migrations.CreateModel(
            name="JobLook",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("look", models.JSONField(default=dict)),
                ("job", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="looks", to="jobs.job")),
                ("user", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.AddConstraint(
            "joblook", models.UniqueConstraint(fields=("user", "job"), name="one_look_for_person_and_job")
        ),
        migrations.RunPython(to_rows, migrations.RunPython.noop),
        migrations.RunPython(to_who_took_in, migrations.RunPython.noop),
        migrations.RemoveField("destination", "history"),
    ]
