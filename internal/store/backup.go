package store

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"hash"
	"io"
	"strings"
	"time"

	mysqldriver "github.com/go-sql-driver/mysql"
	"github.com/google/uuid"
)

// A backup is lines of JSON, packed with gzip: what it is, then each row of each table in order,
// its values as the database writes them, then how many rows and the SHA-256 of the lines before.
const (
	backupFormat  = "dusha-backup"
	backupVersion = 1
	longestLine   = 64 << 20 // a photo, written out
)

type backupHead struct {
	Format  string    `json:"format"`
	Version int       `json:"version"`
	Schema  int64     `json:"schema"`
	At      time.Time `json:"at"`
}

type backupRow struct {
	Table  string   `json:"table"`
	Values [][]byte `json:"values"` // in the order of the columns
	Nulls  []int    `json:"nulls,omitempty"`
}

type backupFoot struct {
	Rows int    `json:"rows"`
	Sum  string `json:"sum"`
}

// backedUp are the tables in the order in which they can be filled, with the order of their rows
// and what is in them.
var backedUp = []struct{ name, order, columns string }{
	{"companies", "id", "id, name"},
	{"people", "company_id, id", "company_id, id, name"},
	{"jobs", "company_id, id", "company_id, id, last_seq, last_hash, last_receipt, size"},
	{"areas", "company_id, id", "company_id, id, job_id, last_hash"},
	{"entries", "company_id, job_id, seq", "company_id, id, job_id, area_id, seq, kind, at, by_person, corrects, received_at, hash, bytes, delivered_by, receipt"},
	{"photos", "company_id, id", "company_id, id, job_id, hash, received_at, media, size, bytes"},
	{"quarantine", "company_id, job_id, seq", "company_id, job_id, seq, why, at"},
	{"devices", "company_id, id", "company_id, id, name, role, installation, public_key, secret_hash, before_hash, turned_at, paired_at, seen_at, waiting, revoked_at"},
	{"signers", "company_id, id", "company_id, id, name, role, public_key"},
	{"pins", "company_id, person_id", "company_id, person_id, salt, hash, wrong, rests_until"},
	{"audit", "id", "company_id, id, at, what, device_id, subject"},
}

// plain opens a database whose values come as it writes them.
func plain(dsn string) (*sql.DB, error) {
	c, err := mysqldriver.ParseDSN(dsn)
	if err != nil {
		return nil, err
	}
	c.ParseTime = false
	return sql.Open("mysql", c.FormatDSN())
}

// Backup writes all companies' data as it stands at one moment, while the server goes on.
func Backup(ctx context.Context, dsn string, to io.Writer) (rows int, err error) {
	db, err := plain(dsn)
	if err != nil {
		return 0, err
	}
	defer db.Close()
	provider, err := migrator(db)
	if err != nil {
		return 0, err
	}
	at, wanted, err := provider.GetVersions(ctx)
	if err != nil {
		return 0, err
	}
	if at != wanted {
		return 0, fmt.Errorf("the schema is of version %d, this program's is %d: bring them together first", at, wanted)
	}
	conn, err := db.Conn(ctx)
	if err != nil {
		return 0, err
	}
	defer conn.Close()
	for _, statement := range []string{"SET TRANSACTION ISOLATION LEVEL REPEATABLE READ", "START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY"} {
		if _, err := conn.ExecContext(ctx, statement); err != nil {
			return 0, err
		}
	}
	defer conn.ExecContext(ctx, "ROLLBACK") //nolint // nothing was written
	packed := gzip.NewWriter(to)
	w := &lines{to: bufio.NewWriterSize(packed, 1<<20), sum: sha256.New()}
	w.write(backupHead{backupFormat, backupVersion, at, time.Now().UTC().Truncate(time.Second)})
	for _, table := range backedUp {
		if err := backupTable(ctx, conn, w, table.name, table.columns, table.order); err != nil {
			return 0, err
		}
	}
	w.write(backupFoot{w.rows, fmt.Sprintf("%x", w.sum.Sum(nil))})
	return w.rows, errors.Join(w.err, w.to.Flush(), packed.Close())
}

func backupTable(ctx context.Context, conn *sql.Conn, w *lines, table, columns, order string) error {
	found, err := conn.QueryContext(ctx, "SELECT "+columns+" FROM "+table+" ORDER BY "+order)
	if err != nil {
		return err
	}
	defer found.Close()
	values := make([]sql.RawBytes, strings.Count(columns, ",")+1)
	into := make([]any, len(values))
	for i := range values {
		into[i] = &values[i]
	}
	for found.Next() {
		if err := found.Scan(into...); err != nil {
			return err
		}
		row := backupRow{Table: table, Values: make([][]byte, len(values))}
		for i, v := range values {
			if v == nil {
				row.Nulls = append(row.Nulls, i)
			}
			row.Values[i] = v
		}
		w.rows++
		w.write(row)
		if w.err != nil {
			return w.err
		}
	}
	return found.Err()
}

// lines writes lines and hashes them; the first error stays.
type lines struct {
	to   *bufio.Writer
	sum  hash.Hash
	rows int
	err  error
}

func (w *lines) write(value any) {
	text, err := json.Marshal(value)
	if w.err == nil {
		w.err = err
	}
	text = append(text, '\n')
	w.sum.Write(text)
	if _, err := w.to.Write(text); w.err == nil {
		w.err = err
	}
}

// Restored is what a backup held.
type Restored struct {
	Rows int
	At   time.Time // when it was made
}

// Restore fills an empty database of the same schema with a backup, all of it or nothing, and
// works every chain out anew before it counts.
func Restore(ctx context.Context, dsn string, from io.Reader) (Restored, error) {
	var out Restored
	db, err := plain(dsn)
	if err != nil {
		return out, err
	}
	defer db.Close()
	var jobs, people int
	if err := db.QueryRowContext(ctx, "SELECT (SELECT COUNT(*) FROM jobs), (SELECT COUNT(*) FROM people)").Scan(&jobs, &people); err != nil {
		return out, fmt.Errorf("the database has to be there, with its schema: run \"dusha migrate\" first: %w", err)
	}
	if jobs > 0 || people > 0 {
		return out, fmt.Errorf("the database holds %d jobs and %d people: a backup is read only into an empty one", jobs, people)
	}
	packed, err := gzip.NewReader(from)
	if err != nil {
		return out, fmt.Errorf("it is no backup: %w", err)
	}
	read := bufio.NewScanner(packed)
	read.Buffer(make([]byte, 1<<20), longestLine)
	sum := sha256.New()
	head := backupHead{}
	if !read.Scan() || json.Unmarshal(read.Bytes(), &head) != nil || head.Format != backupFormat || head.Version != backupVersion {
		return out, errors.New("it is no backup of this program")
	}
	out.At = head.At
	provider, err := migrator(db)
	if err != nil {
		return out, err
	}
	if at, _, err := provider.GetVersions(ctx); err != nil || at != head.Schema {
		return out, fmt.Errorf("the backup is of schema %d, the database of %d: take the Dusha that made it (%w)", head.Schema, at, errors.Join(err))
	}
	sum.Write(append(read.Bytes(), '\n'))
	tx, err := db.BeginTx(ctx, nil)
	if err != nil {
		return out, err
	}
	defer tx.Rollback()
	if _, err := tx.ExecContext(ctx, "DELETE FROM companies"); err != nil {
		return out, err
	}
	if out.Rows, err = fill(ctx, tx, read, sum); err != nil {
		return out, err
	}
	if err := checkChains(ctx, tx); err != nil {
		return out, err
	}
	return out, tx.Commit()
}

// fill writes the rows of a backup and holds its foot against them.
func fill(ctx context.Context, tx *sql.Tx, read *bufio.Scanner, sum hash.Hash) (rows int, err error) {
	inserts := map[string]*sql.Stmt{}
	for _, table := range backedUp {
		places := strings.TrimSuffix(strings.Repeat("?,", strings.Count(table.columns, ",")+1), ",")
		if inserts[table.name], err = tx.PrepareContext(ctx, "INSERT INTO "+table.name+" ("+table.columns+") VALUES ("+places+")"); err != nil {
			return 0, err
		}
		defer inserts[table.name].Close()
	}
	for read.Scan() {
		var row struct {
			backupRow
			backupFoot
		}
		if err := json.Unmarshal(read.Bytes(), &row); err != nil {
			return rows, fmt.Errorf("row %d cannot be read: %w", rows+1, err)
		}
		if row.Table == "" {
			if row.Rows != rows || row.Sum != fmt.Sprintf("%x", sum.Sum(nil)) {
				return rows, errors.New("the backup was changed, or rows of it are missing")
			}
			return rows, nil
		}
		insert, known := inserts[row.Table]
		if !known {
			return rows, fmt.Errorf("row %d is of no table that is known: %q", rows+1, row.Table)
		}
		values := make([]any, len(row.Values))
		for i, v := range row.Values {
			values[i] = v
		}
		for _, i := range row.Nulls {
			if i >= 0 && i < len(values) {
				values[i] = nil
			}
		}
		if _, err := insert.ExecContext(ctx, values...); err != nil {
			return rows, fmt.Errorf("row %d (%s): %w", rows+1, row.Table, err)
		}
		rows++
		sum.Write(append(read.Bytes(), '\n'))
	}
	return rows, errors.Join(read.Err(), errors.New("the backup breaks off"))
}

// checkChains works out every hash and receipt anew from the rows.
func checkChains(ctx context.Context, tx *sql.Tx) error {
	rows, err := tx.QueryContext(ctx, `SELECT company_id, job_id, area_id, seq, received_at, hash, bytes, delivered_by, receipt FROM entries ORDER BY company_id, job_id, seq`)
	if err != nil {
		return err
	}
	defer rows.Close()
	heads, receipts, seqs := map[string][]byte{}, map[string][]byte{}, map[string]uint64{}
	for rows.Next() {
		var company, job string
		var area, by sql.NullString
		var received string
		var k Kept
		if err := rows.Scan(&company, &job, &area, &k.Seq, &received, &k.Hash, &k.Bytes, &by, &k.Receipt); err != nil {
			return err
		}
		of := company + job
		broken := fmt.Errorf("job %s, entry %d: it is not as it was kept", job, k.Seq)
		if seqs[of]++; k.Seq != seqs[of] || !follows(heads[of+area.String], k.Bytes, k.Hash) {
			return broken
		}
		heads[of+area.String] = k.Hash
		if k.Receipt == nil {
			continue
		}
		if err := k.arrived(received, by); err != nil || !bytes.Equal(ReceiptOf(receipts[of], k), k.Receipt) {
			return broken
		}
		receipts[of] = k.Receipt
	}
	return rows.Err()
}

// arrived reads when an entry came, and through which installation, as the database writes them.
func (k *Kept) arrived(at string, by sql.NullString) (err error) {
	if k.ReceivedAt, err = time.ParseInLocation("2006-01-02 15:04:05.999999", at, time.UTC); err != nil {
		return err
	}
	if by.Valid {
		id, err := uuid.Parse(by.String)
		if err != nil {
			return err
		}
		k.DeliveredBy = &id
	}
	return nil
}

// follows tells whether a hash is that of the one before it and a text.
func follows(before, text, hash []byte) bool {
	sum := sha256.Sum256(append(bytes.Clone(before), text...))
	return bytes.Equal(sum[:], hash)
}
