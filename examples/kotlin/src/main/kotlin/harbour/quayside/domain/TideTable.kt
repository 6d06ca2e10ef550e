package harbour.quayside.domain

import java.sql.DriverManager

object TideTable {
    fun highWater(day: String): Double =
        DriverManager.getConnection("jdbc:h2:tides").use { db ->
            val found = db.prepareStatement("select height from tide where day = ?")
            found.setString(1, day)
            found.executeQuery().run { next(); getDouble(1) }
        }
}
