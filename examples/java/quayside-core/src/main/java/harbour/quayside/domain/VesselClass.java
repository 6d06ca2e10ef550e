package harbour.quayside.domain;

/** What a vessel is, for the tariff. */
public enum VesselClass {
    DINGHY(1), YACHT(3), TRAWLER(5), COASTER(9);

    private final int factor;

    VesselClass(int factor) {
        this.factor = factor;
    }

    public int factor() {
        return factor;
    }
}
