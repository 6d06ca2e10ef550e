package harbour.quayside.radio;

/** Speaks on the working channel. */
public class MarineRadio {
    private final int channel;

    public MarineRadio(int channel) {
        this.channel = channel;
    }

    public void say(String callSign, String text) {
        System.out.println("VHF " + channel + ": " + callSign + ", " + text);
    }
}
