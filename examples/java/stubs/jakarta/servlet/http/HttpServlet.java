package jakarta.servlet.http;

import java.io.IOException;

/** Stands in for the servlet library, so that the demo compiles alone. */
public abstract class HttpServlet {
    protected void doGet(HttpServletRequest request, HttpServletResponse response) throws IOException {
    }

    protected void doPost(HttpServletRequest request, HttpServletResponse response) throws IOException {
    }
}
