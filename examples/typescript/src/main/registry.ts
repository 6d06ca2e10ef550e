import { PgBookings } from '../store/pg-bookings';

export const registry = { bookings: () => new PgBookings() };
