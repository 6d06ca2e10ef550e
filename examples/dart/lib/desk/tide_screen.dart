import '../store/sqlite_bookings.dart';

String show(SqliteBookings bookings, String vessel) => bookings.of(vessel).map((b) => b.vessel).join('\n');
