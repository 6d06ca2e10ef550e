package harbour.quayside.domain

import java.time.LocalDate
import java.time.temporal.ChronoUnit

data class Booking(val berth: Berth, val vessel: String, val arrives: LocalDate, val leaves: LocalDate) {
    val nights: Long get() = ChronoUnit.DAYS.between(arrives, leaves)
}
