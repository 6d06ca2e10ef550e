from quayside.store.bookings import SqliteBookings


def bookings() -> SqliteBookings:
    return SqliteBookings("quayside.db")
