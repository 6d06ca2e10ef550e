using System.Data;
using Dapper;
using Quayside.Domain;

namespace Quayside.Store;

public sealed class SqlBookings(IDbConnection db) : IBookings
{
    public void Add(Domain.Booking booking) =>
        db.Execute("insert into booking values (@Vessel, @Nights)", booking);

    public IReadOnlyList<Domain.Booking> Of(string vessel) =>
        db.Query<Domain.Booking>("select * from booking where vessel = @vessel", new { vessel }).ToList();
}
