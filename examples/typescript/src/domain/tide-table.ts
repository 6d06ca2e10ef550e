import { Client } from 'pg';

export async function highWater(day: string): Promise<number> {
  const client = new Client();
  await client.connect();
  const { rows } = await client.query('select height from tide where day = $1', [day]);
  return rows[0].height;
}
