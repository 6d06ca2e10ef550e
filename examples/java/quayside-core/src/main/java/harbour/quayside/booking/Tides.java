package harbour.quayside.booking;

import harbour.quayside.domain.Tide;
import java.time.LocalDate;

/** The tides to come. */
public interface Tides {
    Tide lowest(LocalDate day);
}
