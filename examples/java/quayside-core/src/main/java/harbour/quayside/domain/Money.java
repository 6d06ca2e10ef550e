package harbour.quayside.domain;

/** An amount in the harbour's currency, in hundredths. */
public record Money(long hundredths) {
    public static final Money NOTHING = new Money(0);

    public Money plus(Money other) {
        return new Money(hundredths + other.hundredths);
    }

    public Money times(long n) {
        return new Money(hundredths * n);
    }
}
