package harbour.quayside.domain;

/** A berth taken by a vessel for a stay. */
public class BerthBooking {
    /** Where a booking stands. */
    public enum State { ASKED, CONFIRMED, CANCELLED }

    private final Vessel vessel;
    private final BerthId berth;
    private final Stay stay;
    private State state = State.ASKED;

    public BerthBooking(Vessel vessel, BerthId berth, Stay stay) {
        this.vessel = vessel;
        this.berth = berth;
        this.stay = stay;
    }

    public void confirm() {
        if (state == State.CANCELLED) {
            throw new HarbourException("a cancelled booking stays cancelled");
        }
        state = State.CONFIRMED;
    }

    public void cancel() {
        state = State.CANCELLED;
    }

    public State state() {
        return state;
    }

    public Vessel vessel() {
        return vessel;
    }

    public BerthId berth() {
        return berth;
    }

    public Stay stay() {
        return stay;
    }
}
