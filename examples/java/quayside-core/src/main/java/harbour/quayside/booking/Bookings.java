package harbour.quayside.booking;

import harbour.quayside.domain.BerthBooking;
import harbour.quayside.domain.Stay;
import java.util.List;

/** All bookings, wherever they are kept. */
public interface Bookings {
    List<BerthBooking> during(Stay stay);

    void save(BerthBooking booking);
}
