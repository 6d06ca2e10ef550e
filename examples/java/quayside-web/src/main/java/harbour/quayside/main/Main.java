package harbour.quayside.main;

import harbour.quayside.booking.BookingService;
import harbour.quayside.booking.FindBerth;
import harbour.quayside.desk.BerthServlet;
import harbour.quayside.desk.BookingServlet;
import harbour.quayside.desk.DuesServlet;
import harbour.quayside.desk.TideScreen;
import harbour.quayside.domain.Money;
import harbour.quayside.domain.Tariff;
import harbour.quayside.dues.DuesService;
import harbour.quayside.radio.MarineRadio;
import harbour.quayside.radio.RadioNotices;
import harbour.quayside.store.ConnectionSource;
import harbour.quayside.store.JdbcBerths;
import harbour.quayside.store.JdbcBookings;
import harbour.quayside.store.JdbcDuesBook;
import harbour.quayside.store.JdbcTides;
import harbour.quayside.store.JdbcVessels;
import java.sql.DriverManager;

/** Puts the harbour office together. */
public final class Main {
    private Main() {
    }

    public static void main(String[] args) {
        ConnectionSource source = () -> DriverManager.getConnection(args[0]);
        MarineRadio radio = new MarineRadio(12);
        JdbcVessels vessels = new JdbcVessels(source);
        JdbcTides tides = new JdbcTides(source);
        JdbcBerths berths = new JdbcBerths(source);
        RadioNotices notices = new RadioNotices(radio);
        Registry.notices(notices);
        BookingService booking = new BookingService(berths, new JdbcBookings(source, vessels, radio), vessels, tides, notices);
        DuesService dues = new DuesService(new JdbcDuesBook(source), new Tariff(new Money(1250)));
        new BookingServlet(booking);
        new BerthServlet(new FindBerth(berths, tides), vessels);
        new DuesServlet(dues);
        new TideScreen(tides);
    }
}
