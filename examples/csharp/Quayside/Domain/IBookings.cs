namespace Quayside.Domain;

/// <summary>What the inside asks of any store.</summary>
public interface IBookings
{
    void Add(Booking booking);

    IReadOnlyList<Booking> Of(string vessel);
}
