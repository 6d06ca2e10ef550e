from quayside.domain import Booking
from quayside.domain.ports import Bookings


class BookingService:
    def __init__(self, bookings: Bookings) -> None:
        self._bookings = bookings

    def book(self, booking: Booking) -> None:
        if booking.nights() < 1:
            raise ValueError("a booking is for one night at least")
        self._bookings.add(booking)
