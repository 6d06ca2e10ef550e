package harbour.quayside.desk;

/** Writes harmless HTML. */
final class Html {
    private Html() {
    }

    static String text(Object o) {
        return String.valueOf(o).replace("&", "&amp;").replace("<", "&lt;");
    }

    static String row(Object... cells) {
        StringBuilder b = new StringBuilder("<tr>");
        for (Object c : cells) {
            b.append("<td>").append(text(c)).append("</td>");
        }
        return b.append("</tr>").toString();
    }
}
