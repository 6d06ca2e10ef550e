import { PgBookings } from '../store/pg-bookings';

export async function show(vessel: string): Promise<string> {
  return (await new PgBookings().of(vessel)).map((b) => b.vessel).join('\n');
}
