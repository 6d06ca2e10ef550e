package harbour.quayside.booking

import harbour.quayside.domain.Bookings
import harbour.quayside.store.JdbcBookings

class BookingService(private val bookings: Bookings = JdbcBookings()) {
    fun count(vessel: String) = bookings.of(vessel).size
}
