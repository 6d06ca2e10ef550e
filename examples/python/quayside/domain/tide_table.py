import sqlite3


def high_water(day: str) -> float:
    with sqlite3.connect("tides.db") as db:
        return db.execute("select height from tide where day = ?", (day,)).fetchone()[0]
