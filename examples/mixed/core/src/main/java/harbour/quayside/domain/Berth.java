package harbour.quayside.domain;

import harbour.quayside.store.BerthRow;

public record Berth(int number, double depth) {
    public static Berth fromRow(BerthRow row) {
        return new Berth(row.number(), row.depth());
    }
}
