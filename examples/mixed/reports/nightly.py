import sqlite3

from figures import nights


def run() -> int:
    with sqlite3.connect("quayside.db") as db:
        return nights(db.execute("select arrives, leaves from booking"))
