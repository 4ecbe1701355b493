"""Chance."""

import numpy as np

from core.scheduling.engine.kernels.compiled import inlined


@inlined
def chance(dice):
    """Uniform in [0, 1): xorshift64 (Marsaglia, Journal of Statistical Software 8(14), 2003)."""
    x = dice[0]
    x ^= x << np.uint64(13)
    x ^= x >> np.uint64(7)
    x ^= x << np.uint64(17)
    dice[0] = x
    return float(x >> np.uint64(11)) * (1.0 / 9007199254740992.0)
