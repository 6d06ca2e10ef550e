package harbour.quayside.desk

import harbour.quayside.booking.BookingService
import io.ktor.server.application.Application
import io.ktor.server.application.call
import io.ktor.server.response.respondText
import io.ktor.server.routing.get
import io.ktor.server.routing.routing

fun Application.bookings(service: BookingService) = routing {
    get("/bookings/{vessel}") {
        call.respondText(service.of(call.parameters["vessel"]!!).joinToString())
    }
}
