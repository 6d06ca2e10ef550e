using Quayside.Domain;
using Quayside.Store;

namespace Quayside.Main;

public static class Registry
{
    public static Func<System.Data.IDbConnection> Connect { get; set; } = () => throw new InvalidOperationException();

    public static IBookings Bookings() => new SqlBookings(Connect());
}
