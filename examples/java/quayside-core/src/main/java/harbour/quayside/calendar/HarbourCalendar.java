package harbour.quayside.calendar;

import harbour.quayside.store.ClosedDays;
import java.time.LocalDate;

/** Knows on which days the harbour is closed. */
public class HarbourCalendar {
    private final ClosedDays days = new ClosedDays();

    public boolean closed(LocalDate day) {
        return days.contains(day);
    }
}
