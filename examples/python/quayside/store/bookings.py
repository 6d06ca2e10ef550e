import sqlite3

from quayside.domain.booking import Booking
from quayside.domain.ports import Bookings


class SqliteBookings(Bookings):
    def __init__(self, path: str) -> None:
        self._db = sqlite3.connect(path)

    def add(self, booking: Booking) -> None:
        self._db.execute("insert into booking values (?, ?)", (booking.vessel, booking.arrives))

    def of(self, vessel: str) -> list[Booking]:
        return self._db.execute("select * from booking where vessel = ?", (vessel,)).fetchall()
