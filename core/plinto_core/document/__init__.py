"""PDF documents: what is in them, and output policies applied to them."""

from plinto_core.document.rules.policy import OutputPolicy, parse_policy, template
from plinto_core.document.runs.picture_policy import dry_run_on_picture, run_policy_on_picture
from plinto_core.document.runs.run import dry_run, inventory, run_policy
from plinto_core.errors import PolicyStop

__all__ = [
    "OutputPolicy",
    "PolicyStop",
    "dry_run",
    "dry_run_on_picture",
    "inventory",
    "parse_policy",
    "run_policy",
    "run_policy_on_picture",
    "template",
]
