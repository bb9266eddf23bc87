"""ICC profile codec: header, tags, curves and tables; read, check and write (v2 and v4)."""

from plinto_core.icc.check import Problem, check_profile
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import CHANNELS, channel_names, space_of_channels
from plinto_core.icc.write import write_profile

__all__ = [
    "CHANNELS",
    "Problem",
    "Profile",
    "channel_names",
    "check_profile",
    "space_of_channels",
    "write_profile",
]
