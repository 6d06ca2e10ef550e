import 'package:sqlite3/sqlite3.dart';

double highWater(String day) {
  final db = sqlite3.open('tides.db');
  return db.select('select height from tide where day = ?', [day]).first['height'] as double;
}
