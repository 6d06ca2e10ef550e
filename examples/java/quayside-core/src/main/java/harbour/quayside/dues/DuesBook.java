package harbour.quayside.dues;

import harbour.quayside.domain.HarbourDue;
import java.util.List;

/** What was charged, wherever it is kept. */
public interface DuesBook {
    void enter(HarbourDue due);

    List<HarbourDue> of(String callSign);
}
