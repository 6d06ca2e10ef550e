package harbour.quayside.domain;

import java.time.LocalDate;

/** Run by hand: no test library is needed to compile the demo. */
final class StayTest {
    public static void main(String[] args) {
        LocalDate day = LocalDate.of(2026, 5, 1);
        if (new Stay(day, day.plusDays(3)).nights() != 3) {
            throw new AssertionError("three nights");
        }
    }
}
