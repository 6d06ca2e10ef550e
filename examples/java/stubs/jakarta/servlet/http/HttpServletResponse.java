package jakarta.servlet.http;

import java.io.IOException;
import java.io.PrintWriter;

/** Stands in for the servlet library. */
public interface HttpServletResponse {
    PrintWriter getWriter() throws IOException;
}
