package harbour.quayside.domain;

import java.time.LocalDateTime;

/** The water's level above chart datum at a time. */
public record Tide(LocalDateTime at, int level) {
    public boolean high() {
        return level > 250;
    }
}
