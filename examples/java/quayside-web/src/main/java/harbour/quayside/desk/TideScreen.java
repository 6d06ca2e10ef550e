package harbour.quayside.desk;

import harbour.quayside.domain.Tide;
import harbour.quayside.store.JdbcTides;
import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.LocalDate;

/** The board with the day's tides. */
public class TideScreen extends HttpServlet {
    private final JdbcTides tides;

    public TideScreen(JdbcTides tides) {
        this.tides = tides;
    }

    @Override
    protected void doGet(HttpServletRequest request, HttpServletResponse response) throws IOException {
        for (Tide t : tides.on(LocalDate.now())) {
            response.getWriter().println(Html.row(t.at(), t.level()));
        }
    }
}
