package harbour.quayside.store;

import java.sql.SQLException;

/** The database did not do as it was told. */
public class StoreException extends RuntimeException {
    StoreException(SQLException cause) {
        super(cause);
    }
}
