package harbour.quayside.desk;

import harbour.quayside.domain.BerthBooking;
import harbour.quayside.domain.HarbourDue;
import harbour.quayside.dues.DuesService;
import harbour.quayside.dues.Reminder;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;

/** The page that charges a stay. */
public class DuesServlet extends HttpServlet {
    private final DuesService dues;
    private final Reminder reminder = new Reminder();

    public DuesServlet(DuesService dues) {
        this.dues = dues;
    }

    void charge(BerthBooking booking, HttpServletResponse response) throws IOException {
        HarbourDue due = dues.charge(booking);
        response.getWriter().println(Html.text(reminder.text(due)));
    }
}
