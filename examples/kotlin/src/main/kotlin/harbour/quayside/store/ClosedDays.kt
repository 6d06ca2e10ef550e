package harbour.quayside.store

import java.io.File
import java.time.LocalDate

object ClosedDays {
    fun all(): Set<LocalDate> = File("closed.txt").readLines().map(LocalDate::parse).toSet()
}
