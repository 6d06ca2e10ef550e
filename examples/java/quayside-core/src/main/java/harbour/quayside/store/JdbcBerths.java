package harbour.quayside.store;

import harbour.quayside.booking.Berths;
import harbour.quayside.domain.Berth;
import harbour.quayside.domain.BerthId;
import java.util.List;
import java.util.Optional;

public class JdbcBerths extends JdbcTable implements Berths {
    public JdbcBerths(ConnectionSource source) {
        super(source);
    }

    @Override
    public List<Berth> all() {
        return select("SELECT number, depth_cm FROM berth", r -> Berth.of(new BerthRow(r.getInt(1), r.getInt(2))));
    }

    @Override
    public Optional<Berth> find(BerthId id) {
        return all().stream().filter(b -> b.id().equals(id)).findFirst();
    }
}
