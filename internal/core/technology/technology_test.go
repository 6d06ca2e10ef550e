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
		{"csharp", "System.Data.SqlClient.SqlConnection", "database"},
		{"csharp", "Microsoft.EntityFrameworkCore.DbContext", "database"},
		{"csharp", "Microsoft.AspNetCore.Mvc.Controller", "web"},
		{"csharp", "System.Net.Http.HttpClient", "remote"},
		{"csharp", "System.Windows.Forms.Form", "user interface"},
		{"csharp", "System.Text.Json.JsonSerializer", "serialisation"},
		{"csharp", "System.Text.StringBuilder", Neutral},
		{"csharp", "System.IO.File", "process"},
		{"csharp", "System.IO.MemoryStream", Neutral},
		{"csharp", "System.Collections.Generic.List", Neutral},
		{"csharp", "Acme.Rope", ""},
		{"visualbasic", "System.Data.DataTable", "database"},
		{"visualbasic", "Microsoft.VisualBasic.Interaction", "user interface"},
		{"visualbasic", "Microsoft.VisualBasic.Strings", Neutral},
		{"visualbasic", "Microsoft.VisualBasic.FileIO.TextFieldParser", "process"},
		{"razor", "Microsoft.AspNetCore.Mvc.ViewResult", "web"},
		{"javascript", "express", "web"},
		{"typescript", "express#Router", "web"},
		{"typescript", "http#createServer", "web"},
		{"typescript", "http#request", "remote"},
		{"typescript", "fs/promises#readFile", "process"},
		{"typescript", "@nestjs/common#Controller", "web"},
		{"typescript", "@prisma/client#PrismaClient", "database"},
		{"vue", "vue#ref", "user interface"},
		{"svelte", "axios", "remote"},
		{"javascript", "socket.io-client", "remote"},
		{"javascript", "lodash#map", Neutral},
		{"javascript", "left-rope", ""},
		{"python", "sqlite3.connect", "database"},
		{"python", "django.db.models.Model", "database"},
		{"python", "django.http.HttpRequest", "web"},
		{"python", "flask.request", "web"},
		{"python", "requests.get", "remote"},
		{"python", "os.path.join", Neutral},
		{"python", "os.getenv", "process"},
		{"python", "json.dumps", "serialisation"},
		{"python", "dataclasses.dataclass", Neutral},
		{"python", "ropes", ""},
		{"php", "PDO", "database"},
		{"php", "mysqli_query", "database"},
		{"php", "$_POST", "web"},
		{"php", `Doctrine\ORM\Mapping\Entity`, "database"},
		{"php", `Symfony\Component\HttpFoundation\Request`, "web"},
		{"php", `Illuminate\Support\Facades\DB`, "database"},
		{"php", `Illuminate\Support\Str`, Neutral},
		{"php", "curl_init", "remote"},
		{"php", "DateTimeImmutable", Neutral},
		{"php", `Acme\Rope`, ""},
		{"kotlin", "java.sql.Connection", "database"},
		{"kotlin", "org.jetbrains.exposed.sql.Table", "database"},
		{"kotlin", "io.ktor.server.routing.routing", "web"},
		{"kotlin", "io.ktor.client.HttpClient", "remote"},
		{"kotlin", "kotlinx.serialization.Serializable", "serialisation"},
		{"kotlin", "kotlinx.coroutines.launch", Neutral},
		{"kotlin", "androidx.room.Entity", "database"},
		{"dart", "sqflite/sqflite", "database"},
		{"dart", "flutter/material", "user interface"},
		{"dart", "dart:convert", "serialisation"},
		{"dart", "dart:io", "process"},
		{"dart", "http/http#get", "remote"},
		{"dart", "dart:math", Neutral},
		{"jsp", "javax.servlet.http.HttpSession", "web"},
		{"cobol", "java.sql.Connection", ""},
	} {
		assert.Equal(t, c.want, Of(c.language, c.name), c.name)
	}
}

// Every technology has entries in every language, under a name that a
// declaration may use.
func TestCatalogues(t *testing.T) {
	for l, least := range map[string]int{
		"java": 60, "go": 60, "csharp": 60, "javascript": 60, "python": 60, "php": 60, "kotlin": 25, "dart": 25, "visualbasic": 25,
	} {
		assert.GreaterOrEqual(t, Entries(l), least, l)
		if least < 60 {
			continue // adds to another catalogue
		}
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
