package harbour.quayside.booking;

import harbour.quayside.domain.Berth;
import harbour.quayside.domain.Vessel;
import java.time.LocalDate;
import java.util.List;

/** Finds berths that a vessel can reach. */
public class FindBerth {
    private final Berths berths;
    private final Tides tides;

    public FindBerth(Berths berths, Tides tides) {
        this.berths = berths;
        this.tides = tides;
    }

    public List<Berth> reachable(Vessel vessel, LocalDate day) {
        return berths.all().stream().filter(b -> b.takes(vessel, tides.lowest(day))).toList();
    }
}
