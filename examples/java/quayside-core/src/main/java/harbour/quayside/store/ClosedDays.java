package harbour.quayside.store;

import java.time.LocalDate;
import java.util.HashSet;
import java.util.Set;

/** The days on which the harbour is closed, from a file beside the database. */
public class ClosedDays {
    private final Set<LocalDate> days = new HashSet<>();

    public boolean contains(LocalDate day) {
        return days.contains(day);
    }
}
