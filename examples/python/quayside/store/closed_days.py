from datetime import date
from pathlib import Path


def load() -> set[date]:
    return {date.fromisoformat(l) for l in Path("closed.txt").read_text().split()}
