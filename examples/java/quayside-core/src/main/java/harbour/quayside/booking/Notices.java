package harbour.quayside.booking;

import harbour.quayside.domain.Vessel;

/** Tells a vessel something. */
public interface Notices {
    void send(Vessel vessel, String text);
}
