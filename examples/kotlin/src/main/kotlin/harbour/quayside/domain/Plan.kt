package harbour.quayside.domain

import harbour.quayside.calendar.isClosed
import java.time.LocalDate

fun freeDays(days: List<LocalDate>) = days.filterNot { it.isClosed() }
