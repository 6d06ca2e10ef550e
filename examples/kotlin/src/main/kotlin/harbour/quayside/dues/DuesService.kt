package harbour.quayside.dues

import harbour.quayside.main.Registry

class DuesService {
    fun of(vessel: String) = Registry.bookings.of(vessel).sumOf { it.nights * 1200 }
}
