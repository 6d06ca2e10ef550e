using Quayside.Store;

namespace Quayside.Domain;

public sealed record Berth(int Number, double Depth)
{
    public static Berth FromRow(BerthRow row) => new(row.Number, row.Depth);

    public bool Takes(double draught) => Depth - draught >= 0.5;
}
