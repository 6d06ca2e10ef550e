namespace Quayside.Domain;

public sealed record Booking(Berth Berth, string Vessel, DateOnly Arrives, DateOnly Leaves)
{
    public int Nights => Leaves.DayNumber - Arrives.DayNumber;
}
