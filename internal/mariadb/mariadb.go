// Package mariadb starts and stops a private MariaDB for the demo and the tests. It listens on
// a socket in its own folder alone, which nobody else may enter: no port, no password. Real
// work brings its own server.
package mariadb

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"runtime"
	"strings"
	"syscall"
	"time"

	_ "github.com/go-sql-driver/mysql" // the driver the readiness check speaks through
)

// Server is a running private database.
type Server struct {
	DSN string // of the database "dusha"
	PID int

	lock   *os.File
	exited chan error
	stop   func()
}

const (
	database    = "dusha"
	ownerOnly   = 0o700
	readyWithin = 30 * time.Second
	stopWithin  = 15 * time.Second
)

// Start makes the folder's database if it is not there, starts it, and waits until it answers.
// Only one process may use a folder.
func Start(ctx context.Context, folder string) (*Server, error) {
	folder, err := filepath.Abs(folder)
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(folder, ownerOnly); err != nil {
		return nil, err
	}
	lock, err := takeLock(filepath.Join(folder, "lock"))
	if err != nil {
		return nil, err
	}
	data := filepath.Join(folder, "data")
	// A temporary folder of its own: servers clear theirs of each other's tables.
	if err := os.MkdirAll(tempFolder(folder), ownerOnly); err != nil {
		lock.Close()
		return nil, err
	}
	if _, err := os.Stat(filepath.Join(data, "mysql")); err != nil {
		if err := install(ctx, folder, data); err != nil {
			lock.Close()
			return nil, err
		}
	}
	if err := os.Chmod(tempFolder(folder), ownerOnly); err != nil { // the socket lies there
		lock.Close()
		return nil, err
	}
	s, err := run(ctx, folder, data)
	if err != nil {
		lock.Close()
		return nil, err
	}
	s.lock = lock
	return s, nil
}

func takeLock(path string) (*os.File, error) {
	lock, err := os.OpenFile(path, os.O_CREATE|os.O_RDWR, 0o644)
	if err != nil {
		return nil, err
	}
	if err := syscall.Flock(int(lock.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		lock.Close()
		return nil, fmt.Errorf("the database in %s is in use by another process", filepath.Dir(path))
	}
	return lock, nil
}

func tempFolder(folder string) string { return filepath.Join(folder, "tmp") }

func install(ctx context.Context, folder, data string) error {
	args := []string{"--no-defaults", "--auth-root-authentication-method=normal", "--skip-test-db", "--datadir=" + data, "--tmpdir=" + tempFolder(folder)}
	out, err := exec.CommandContext(ctx, program("mariadb-install-db"), args...).CombinedOutput()
	if err != nil {
		return fmt.Errorf("make a database in %s: %w\n%s", data, err, out)
	}
	return nil
}

// program finds a MariaDB program also where a plain user's PATH does not look.
func program(name string) string {
	for _, folder := range []string{"", "/usr/sbin/", "/usr/local/sbin/"} {
		if path, err := exec.LookPath(folder + name); err == nil {
			return path
		}
	}
	return name
}

func run(ctx context.Context, folder, data string) (*Server, error) {
	log := filepath.Join(folder, "error.log")
	socket, release, err := socketPath(folder)
	if err != nil {
		return nil, err
	}
	args := []string{
		"--no-defaults", "--datadir=" + data, "--skip-networking", "--max-allowed-packet=64M",
		"--socket=" + socket, "--tmpdir=" + tempFolder(folder), "--pid-file=" + filepath.Join(folder, "pid"), "--log-error=" + log,
		"--character-set-server=utf8mb4", "--collation-server=utf8mb4_unicode_ci", "--default-time-zone=+00:00",
		"--skip-name-resolve", "--performance-schema=OFF", "--innodb-flush-log-at-trx-commit=1", "--innodb-log-file-size=16M",
		"--sql-mode=STRICT_ALL_TABLES,ONLY_FULL_GROUP_BY,NO_ENGINE_SUBSTITUTION,ERROR_FOR_DIVISION_BY_ZERO,NO_ZERO_DATE,NO_ZERO_IN_DATE",
	}
	if me, err := user.Current(); err == nil && me.Uid == "0" {
		args = append(args, "--user=root")
	}
	cmd := exec.Command(program("mariadbd"), args...)
	// Its own group, so that Ctrl-C stops us first; and it ends when we are killed.
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Pdeathsig: syscall.SIGTERM}
	s := &Server{exited: make(chan error, 1)}
	started := make(chan error)
	go func() {
		runtime.LockOSThread() // the death signal follows the thread that started the process
		defer runtime.UnlockOSThread()
		err := cmd.Start()
		started <- err
		if err == nil {
			err = cmd.Wait()
		}
		release()
		s.exited <- err
	}()
	if err := <-started; err != nil {
		return nil, fmt.Errorf("start the database: %w", err)
	}
	s.PID = cmd.Process.Pid
	s.stop = func() { _ = cmd.Process.Signal(syscall.SIGTERM) }
	s.DSN = dsn(socket, database)
	if err := s.waitReady(ctx, socket); err != nil {
		s.stop()
		return nil, fmt.Errorf("%w\n%s", err, tail(log))
	}
	return s, nil
}

// longestSocket is what a system allows for the path of a socket.
const longestSocket = 100

// socketPath is in the folder, or in a short temporary one where that path is too long.
func socketPath(folder string) (path string, release func(), err error) {
	if path = filepath.Join(tempFolder(folder), "s"); len(path) <= longestSocket {
		return path, func() {}, nil
	}
	short, err := os.MkdirTemp("", "dusha")
	return filepath.Join(short, "s"), func() { os.RemoveAll(short) }, err
}

func dsn(socket, name string) string {
	return fmt.Sprintf("root@unix(%s)/%s?parseTime=true&loc=UTC&time_zone=%%27%%2B00%%3A00%%27&interpolateParams=true&collation=utf8mb4_unicode_ci", socket, name)
}

// waitReady pings until the server answers and makes the database; a server that has
// exited is not waited for.
func (s *Server) waitReady(ctx context.Context, socket string) error {
	db, err := sql.Open("mysql", dsn(socket, ""))
	if err != nil {
		return err
	}
	defer db.Close()
	ctx, cancel := context.WithTimeout(ctx, readyWithin)
	defer cancel()
	for {
		if db.PingContext(ctx) == nil {
			_, err := db.ExecContext(ctx, "CREATE DATABASE IF NOT EXISTS "+database)
			return err
		}
		select {
		case err := <-s.exited:
			return fmt.Errorf("the database ended while starting: %v", err)
		case <-ctx.Done():
			return errors.New("the database does not answer")
		case <-time.After(10 * time.Millisecond):
		}
	}
}

func tail(log string) string {
	text, err := os.ReadFile(log)
	if err != nil {
		return ""
	}
	lines := strings.Split(strings.TrimSpace(string(text)), "\n")
	return strings.Join(lines[max(0, len(lines)-8):], "\n")
}

// Stop ends the database cleanly and frees its folder.
func (s *Server) Stop() {
	s.stop()
	select {
	case <-s.exited:
	case <-time.After(stopWithin):
	}
	s.lock.Close()
}
