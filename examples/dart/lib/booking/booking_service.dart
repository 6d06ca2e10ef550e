import 'package:quayside/domain/domain.dart';

class BookingService {
  final Bookings _bookings;

  BookingService(this._bookings);

  void book(Booking booking) {
    if (booking.nights < 1) throw ArgumentError('a booking is for one night at least, not ${booking.nights}');
    _bookings.add(booking);
  }

  List<Booking> of(String vessel) => _bookings.of(vessel);
}
