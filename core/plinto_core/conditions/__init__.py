"""Printing conditions as data: what they are, what a profile proposes for one, and as a file."""

from plinto_core.conditions.file import pack_condition, unpack_condition
from plinto_core.conditions.model import (
    PROCESSES,
    ConditionTicket,
    PrintingCondition,
    parse_condition,
)
from plinto_core.conditions.proposal import Proposal, propose

__all__ = [
    "PROCESSES",
    "ConditionTicket",
    "PrintingCondition",
    "Proposal",
    "pack_condition",
    "parse_condition",
    "propose",
    "unpack_condition",
]
