"""Make the demo's printing conditions: print a chart, measure it, build the profile."""

from __future__ import annotations

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.simulator import SimulatedCondition, measure_chart
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.profiles.services import store_profile


def characterise_simulated(simulated: SimulatedCondition) -> PrintingCondition:
    """The condition with a profile built from a simulated chart; built once."""
    existing = PrintingCondition.objects.filter(key=simulated.key).first()
    if existing is not None:
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
    )
