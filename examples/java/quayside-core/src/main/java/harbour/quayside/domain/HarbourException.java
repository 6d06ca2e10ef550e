package harbour.quayside.domain;

/** A rule of the harbour that was not kept. */
public class HarbourException extends RuntimeException {
    public HarbourException(String message) {
        super(message);
    }
}
