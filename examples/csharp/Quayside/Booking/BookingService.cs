using Quayside.Domain;

namespace Quayside.Booking;

public sealed class BookingService(IBookings bookings)
{
    public void Book(Domain.Booking booking)
    {
        if (booking.Nights < 1)
            throw new ArgumentException($"a booking is for one night at least, not {booking.Nights}");
        bookings.Add(booking);
    }

    public IReadOnlyList<Domain.Booking> Of(string vessel) => bookings.Of(vessel);
}
