"""Server time of what a user waits for while working: views, figures and readouts.

Usage: python benchmarks/preview.py     (needs the demo data: make demo once)
Prints median and 90th percentile in milliseconds, in process, for one pane of a 1280x800 window.
"""

from __future__ import annotations

import os
import statistics
import time

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "plinto_server.config.settings")
import django

django.setup()

from plinto_core.recipes import parse_recipe  # noqa: E402
from plinto_core.warm_up import warm_up  # noqa: E402
from plinto_server.apps.jobs import figures, ink_figures, links, rendering, services  # noqa: E402
from plinto_server.apps.jobs.models import Destination  # noqa: E402

PANE = (490, 540)


def report(label: str, works) -> None:
    spent = []
    for work in works:
        began = time.perf_counter()
        work()
        spent.append((time.perf_counter() - began) * 1000)
    spent.sort()
    print(f"{label:48} {statistics.median(spent):7.0f} {spent[int(len(spent) * 0.9)]:7.0f}")


def main() -> None:
    destination = Destination.objects.select_related("job__artwork", "condition__profile").first()
    if destination is None:
        raise SystemExit("No demo data: run make demo once.")
    warm_up()
    facts = destination.job.artwork.facts
    box = (0.0, 0.0, float(facts["width"]), float(facts["height"]))
    saved = parse_recipe(destination.recipe)
    look = links.ProofLook()

    def proof(recipe, veil=None, region=box):
        shown = links.ProofLook(veil=veil) if veil else look
        return lambda: rendering.render_proof(destination, recipe, shown, region, *PANE)

    def ruled(tac, strength):
        black = {"method": "gcr", "strength": strength, "start": 20, "limit": 98}
        return services.merged(destination, {"ink_rules": {"tac": tac, "black": black}})

    proof(saved)()
    proof(ruled(390, 1))()
    links.gamut_link(links.route_of(destination, saved))
    print(
        f"{os.cpu_count()} processors; {destination.job.name}, pane {PANE[0]}x{PANE[1]}; median and 90 % in ms"
    )
    report(
        "pan or zoom, link known",
        [proof(saved, region=(x, 50.0, 900.0, 700.0)) for x in map(float, range(25))],
    )
    intents = [
        services.merged(destination, {"intent": i, "bpc": b})
        for i in ("relative", "saturation", "absolute", "perceptual")
        for b in (True, False)
    ]
    report("switch of intent or BPC, link new", [proof(r) for r in intents])
    report("TAC moves, every node separated anew", [proof(ruled(200 + t, 50)) for t in range(25)])
    report("GCR strength moves, separated anew", [proof(ruled(300, s)) for s in range(30, 55)])
    report("veil, known", [proof(saved, veil=(1, 2, 3)) for _ in range(10)])
    report(
        "readout at the pointer, exact",
        [lambda i=i: figures.readout(destination, saved, 10 * i, 7 * i) for i in range(25)],
    )
    report(
        "readout, separated anew",
        [
            lambda i=i: figures.readout(destination, ruled(250, 50), 10 * i, 7 * i)
            for i in range(25)
        ],
    )
    report(
        "grey axis of the separation",
        [lambda t=t: ink_figures.neutral_axis(destination, ruled(220 + t, 50)) for t in range(15)],
    )
    report(
        "highest TAC over every pixel",
        [lambda t=t: ink_figures.ink_figures(destination, ruled(230 + t, 45)) for t in range(5)],
    )
    report(
        "hue ramp of the separation",
        [
            lambda t=t: ink_figures.hue_ramp(destination, ruled(220 + t, 50), 30.0)
            for t in range(15)
        ],
    )
    report(
        "darkest black and gamut volume",
        [lambda t=t: ink_figures.ink_limits(destination, ruled(200 + t, 50)) for t in range(15)],
    )

    def changed(**parts):
        return services.merged(destination, parts)

    corners = [[10, 10], [70, 20], [60, 80], [20, 70]]
    curve = [[0, 0], [50, 55], [100, 100]]
    proof(changed(corrections=[{"lightness": 1}]))()
    report(
        "lightness of a correction moves, everywhere",
        [proof(changed(corrections=[{"lightness": v}])) for v in range(2, 27)],
    )
    report(
        "curve point moves, everywhere",
        [
            proof(changed(corrections=[{"curves": {"master": [[0, 0], [50, v], [100, 100]]}}]))
            for v in range(30, 55)
        ],
    )
    report(
        "hue turns, everywhere",
        [
            proof(changed(corrections=[{"hues": [{"hue": 200, "shift": v}]}]))
            for v in range(-12, 13)
        ],
    )
    proof(changed(corrections=[{"lightness": 50, "region": {"corners": corners}}]))()
    report(
        "lightness moves in a soft region",
        [
            proof(
                changed(
                    corrections=[{"lightness": v, "region": {"corners": corners, "softness": 10}}]
                )
            )
            for v in range(2, 27)
        ],
    )
    rules = {"tac": 300, "black": {"method": "gcr"}}
    report(
        "the same, separated anew",
        [
            proof(
                changed(
                    ink_rules=rules,
                    corrections=[{"lightness": v, "region": {"corners": corners, "softness": 10}}],
                )
            )
            for v in range(2, 17)
        ],
    )
    report(
        "black remade in a region, limit moves",
        [
            proof(
                changed(
                    ink_rules=rules,
                    corrections=[
                        {"region": {"corners": corners}, "black": {"method": "gcr", "limit": v}}
                    ],
                )
            )
            for v in range(40, 55)
        ],
    )
    report(
        "vivid strength moves",
        [proof(changed(vivid={"space": "stretch", "strength": v})) for v in range(10, 35)],
    )
    report(
        "curve of a plate moves",
        [
            proof(changed(plates={"K": {"curve": [[0, 0], [50, v], [100, 100]]}}))
            for v in range(40, 60)
        ],
    )
    report(
        "least dot moves",
        [proof(changed(plates={"K": {"minimum": v / 2, "curve": curve}})) for v in range(2, 22)],
    )
    shown = links.ProofLook(screen_veil=(1, 2, 3))
    report(
        "what the screen cannot show, first and then known",
        [lambda: rendering.render_proof(destination, saved, shown, box, *PANE) for _ in range(10)],
    )
    report(
        "twenty sample points",
        [
            lambda i=i: figures.readouts(
                destination, saved, [(40 * k + i, 30 * k) for k in range(20)]
            )
            for i in range(10)
        ],
    )
    report(
        "figures of four intents",
        [lambda: figures.intent_figures(destination, saved) for _ in range(5)],
    )


if __name__ == "__main__":
    main()
