class BerthRow {
  final int number;
  final double depth;

  const BerthRow(this.number, this.depth);
}
