import { closedDays } from '../store/closed-days';

export const isClosed = (day: string): boolean => closedDays().has(day);
