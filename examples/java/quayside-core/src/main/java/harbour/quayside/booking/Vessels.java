package harbour.quayside.booking;

import harbour.quayside.domain.Vessel;
import java.util.Optional;

/** The vessels that the harbour knows. */
public interface Vessels {
    Optional<Vessel> byCallSign(String callSign);
}
