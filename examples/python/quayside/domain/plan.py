from datetime import date

from quayside.calendar.holidays import is_closed


def free_days(days: list[date]) -> list[date]:
    return [d for d in days if not is_closed(d)]
