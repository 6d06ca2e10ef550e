package harbour.quayside.domain;

/** What a stay costs. */
public record HarbourDue(String callSign, Stay stay, Money amount) {
}
