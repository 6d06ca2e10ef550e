from dataclasses import dataclass
from datetime import date

from .berth import Berth


@dataclass(frozen=True)
class Booking:
    berth: Berth
    vessel: str
    arrives: date
    leaves: date

    def nights(self) -> int:
        return (self.leaves - self.arrives).days
