"""What history teaches."""

from core.learning.durations import Learned, OwnPace, learn

__all__ = ["Learned", "OwnPace", "learn"]
