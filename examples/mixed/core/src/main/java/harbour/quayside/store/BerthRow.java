package harbour.quayside.store;

public record BerthRow(int number, double depth) { }
