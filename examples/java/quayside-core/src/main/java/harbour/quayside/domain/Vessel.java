package harbour.quayside.domain;

/** A vessel that calls at the harbour. */
public class Vessel {
    private final String callSign;
    private final VesselClass kind;
    private final Draught draught;

    public Vessel(String callSign, VesselClass kind, Draught draught) {
        this.callSign = callSign;
        this.kind = kind;
        this.draught = draught;
    }

    public String callSign() {
        return callSign;
    }

    public VesselClass kind() {
        return kind;
    }

    public Draught draught() {
        return draught;
    }
}
