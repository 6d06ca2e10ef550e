package harbour.quayside.dues;

import harbour.quayside.domain.HarbourDue;

/** Words the reminder for dues that are still open. */
public class Reminder {
    public String text(HarbourDue due) {
        return due.callSign() + " owes " + due.amount().hundredths() / 100;
    }
}
