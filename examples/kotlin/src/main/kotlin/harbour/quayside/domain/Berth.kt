package harbour.quayside.domain

import harbour.quayside.store.BerthRow

data class Berth(val number: Int, val depth: Double) {
    fun takes(draught: Double) = depth - draught >= 0.5

    companion object {
        fun fromRow(row: BerthRow) = Berth(row.number, row.depth)
    }
}
