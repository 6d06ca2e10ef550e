def nights(rows) -> int:
    return sum(leaves - arrives for arrives, leaves in rows)
