import type { Booking, Bookings } from '@/domain';

export class BookingService {
  constructor(private readonly bookings: Bookings) {}

  async book(booking: Booking): Promise<void> {
    if (booking.nights < 1) throw new Error('a booking is for one night at least');
    await this.bookings.add(booking);
  }
}
