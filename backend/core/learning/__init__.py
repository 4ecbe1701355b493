"""What history teaches."""

from core.learning.durations import Learned, learn

__all__ = ["Learned", "learn"]
