package harbour.quayside.desk;

import harbour.quayside.booking.BookingService;
import harbour.quayside.domain.BerthBooking;
import harbour.quayside.domain.HarbourException;
import harbour.quayside.domain.Stay;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.LocalDate;

/** The page on which berths are booked. */
public class BookingServlet extends HttpServlet {
    private final BookingService service;

    public BookingServlet(BookingService service) {
        this.service = service;
    }

    @Override
    protected void doPost(HttpServletRequest request, HttpServletResponse response) throws IOException {
        Stay stay = new Stay(LocalDate.parse(request.getParameter("arrival")), LocalDate.parse(request.getParameter("departure")));
        try {
            BerthBooking booking = service.book(request.getParameter("vessel"), stay);
            response.getWriter().println(Html.row(booking.berth().number(), booking.state()));
        } catch (HarbourException e) {
            response.getWriter().println(Html.text(e.getMessage()));
        }
    }
}
