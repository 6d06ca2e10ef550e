package harbour.quayside.store;

import harbour.quayside.booking.Vessels;
import harbour.quayside.domain.Draught;
import harbour.quayside.domain.Vessel;
import harbour.quayside.domain.VesselClass;
import java.util.Optional;

public class JdbcVessels extends JdbcTable implements Vessels {
    public JdbcVessels(ConnectionSource source) {
        super(source);
    }

    @Override
    public Optional<Vessel> byCallSign(String callSign) {
        return select("SELECT call_sign, kind, draught_cm FROM vessel WHERE call_sign = ?",
            r -> new Vessel(r.getString(1), VesselClass.valueOf(r.getString(2)), new Draught(r.getInt(3))), callSign)
            .stream().findFirst();
    }
}
