package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"strconv"
	"strings"
	"time"

	mysqldriver "github.com/go-sql-driver/mysql"
	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

// checkName refuses a data source name under which times would come back wrong.
func checkName(dsn string) error {
	c, err := mysqldriver.ParseDSN(dsn)
	switch {
	case err != nil:
		return fmt.Errorf("the data source name cannot be read: %w", err)
	case !c.ParseTime || c.Loc != time.UTC:
		return errors.New("the data source name has to say parseTime=true&loc=UTC: times would come back wrong otherwise")
	}
	return nil
}

// settings a database has to have, each with what is wrong where it does not.
var settings = []struct {
	ask  string
	fine func(answer string) bool
	says string
}{
	{"SELECT @@version", newEnough, "is too old: MariaDB 10.11 or newer is needed"},
	{"SELECT @@sql_mode", func(a string) bool {
		return strings.Contains(a, "STRICT_TRANS_TABLES") || strings.Contains(a, "STRICT_ALL_TABLES")
	},
		"sql_mode has to hold STRICT_ALL_TABLES: values that do not fit would be cut silently"},
	{"SELECT @@innodb_flush_log_at_trx_commit", func(a string) bool { return a == "1" },
		"innodb_flush_log_at_trx_commit has to be 1: what was answered as kept could be lost with the power"},
	{"SELECT @@max_allowed_packet", func(a string) bool { n, err := strconv.ParseInt(a, 10, 64); return err == nil && n >= leastPacket },
		"max_allowed_packet has to be 16M or more: a photo of 10 MB could not be kept"},
	{"SELECT TIMESTAMPDIFF(SECOND, UTC_TIMESTAMP(), NOW())", func(a string) bool { return a == "0" },
		"the session's time zone has to be UTC: put time_zone=%27%2B00%3A00%27 into the data source name"},
	{"SELECT @@character_set_client", func(a string) bool { return a == "utf8mb4" },
		"the connection has to speak utf8mb4: put collation=utf8mb4_unicode_ci into the data source name"},
}

const leastPacket = 16 << 20

// newEnough tells whether a version text is MariaDB's and 10.11 or newer.
func newEnough(version string) bool {
	var major, minor int
	if _, err := fmt.Sscanf(version, "%d.%d", &major, &minor); err != nil || !strings.Contains(version, "MariaDB") {
		return false
	}
	return major > 10 || major == 10 && minor >= 11
}

// check asks the database for what this program relies on: its settings, and a schema of
// exactly this program's version.
func (s *Store) check(ctx context.Context) error {
	pool, err := s.db.DB()
	if err != nil {
		return err
	}
	if err := pool.PingContext(ctx); err != nil {
		return fmt.Errorf("open the database: %w", err)
	}
	for _, setting := range settings {
		var answer string
		if err := pool.QueryRowContext(ctx, setting.ask).Scan(&answer); err != nil {
			return err
		}
		if !setting.fine(answer) {
			return fmt.Errorf("the database is not set up for this: %s (it is %q)", setting.says, answer)
		}
	}
	provider, err := migrator(pool)
	if err != nil {
		return err
	}
	at, wanted, err := provider.GetVersions(ctx)
	switch {
	case err != nil:
		return fmt.Errorf("the schema's version cannot be read: %w", err)
	case at < wanted:
		return fmt.Errorf("the database's schema is of version %d, this program's is %d: run \"dusha migrate\" first", at, wanted)
	case at > wanted:
		return fmt.Errorf("the database's schema is of version %d, newer than this program's %d: it was brought there by a newer Dusha, run that one", at, wanted)
	}
	return nil
}

func migrator(db *sql.DB) (*goose.Provider, error) {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	return goose.NewProvider(goose.DialectMySQL, db, files)
}

// migrateWithin is how long one program waits for another that migrates.
const migrateWithin = 60 // s

// Migrate brings the schema to this program's version. Of several at once one works and the
// others wait and find it done. Each file is one statement that may be run again, so that a
// migration that was broken off is gone on with.
func Migrate(ctx context.Context, dsn string) error {
	if err := checkName(dsn); err != nil {
		return err
	}
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		return err
	}
	defer db.Close()
	lock, err := db.Conn(ctx) // a lock belongs to its connection
	if err != nil {
		return err
	}
	defer lock.Close()
	var got sql.NullInt64
	if err := lock.QueryRowContext(ctx, "SELECT GET_LOCK(CONCAT('dusha.migrate.', DATABASE()), ?)", migrateWithin).Scan(&got); err != nil {
		return err
	}
	if got.Int64 != 1 {
		return fmt.Errorf("another program has been bringing this database up to date for %d s: try again when it is done", migrateWithin)
	}
	provider, err := migrator(db)
	if err != nil {
		return err
	}
	_, err = provider.Up(ctx)
	return err
}
