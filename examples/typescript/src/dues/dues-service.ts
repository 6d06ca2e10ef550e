import { registry } from '../main/registry';

export async function duesOf(vessel: string): Promise<number> {
  const list = await registry.bookings().of(vessel);
  return list.reduce((sum, b) => sum + b.nights * 1200, 0);
}
