package harbour.quayside.booking;

import harbour.quayside.domain.Berth;
import harbour.quayside.domain.BerthBooking;
import harbour.quayside.domain.BerthPlan;
import harbour.quayside.domain.HarbourException;
import harbour.quayside.domain.Stay;
import harbour.quayside.domain.Vessel;
import harbour.quayside.main.Registry;

/** Takes and cancels bookings. */
public class BookingService {
    private final Berths berths;
    private final Bookings bookings;
    private final Vessels vessels;
    private final Tides tides;
    private final Notices notices;

    public BookingService(Berths berths, Bookings bookings, Vessels vessels, Tides tides, Notices notices) {
        this.berths = berths;
        this.bookings = bookings;
        this.vessels = vessels;
        this.tides = tides;
        this.notices = notices;
    }

    public BerthBooking book(String callSign, Stay stay) {
        Vessel vessel = vessels.byCallSign(callSign)
            .orElseThrow(() -> new HarbourException("unknown vessel " + callSign));
        BerthPlan plan = new BerthPlan(bookings.during(stay));
        Berth berth = berths.all().stream()
            .filter(b -> b.takes(vessel, tides.lowest(stay.arrival())))
            .filter(b -> plan.free(b.id(), stay))
            .findFirst()
            .orElseThrow(() -> new HarbourException("no berth is free"));
        BerthBooking booking = new BerthBooking(vessel, berth.id(), stay);
        booking.confirm();
        bookings.save(booking);
        notices.send(vessel, "berth " + berth.id().number());
        return booking;
    }

    public void cancel(BerthBooking booking) {
        booking.cancel();
        bookings.save(booking);
        Registry.notices().send(booking.vessel(), "cancelled");
    }
}
