using Quayside.Store;

namespace Quayside.Calendar;

public static class Holidays
{
    public static bool Closed(DateOnly day) => ClosedDays.All().Contains(day);
}
