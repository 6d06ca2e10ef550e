/// What the harbour is about.
library;

export 'berth.dart';
export 'booking.dart' show Booking, Bookings;
