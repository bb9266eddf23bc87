"""Kept figures of destinations are measured anew: the boundary of the gamut judges them now."""

from django.db import migrations


def anew(apps, schema_editor):
    apps.get_model("jobs", "Destination").objects.exclude(facts={}).update(facts={})


class Migration(migrations.Migration):
    dependencies = [("jobs", "0004_facts_anew")]

    operations = [migrations.RunPython(anew, migrations.RunPython.noop)]
