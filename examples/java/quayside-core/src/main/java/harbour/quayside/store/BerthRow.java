package harbour.quayside.store;

/** A row of the table berth. */
public record BerthRow(int number, int depthCm) {
}
