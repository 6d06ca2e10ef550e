namespace Quayside.Store;

public sealed record BerthRow(int Number, double Depth);
