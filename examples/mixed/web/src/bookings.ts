import { latest } from '../../reports/latest';

export async function bookings(vessel: string): Promise<string[]> {
  return (await latest()).filter((line) => line.startsWith(vessel));
}
