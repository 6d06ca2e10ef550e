import 'package:quayside/booking/booking_service.dart';
import 'package:shelf/shelf.dart';

class BookingScreen {
  final BookingService service;

  BookingScreen(this.service);

  Response show(Request request) => Response.ok(service.of(request.url.queryParameters['vessel']!).join('\n'));
}
