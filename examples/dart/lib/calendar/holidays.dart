import 'package:quayside/store/closed_days.dart' as closed;

bool isClosed(DateTime day) => closed.load().contains(day);
