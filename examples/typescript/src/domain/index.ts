export { Berth } from './berth';
export type { Booking } from './booking';
export type { Bookings } from './bookings';
