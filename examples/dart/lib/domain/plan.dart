import '../calendar/holidays.dart';

List<DateTime> freeDays(List<DateTime> days) => [for (final d in days) if (!isClosed(d)) d];
