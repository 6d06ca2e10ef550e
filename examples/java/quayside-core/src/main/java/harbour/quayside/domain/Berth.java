package harbour.quayside.domain;

import harbour.quayside.store.BerthRow;

/** A place to lie at the quay. */
public class Berth {
    private final BerthId id;
    private final Draught depth;

    public Berth(BerthId id, Draught depth) {
        this.id = id;
        this.depth = depth;
    }

    /** Builds a berth straight from a row of the table. */
    public static Berth of(BerthRow row) {
        return new Berth(new BerthId(row.number()), new Draught(row.depthCm()));
    }

    public BerthRow toRow() {
        return new BerthRow(id.number(), depth.centimetres());
    }

    public BerthId id() {
        return id;
    }

    public boolean takes(Vessel vessel, Tide tide) {
        return vessel.draught().fits(new Draught(depth.centimetres() + tide.level()));
    }
}
