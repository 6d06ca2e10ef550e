package harbour.quayside.domain;

import java.time.LocalDate;
import java.time.temporal.ChronoUnit;

/** The days from arrival to departure. */
public record Stay(LocalDate arrival, LocalDate departure) {
    public Stay {
        if (departure.isBefore(arrival)) {
            throw new HarbourException("departure before arrival");
        }
    }

    public long nights() {
        return ChronoUnit.DAYS.between(arrival, departure);
    }

    public boolean overlaps(Stay other) {
        return arrival.isBefore(other.departure) && other.arrival.isBefore(departure);
    }
}
