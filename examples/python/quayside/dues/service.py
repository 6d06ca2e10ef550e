from quayside.main import registry


def dues_of(vessel: str) -> int:
    return sum(b.nights() * 1200 for b in registry.bookings().of(vessel))
