package harbour.quayside.domain;

import harbour.quayside.calendar.HarbourCalendar;
import java.util.List;

/** Which berths are free, day by day. */
public class BerthPlan {
    private final List<BerthBooking> bookings;
    private final HarbourCalendar calendar = new HarbourCalendar();

    public BerthPlan(List<BerthBooking> bookings) {
        this.bookings = List.copyOf(bookings);
    }

    public boolean free(BerthId berth, Stay stay) {
        if (calendar.closed(stay.arrival())) {
            return false;
        }
        return bookings.stream()
            .filter(b -> b.berth().equals(berth) && b.state() != BerthBooking.State.CANCELLED)
            .noneMatch(b -> b.stay().overlaps(stay));
    }
}
