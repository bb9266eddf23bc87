"""Set up the demo: account, conditions with built profiles, artwork, jobs, their figures."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand

from plinto_core.demo import ARTWORK
from plinto_core.demo.atlas import star_atlas
from plinto_core.recipes import parse_recipe
from plinto_core.simulator import CONDITIONS
from plinto_server import store
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.artwork.services import import_artwork
from plinto_server.apps.conditions.services import characterise_simulated, expose_paper
from plinto_server.apps.jobs.figures import deciding_facts
from plinto_server.apps.jobs.models import Job
from plinto_server.apps.jobs.services import change_recipe, create_job
from plinto_server.apps.policies.models import Document, Policy
from plinto_server.apps.policies.services import policy_of_template, save_policy, take_document
from plinto_server.apps.profiles.services import add_standard_profiles

PRINT_WIDTH_MM = 300
"""Of the demo's artwork that states no size of its own."""


class Command(BaseCommand):
    help = "Set up the demo data; what exists already is left as it is."

    def handle(self, *args: Any, **options: Any) -> None:
        account = settings.DEMO_ACCOUNT
        user, made = get_user_model().objects.get_or_create(username=account["username"])
        if made:
            user.set_password(account["password"])
            user.save()
        add_standard_profiles()
        conditions = {}
        for simulated in CONDITIONS:
            self.stdout.write(f"condition {simulated.name}")
            conditions[simulated.key] = characterise_simulated(simulated)
        expose_paper()
        for drawn in reversed(ARTWORK):
            if Artwork.objects.filter(owner=user, file_name=drawn.file_name).exists():
                continue
            self.stdout.write(f"artwork {drawn.name}")
            with store.scratch() as path:
                drawn.draw(path)
                artwork = import_artwork(user, path, drawn.file_name, drawn.name)
            job = create_job(user, artwork, [conditions[key] for key in drawn.destinations])
            if artwork.facts["resolution"] is None:
                for destination in job.destinations.all():
                    change_recipe(destination, {"delivery": {"width_mm": PRINT_WIDTH_MM}})
        if not Document.objects.filter(owner=user).exists():
            self.stdout.write("document Star atlas")
            with store.scratch(".pdf") as path:
                star_atlas(path)
                take_document(user, path, "star-atlas.pdf")
        if not Policy.objects.filter(owner=user).exists():
            coated = conditions["sheetfed-coated"]
            for kind in ("strict-press", "office-files"):
                save_policy(user, policy_of_template(kind, coated).model_dump(mode="json"))
        for job in Job.objects.filter(owner=user):
            for destination in job.destinations.filter(facts={}):
                destination.facts = deciding_facts(destination, parse_recipe(destination.recipe))
                destination.save(update_fields=["facts"])
