"""Kept figures of destinations are measured anew: they say three ways of being out of gamut now."""

from django.db import migrations


def anew(apps, schema_editor):
    apps.get_model("jobs", "Destination").objects.exclude(facts={}).update(facts={})


class Migration(migrations.Migration):
    dependencies = [("jobs", "0003_moments_looks_revisions")]

    operations = [migrations.RunPython(anew, migrations.RunPython.noop)]
