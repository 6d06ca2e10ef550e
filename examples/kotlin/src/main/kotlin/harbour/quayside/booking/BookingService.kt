package harbour.quayside.booking

import harbour.quayside.domain.Booking
import harbour.quayside.domain.Bookings

class BookingService(private val bookings: Bookings) {
    fun book(booking: Booking) {
        require(booking.nights >= 1) { "a booking is for one night at least, not ${booking.nights}" }
        bookings.add(booking)
    }

    fun of(vessel: String): List<Booking> = bookings.of(vessel)
}
