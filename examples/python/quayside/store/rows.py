from typing import NamedTuple


class BerthRow(NamedTuple):
    number: int
    depth: float
