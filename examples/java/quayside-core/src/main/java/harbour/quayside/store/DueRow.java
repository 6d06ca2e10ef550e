package harbour.quayside.store;

/** A row of the table due. */
public record DueRow(String callSign, long hundredths) {
}
