package harbour.quayside.desk

import harbour.quayside.store.JdbcBookings

class TideScreen(private val bookings: JdbcBookings) {
    fun show(vessel: String) = bookings.of(vessel).joinToString("\n") { it.vessel }
}
