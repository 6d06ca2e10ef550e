package harbour.quayside.radio;

import harbour.quayside.booking.Notices;
import harbour.quayside.domain.Vessel;

public class RadioNotices implements Notices {
    private final MarineRadio radio;

    public RadioNotices(MarineRadio radio) {
        this.radio = radio;
    }

    @Override
    public void send(Vessel vessel, String text) {
        radio.say(vessel.callSign(), text);
    }
}
