package technology

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"moatline/internal/core/layout"
)

func TestOf(t *testing.T) {
	for _, c := range []struct{ language, name, want string }{
		{"java", "java.sql.Connection", "database"},
		{"java", "java.sql", "database"},
		{"java", "java.sqlx.Connection", ""},
		{"java", "jakarta.persistence.Entity", "database"},
		{"java", "javax.servlet.http.HttpServlet", "web"},
		{"java", "javax.ws.rs.Path", "web"},
		{"java", "javax.ws.rs.client.Client", "remote"},
		{"java", "java.net.http.HttpClient", "remote"},
		{"java", "java.net.URI", ""},
		{"java", "java.net.Socket", "remote"},
		{"java", "java.io.File", "process"},
		{"java", "java.io.IOException", ""},
		{"java", "java.util.List", ""},
		{"java", "java.util.logging.Logger", "logging"},
		{"java", "javax.annotation.PostConstruct", "injection"},
		{"java", "javax.annotation.Nullable", Neutral},
		{"java", "org.springframework.stereotype.Service", "injection"},
		{"java", "org.springframework.web.client.RestTemplate", "remote"},
		{"java", "org.springframework.web.bind.annotation.GetMapping", "web"},
		{"go", "net/http.Handler", "web"},
		{"go", "net/http.Client", "remote"},
		{"go", "net/http", "web"},
		{"go", "net/http.StatusText", Neutral},
		{"go", "net/url.Parse", Neutral},
		{"go", "net.Dial", "remote"},
		{"go", "net.IP", Neutral},
		{"go", "database/sql.ErrNoRows", "database"},
		{"go", "github.com/labstack/echo/v4.Context", "web"},
		{"go", "github.com/jackc/pgx/v5/pgxpool.Pool", "database"},
		{"go", "gopkg.in/yaml.v3.Marshal", "serialisation"},
		{"go", "tag:json", "serialisation"},
		{"go", "tag:validate", ""},
		{"go", "os.Getenv", "process"},
		{"go", "strings.Builder", ""},
		{"go", "time.Now", ""},
		{"cobol", "java.sql.Connection", ""},
	} {
		assert.Equal(t, c.want, Of(c.language, c.name), c.name)
	}
}

// Every technology has entries in every language, under a name that a
// declaration may use.
func TestCatalogues(t *testing.T) {
	for _, l := range []string{"java", "go"} {
		assert.GreaterOrEqual(t, Entries(l), 60, l)
		for _, n := range layout.TechnologyNames {
			assert.NotZero(t, Names(l)[n], "%s in %s", n, l)
		}
		for n := range Names(l) {
			if n != Neutral {
				assert.Contains(t, layout.TechnologyNames, n, l)
			}
		}
	}
}
