using System.Data;

namespace Quayside.Domain;

public sealed class TideTable(IDbConnection db)
{
    public double HighWater(string day)
    {
        using var command = db.CreateCommand();
        command.CommandText = $"select height from tide where day = '{day}'";
        return (double)command.ExecuteScalar()!;
    }
}
