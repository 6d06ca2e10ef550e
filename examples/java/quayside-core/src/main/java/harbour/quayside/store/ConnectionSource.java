package harbour.quayside.store;

import java.sql.Connection;
import java.sql.SQLException;

/** Opens connections to the harbour's database. */
public interface ConnectionSource {
    Connection open() throws SQLException;
}
