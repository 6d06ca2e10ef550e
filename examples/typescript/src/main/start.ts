import { BookingService } from '../booking/booking-service';
import { create } from '../desk/app';
import { registry } from './registry';

create(new BookingService(registry.bookings())).listen(8080);
