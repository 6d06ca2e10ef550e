export interface BerthRow {
  berth_no: number;
  depth: number;
}
