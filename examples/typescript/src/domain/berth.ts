import type { BerthRow } from '../store/rows';

export class Berth {
  constructor(readonly no: number, readonly depth: number) {}

  static fromRow(row: BerthRow): Berth {
    return new Berth(row.berth_no, row.depth);
  }

  takes(draught: number): boolean {
    return this.depth - draught >= 0.5;
  }
}
