import { isClosed } from '@/calendar/holidays';

export function freeDays(days: string[]): string[] {
  return days.filter((d) => !isClosed(d));
}
