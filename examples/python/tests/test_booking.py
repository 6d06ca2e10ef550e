from datetime import date

from quayside.domain import Berth, Booking


def test_nights() -> None:
    assert Booking(Berth(1, 3.0), "Heron", date(2026, 5, 1), date(2026, 5, 3)).nights() == 2
