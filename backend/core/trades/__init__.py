"""What companies of a trade begin with: job types to tick, with the skills and certificates they ask for."""

from core.trades.model import StarterJob, Trade
from core.trades.sets import TRADES, starter_jobs

__all__ = ["TRADES", "StarterJob", "Trade", "starter_jobs"]
