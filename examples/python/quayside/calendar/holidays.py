from datetime import date

from quayside.store import closed_days


def is_closed(day: date) -> bool:
    return day in closed_days.load()
