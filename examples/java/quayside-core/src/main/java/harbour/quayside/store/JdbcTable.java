package harbour.quayside.store;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;

/** What all tables have in common. */
abstract class JdbcTable {
    private final ConnectionSource source;

    JdbcTable(ConnectionSource source) {
        this.source = source;
    }

    /** Makes a value of the current row. */
    interface Reader<T> {
        T read(ResultSet row) throws SQLException;
    }

    <T> List<T> select(String sql, Reader<T> reader, Object... values) {
        try (Connection c = source.open(); PreparedStatement s = c.prepareStatement(sql)) {
            for (int i = 0; i < values.length; i++) {
                s.setObject(i + 1, values[i]);
            }
            List<T> out = new ArrayList<>();
            try (ResultSet rows = s.executeQuery()) {
                while (rows.next()) {
                    out.add(reader.read(rows));
                }
            }
            return out;
        } catch (SQLException e) {
            throw new StoreException(e);
        }
    }

    void update(String sql, Object... values) {
        try (Connection c = source.open(); PreparedStatement s = c.prepareStatement(sql)) {
            for (int i = 0; i < values.length; i++) {
                s.setObject(i + 1, values[i]);
            }
            s.executeUpdate();
        } catch (SQLException e) {
            throw new StoreException(e);
        }
    }
}
