using Quayside.Store;

namespace Quayside.Desk;

public sealed class TideScreen(SqlBookings bookings)
{
    public string Show(string vessel) => string.Join("\n", bookings.Of(vessel).Select(b => b.Vessel));
}
