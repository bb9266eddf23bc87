"""Set up the demo: account, conditions with built profiles, artwork, jobs, their figures."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.core.management.base import BaseCommand

from plinto_core.demo import ARTWORK
from plinto_core.demo.atlas import star_atlas
from plinto_core.demo.presses import build_all
from plinto_core.recipes import parse_recipe
from plinto_core.simulator import CONDITIONS, FURTHER, PROOFER
from plinto_core.swatches.files import swatches_of_text
from plinto_server import store
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.artwork.services import import_artwork
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.conditions.services import (
    expose_paper,
    keep_simulated,
    known_simulated,
)
from plinto_server.apps.folders.services import create_folder
from plinto_server.apps.house.models import HouseRuleSet
from plinto_server.apps.house.services import create_house_rules
from plinto_server.apps.jobs.figures import deciding_facts
from plinto_server.apps.jobs.models import Job
from plinto_server.apps.jobs.services import change_recipe, create_job
from plinto_server.apps.paths.lists import keep
from plinto_server.apps.paths.models import SwatchList
from plinto_server.apps.paths.services import create
from plinto_server.apps.policies.models import Document, Policy
from plinto_server.apps.policies.services import create_policy, policy_of_template, take_document
from plinto_server.apps.printers.models import Medium, Printer
from plinto_server.apps.printers.services import medium_from
from plinto_server.apps.profiles.services import add_standard_profiles, judge_stored_profiles

PRINT_WIDTH_MM = 300
"""Of the demo's artwork that states no size of its own."""

ROOM: tuple[tuple[str, str, tuple[tuple[str, str, str, dict[str, str], dict[str, Any]], ...]], ...] = (
    ("Sheetfed press", "Print room", (
        ("Gloss coated, 135 g/m²", "sheetfed-coated", "strict-press", {"rip": "absent"},
         {"media_type": "Coated, gloss", "drying_minutes": 120}),
        ("Uncoated, 120 g/m²", "sheetfed-uncoated", "office-files", {"rip": "off"},
         {"media_type": "Uncoated", "drying_minutes": 240}),
    )),
    ("Cloth printer", "Textile room", (
        ("Polyester satin, 110 g/m²", "polyester-satin", "textile-transfer", {"rip": "off"},
         {"media_type": "Transfer paper", "mirror": True, "passes": 4, "drying_minutes": 10, "platen_gap": 1.8,
          "feed": -0.2, "heat": 195, "roll_width": 1620, "roll_length": 100, "roll_price": 390}),
    )),
    ("Bulletin press", "Harbour annexe", (
        ("Newsprint, 45 g/m²", "newsprint", "strict-press", {"rip": "on"},
         {"media_type": "Newsprint"}),
    )),
)  # fmt: skip
"""Printers with their media. In the last one the RIP was left on, so that the guard has work."""


def print_room(owner: User, conditions: dict[str, PrintingCondition]) -> None:
    """The demo's printers, and a watched folder for what the office sends."""
    for name, place, media in ROOM:
        printer = Printer.objects.create(owner=owner, name=name, place=place)
        for label, key, kind, stations, settings_of_medium in media:
            wanted = policy_of_template(kind, conditions[key])
            policy = Policy.objects.filter(owner=owner, name=wanted.name).first() or create_policy(
                owner, wanted.model_dump(mode="json")
            )
            duty = {"manager": "plinto", "driver": "absent", **stations}
            given = {"duty": duty, "settings": settings_of_medium}
            medium = Medium(printer=printer, name=label, condition=conditions[key], policy=policy)
            medium_from(medium, given).save()
    office = Policy.objects.filter(owner=owner, name__startswith="Kind to office files").first()
    create_folder(owner, name="From the office", policy=office)


WORK = {
    "Poster": ("sheetfed-coated",),
    "Bulletin": ("newsprint",),
    "Scarf": ("polyester-satin",),
    "Bag": ("cotton-four-screen", "two-screens"),
    "Freezer bag": ("film-flexo",),
}
"""Kinds of work of the demo's house, with the conditions they go to."""

SIGNALS = """Name;L;a;b
harbour red;41,5;58;38
buoy orange;63;52;66
lamp yellow;85;6;82
kelp green;44;-38;22
mint wall;82;-24;6
shallow water;68;-32;-22
evening sea;34;2;-46
night sky;14;12;-32
heather;47;38;-30
blush sail;84;20;8
wet sand;66;8;26
tarred rope;17;3;5
slate roof;42;-3;-8
salt;96;0;1
"""
"""Colours of an imaginary harbour's signs, measured on nothing."""


def colour_paths(owner: User, conditions: dict[str, PrintingCondition]) -> None:
    """A list of swatches, and a path that asks what the bulletin press makes of it."""
    keep(owner, swatches_of_text(SIGNALS), "Harbour signs", "typed")
    into = {"intent": "relative", "bpc": True}
    press = conditions["newsprint"]
    steps = [
        {"kind": "lab"},
        {"kind": "condition", "ref": str(conditions["sheetfed-coated"].pk), **into},
        {"kind": "condition", "ref": str(press.pk), **into},
    ]
    create(owner, {"name": "Signs on the bulletin press", "steps": steps})


class Command(BaseCommand):
    help = "Set up the demo data; what exists already is left as it is."

    def _conditions(self) -> dict[str, PrintingCondition]:
        presses = (*CONDITIONS, PROOFER, *FURTHER)
        known = {press.key: known_simulated(press) for press in presses}
        missing = [press for press in presses if known[press.key] is None]
        for press, result in zip(missing, build_all(missing), strict=True):
            self.stdout.write(f"condition {press.name}")
            known[press.key] = keep_simulated(press, result)
        return {key: condition for key, condition in known.items() if condition is not None}

    def handle(self, *args: Any, **options: Any) -> None:
        account = settings.DEMO_ACCOUNT
        user, made = get_user_model().objects.get_or_create(username=account["username"])
        if made:
            user.set_password(account["password"])
            user.save()
        add_standard_profiles()
        judge_stored_profiles()
        conditions = self._conditions()
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
        if not HouseRuleSet.objects.filter(owner=user).exists():
            work = [{"name": name, "conditions": keys} for name, keys in WORK.items()]
            create_house_rules(user, {"name": "Ternholm's own", "work": work})
        if not Policy.objects.filter(owner=user).exists():
            coated = conditions["sheetfed-coated"]
            for kind in ("strict-press", "office-files"):
                create_policy(user, policy_of_template(kind, coated).model_dump(mode="json"))
        if not Printer.objects.filter(owner=user).exists():
            self.stdout.write("printers and a watched folder")
            print_room(user, conditions)
        if not SwatchList.objects.filter(owner=user).exists():
            self.stdout.write("swatches and a colour path")
            colour_paths(user, conditions)
        for job in Job.objects.filter(owner=user):
            for destination in job.destinations.filter(facts={}):
                destination.facts = deciding_facts(destination, parse_recipe(destination.recipe))
                destination.save(update_fields=["facts"])
