package harbour.quayside.domain;

/** What a night costs, by the kind of vessel. */
public class Tariff {
    private final Money perNight;

    public Tariff(Money perNight) {
        this.perNight = perNight;
    }

    public HarbourDue due(Vessel vessel, Stay stay) {
        Money night = perNight.times(vessel.kind().factor());
        return new HarbourDue(vessel.callSign(), stay, night.times(stay.nights()));
    }
}
