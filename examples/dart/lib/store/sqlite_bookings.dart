import 'package:quayside/domain/domain.dart';
import 'package:sqlite3/sqlite3.dart';

class SqliteBookings implements Bookings {
  final Database db;

  SqliteBookings(this.db);

  @override
  void add(Booking booking) => db.execute('insert into booking values (?)', [booking.vessel]);

  @override
  List<Booking> of(String vessel) => const [];
}
