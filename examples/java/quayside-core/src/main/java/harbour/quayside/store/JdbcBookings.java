package harbour.quayside.store;

import harbour.quayside.booking.Bookings;
import harbour.quayside.booking.Vessels;
import harbour.quayside.domain.BerthBooking;
import harbour.quayside.domain.BerthId;
import harbour.quayside.domain.Stay;
import harbour.quayside.radio.MarineRadio;
import java.util.List;

public class JdbcBookings extends JdbcTable implements Bookings {
    private final Vessels vessels;
    private final MarineRadio radio;

    public JdbcBookings(ConnectionSource source, Vessels vessels, MarineRadio radio) {
        super(source);
        this.vessels = vessels;
        this.radio = radio;
    }

    @Override
    public List<BerthBooking> during(Stay stay) {
        return select("SELECT call_sign, berth, arrival, departure FROM booking WHERE arrival < ? AND departure > ?",
            r -> new BerthBooking(vessels.byCallSign(r.getString(1)).orElseThrow(), new BerthId(r.getInt(2)),
                new Stay(r.getDate(3).toLocalDate(), r.getDate(4).toLocalDate())),
            stay.departure(), stay.arrival());
    }

    @Override
    public void save(BerthBooking booking) {
        update("INSERT INTO booking VALUES (?, ?, ?, ?)", booking.vessel().callSign(), booking.berth().number(),
            booking.stay().arrival(), booking.stay().departure());
        radio.say(booking.vessel().callSign(), "your booking is written down");
    }
}
