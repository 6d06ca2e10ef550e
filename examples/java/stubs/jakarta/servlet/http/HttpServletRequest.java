package jakarta.servlet.http;

/** Stands in for the servlet library. */
public interface HttpServletRequest {
    String getParameter(String name);
}
