"""Profiles of the conditions that come with Plinto are "shipped"; "built" are one's own builds."""

from django.db import migrations


def shipped(apps, schema_editor):
    apps.get_model("profiles", "StoredProfile").objects.filter(origin="built").update(
        origin="shipped"
    )


class Migration(migrations.Migration):
    dependencies = [("profiles", "0003_parts_and_holders")]

    operations = [migrations.RunPython(shipped, migrations.RunPython.noop)]
