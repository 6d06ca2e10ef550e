package harbour.quayside.dues;

import harbour.quayside.domain.BerthBooking;
import harbour.quayside.domain.HarbourDue;
import harbour.quayside.domain.Tariff;
import harbour.quayside.store.DueRow;
import java.util.List;

/** Charges harbour dues. */
public class DuesService {
    private final DuesBook book;
    private final Tariff tariff;

    public DuesService(DuesBook book, Tariff tariff) {
        this.book = book;
        this.tariff = tariff;
    }

    public HarbourDue charge(BerthBooking booking) {
        HarbourDue due = tariff.due(booking.vessel(), booking.stay());
        book.enter(due);
        return due;
    }

    /** The rows as the table has them, for the monthly list. */
    public List<DueRow> monthlyRows(String callSign) {
        return book.of(callSign).stream()
            .map(d -> new DueRow(d.callSign(), d.amount().hundredths()))
            .toList();
    }
}
