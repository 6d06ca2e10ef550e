package harbour.quayside.domain;

/** The painted number of a berth. */
public record BerthId(int number) {
}
