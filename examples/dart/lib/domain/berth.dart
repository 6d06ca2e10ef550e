import '../store/berth_row.dart';

class Berth {
  final int number;
  final double depth;

  const Berth(this.number, this.depth);

  Berth.fromRow(BerthRow row) : this(row.number, row.depth);

  bool takes(double draught) => depth - draught >= 0.5;
}
