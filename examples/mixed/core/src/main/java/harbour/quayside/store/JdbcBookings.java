package harbour.quayside.store;

import harbour.quayside.domain.Berth;
import harbour.quayside.domain.Bookings;
import java.util.List;

public class JdbcBookings implements Bookings {
    @Override
    public List<Berth> of(String vessel) {
        return List.of();
    }
}
