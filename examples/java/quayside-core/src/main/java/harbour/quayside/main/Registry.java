package harbour.quayside.main;

import harbour.quayside.booking.Notices;

/** Where the wiring leaves what it made. */
public final class Registry {
    private static Notices notices;

    private Registry() {
    }

    public static void notices(Notices n) {
        notices = n;
    }

    public static Notices notices() {
        return notices;
    }
}
