package harbour.quayside.store;

import harbour.quayside.booking.Tides;
import harbour.quayside.domain.Tide;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;

public class JdbcTides extends JdbcTable implements Tides {
    public JdbcTides(ConnectionSource source) {
        super(source);
    }

    @Override
    public Tide lowest(LocalDate day) {
        return on(day).stream().min(Comparator.comparingInt(Tide::level)).orElse(new Tide(day.atStartOfDay(), 0));
    }

    public List<Tide> on(LocalDate day) {
        return select("SELECT at, level FROM tide WHERE day = ?",
            r -> new Tide(r.getTimestamp(1).toLocalDateTime(), r.getInt(2)), day);
    }
}
