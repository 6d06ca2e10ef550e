package harbour.quayside.domain;

import java.util.List;

/** What the inside asks of any store. */
public interface Bookings {
    List<Berth> of(String vessel);
}
