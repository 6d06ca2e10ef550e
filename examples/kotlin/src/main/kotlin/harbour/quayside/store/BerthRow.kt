package harbour.quayside.store

class BerthRow(val number: Int, val depth: Double)
