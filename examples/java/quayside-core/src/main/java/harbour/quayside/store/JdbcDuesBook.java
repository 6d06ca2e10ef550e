package harbour.quayside.store;

import harbour.quayside.domain.HarbourDue;
import harbour.quayside.domain.Money;
import harbour.quayside.domain.Stay;
import harbour.quayside.dues.DuesBook;
import java.util.List;

public class JdbcDuesBook extends JdbcTable implements DuesBook {
    public JdbcDuesBook(ConnectionSource source) {
        super(source);
    }

    @Override
    public void enter(HarbourDue due) {
        update("INSERT INTO due VALUES (?, ?, ?, ?)", due.callSign(), due.stay().arrival(), due.stay().departure(),
            due.amount().hundredths());
    }

    @Override
    public List<HarbourDue> of(String callSign) {
        return select("SELECT arrival, departure, amount FROM due WHERE call_sign = ?",
            r -> new HarbourDue(callSign, new Stay(r.getDate(1).toLocalDate(), r.getDate(2).toLocalDate()), new Money(r.getLong(3))),
            callSign);
    }
}
