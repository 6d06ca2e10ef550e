import { Pool } from 'pg';
import type { Booking, Bookings } from '@/domain';

export class PgBookings implements Bookings {
  private readonly pool = new Pool();

  async add(booking: Booking): Promise<void> {
    await this.pool.query('insert into booking values ($1, $2)', [booking.vessel, booking.nights]);
  }

  async of(vessel: string): Promise<Booking[]> {
    return (await this.pool.query('select * from booking where vessel = $1', [vessel])).rows;
  }
}
