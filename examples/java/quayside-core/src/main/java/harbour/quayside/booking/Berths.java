package harbour.quayside.booking;

import harbour.quayside.domain.Berth;
import harbour.quayside.domain.BerthId;
import java.util.List;
import java.util.Optional;

/** The harbour's berths, wherever they are kept. */
public interface Berths {
    List<Berth> all();

    Optional<Berth> find(BerthId id);
}
