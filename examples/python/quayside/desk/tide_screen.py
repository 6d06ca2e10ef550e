from quayside.store.bookings import SqliteBookings


def show(vessel: str) -> str:
    return "\n".join(str(b) for b in SqliteBookings("quayside.db").of(vessel))
