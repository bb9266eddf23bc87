"""Make the demo's printing conditions: print a chart, measure it, build the profile."""

from __future__ import annotations

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.icc.spaces import channel_names
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.recipes.retarget import ConditionFacts
from plinto_core.simulator import SimulatedCondition, measure_chart
from plinto_core.transform.working_spaces import standard_profile
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.profiles.services import load_profile, store_profile


def characterise_simulated(simulated: SimulatedCondition) -> PrintingCondition:
    """The condition with a profile built from a simulated chart; built once."""
    details = {
        "process": simulated.process,
        "supplies": simulated.supplies,
        "ticket": simulated.ticket,
    }
    existing = PrintingCondition.objects.filter(key=simulated.key).first()
    if existing is not None:
        if not existing.supplies:
            for name, value in details.items():
                setattr(existing, name, value)
            existing.save()
        return existing
    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(simulated.model, chart))
    result = build_profile(
        Characterisation(chart, xyz, simulated.name),
        parse_ink_rules(simulated.rules),
        BuildSettings(description=f"{simulated.name} (simulated)"),
    )
    return PrintingCondition.objects.create(
        key=simulated.key,
        name=simulated.name,
        printer=simulated.printer,
        medium=simulated.medium,
        mirror=simulated.mirror,
        profile=store_profile(result.data, "built", result.report),
        ink_rules=simulated.rules,
        **details,
    )


def facts_of(condition: PrintingCondition) -> ConditionFacts:
    """What re-targeting and checks know of a condition."""
    profile = load_profile(condition.profile.sha256)
    return ConditionFacts(
        name=condition.name,
        profile=condition.profile.sha256,
        inks=channel_names(profile.colour_space),
        tac=float(condition.ink_rules.get("tac", 400)),
        process=condition.process,
        mirror=condition.mirror,
        ticket=condition.ticket,
    )


def expose_paper() -> PrintingCondition:
    """The demo's photographic process: an exposure unit that takes RGB of a standard space."""
    made, _ = PrintingCondition.objects.get_or_create(
        key="photo-paper",
        defaults={
            "name": "Photographic paper",
            "printer": "Laser exposure unit",
            "medium": "Silver halide paper, glossy",
            "process": "photographic",
            "profile": store_profile(standard_profile("p3").data, "standard"),
            "ink_rules": {"tac": 300},
            "ticket": {"media": "Silver halide paper, glossy", "passes": 1},
        },
    )
    return made
