namespace Quayside.Store;

public static class ClosedDays
{
    public static ISet<DateOnly> All() => File.ReadLines("closed.txt").Select(DateOnly.Parse).ToHashSet();
}
