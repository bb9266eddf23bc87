"""Proof prints: one press shown by another printer, with a strip that is read and judged."""

from plinto_core.proofs.judging import Judgement, judge
from plinto_core.proofs.making import ProofReport, ProofSettings, parse_proof_settings
from plinto_core.proofs.tolerances import STARTING_SETS, ProofTolerances, parse_tolerances

__all__ = [
    "STARTING_SETS",
    "Judgement",
    "ProofReport",
    "ProofSettings",
    "ProofTolerances",
    "judge",
    "parse_proof_settings",
    "parse_tolerances",
]
