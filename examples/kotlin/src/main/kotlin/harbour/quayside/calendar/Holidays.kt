package harbour.quayside.calendar

import harbour.quayside.store.ClosedDays
import java.time.LocalDate

fun LocalDate.isClosed() = this in ClosedDays.all()
