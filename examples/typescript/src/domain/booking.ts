import { Berth } from './berth';

export interface Booking {
  berth: Berth;
  vessel: string;
  nights: number;
}
