package harbour.quayside.domain

/** What the inside asks of any store. */
interface Bookings {
    fun add(booking: Booking)
    fun of(vessel: String): List<Booking>
}
