from abc import ABC, abstractmethod

from .booking import Booking


class Bookings(ABC):
    @abstractmethod
    def add(self, booking: Booking) -> None: ...

    @abstractmethod
    def of(self, vessel: str) -> list[Booking]: ...
