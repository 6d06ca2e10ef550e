import 'package:quayside/booking/booking_service.dart';
import 'package:quayside/desk/booking_screen.dart';
import 'package:quayside/main/registry.dart';

void main() => print(BookingScreen(BookingService(registry())));
