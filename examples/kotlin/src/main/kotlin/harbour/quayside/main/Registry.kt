package harbour.quayside.main

import harbour.quayside.store.JdbcBookings
import java.sql.DriverManager

object Registry {
    val bookings by lazy { JdbcBookings(DriverManager.getConnection("jdbc:h2:quayside")) }
}
