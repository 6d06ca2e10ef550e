using Quayside.Calendar;

namespace Quayside.Domain;

public static class Plan
{
    public static IEnumerable<DateOnly> FreeDays(IEnumerable<DateOnly> days) =>
        days.Where(d => !Holidays.Closed(d));
}
