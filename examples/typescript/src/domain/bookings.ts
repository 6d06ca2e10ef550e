import type { Booking } from './booking';

/** What the inside asks of any store. */
export interface Bookings {
  add(booking: Booking): Promise<void>;
  of(vessel: string): Promise<Booking[]>;
}
