from dataclasses import dataclass

from quayside.store.rows import BerthRow


@dataclass(frozen=True)
class Berth:
    number: int
    depth: float

    @classmethod
    def from_row(cls, row: BerthRow) -> "Berth":
        return cls(row.number, row.depth)

    def takes(self, draught: float) -> bool:
        return self.depth - draught >= 0.5
