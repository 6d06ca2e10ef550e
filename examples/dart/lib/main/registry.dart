import 'package:quayside/domain/domain.dart';
import 'package:quayside/store/sqlite_bookings.dart';
import 'package:sqlite3/sqlite3.dart';

Bookings registry() => SqliteBookings(sqlite3.open('quayside.db'));
