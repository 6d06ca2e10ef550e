package harbour.quayside.store

import harbour.quayside.domain.Booking
import harbour.quayside.domain.Bookings
import java.sql.Connection

class JdbcBookings(private val db: Connection) : Bookings {
    override fun add(booking: Booking) {
        db.prepareStatement("insert into booking values (?)").apply { setString(1, booking.vessel) }.execute()
    }

    override fun of(vessel: String): List<Booking> = emptyList()
}
