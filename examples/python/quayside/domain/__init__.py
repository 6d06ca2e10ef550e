"""What the harbour is about."""
from .berth import Berth
from .booking import Booking

__all__ = ["Berth", "Booking"]
