package harbour.quayside.desk;

import harbour.quayside.booking.FindBerth;
import harbour.quayside.booking.Vessels;
import harbour.quayside.domain.Berth;
import harbour.quayside.domain.Vessel;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.LocalDate;

/** The page that lists berths for a vessel. */
public class BerthServlet extends HttpServlet {
    private final FindBerth find;
    private final Vessels vessels;

    public BerthServlet(FindBerth find, Vessels vessels) {
        this.find = find;
        this.vessels = vessels;
    }

    @Override
    protected void doGet(HttpServletRequest request, HttpServletResponse response) throws IOException {
        Vessel vessel = vessels.byCallSign(request.getParameter("vessel")).orElseThrow();
        for (Berth b : find.reachable(vessel, LocalDate.now())) {
            response.getWriter().println(Html.row(b.id().number()));
        }
    }
}
