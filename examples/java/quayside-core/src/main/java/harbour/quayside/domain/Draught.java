package harbour.quayside.domain;

/** How deep a hull or a berth is, in centimetres. */
public record Draught(int centimetres) {
    public boolean fits(Draught water) {
        return centimetres < water.centimetres();
    }
}
