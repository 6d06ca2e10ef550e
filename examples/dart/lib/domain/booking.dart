import 'berth.dart';

class Booking {
  final Berth berth;
  final String vessel;
  final DateTime arrives;
  final DateTime leaves;

  const Booking(this.berth, this.vessel, this.arrives, this.leaves);

  int get nights => leaves.difference(arrives).inDays;
}

/// What the inside asks of any store.
abstract interface class Bookings {
  void add(Booking booking);
  List<Booking> of(String vessel);
}
