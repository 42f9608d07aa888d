package main

import (
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/spf13/cobra"
	"rsc.io/qr"

	"dusha/internal/access"
	"dusha/internal/api"
	"dusha/internal/certs"
	"dusha/internal/store"
)

// outside is how a server is reached by other machines.
type outside struct {
	folder, certificate, key string
	names, proxies           []string
	trust                    string

	paired bool // devices are paired
}

// open sees to TLS and names where other machines reach the address; secure is nil where none is spoken.
func (o *outside) open(address string) (c api.Config, secure *tls.Config, err error) {
	reached, err := reachedByOthers(address)
	if err != nil {
		return c, nil, err
	}
	if o.paired = reached || len(o.proxies) > 0; !o.paired {
		return c, nil, nil
	}
	host, port, _ := net.SplitHostPort(address)
	c.Hosts = append(c.Hosts, lower(o.names)...)
	switch {
	case len(o.proxies) > 0:
		if len(o.names) == 0 {
			return c, nil, errors.New("behind a proxy the name by which devices reach it has to be said: --name")
		}
		for _, each := range o.proxies {
			at, err := netip.ParseAddr(each)
			if err != nil {
				return c, nil, fmt.Errorf("--behind-proxy %q is no address", each)
			}
			c.Proxies = append(c.Proxies, at.Unmap())
		}
		return c, nil, nil
	case (o.certificate == "") != (o.key == ""):
		return c, nil, errors.New("--certificate and --key belong together: without TLS no device is let in from other machines")
	case o.certificate != "":
		own, names, err := certs.Own(o.certificate, o.key, time.Now())
		if err != nil {
			return c, nil, err
		}
		c.Hosts = append(c.Hosts, lower(names)...)
		return c, own, nil
	}
	names := append(lower(o.names), certs.Names()...)
	if ip := net.ParseIP(host); ip != nil && !ip.IsUnspecified() || ip == nil && host != "" {
		names = append([]string{strings.ToLower(host)}, names...)
	}
	local, err := certs.Open(o.folder, names, time.Now)
	if err != nil {
		return c, nil, fmt.Errorf("%w. Without TLS no device is let in from other machines: name a folder that can be written with --certificates, give the firm's own --certificate and --key, or stand --behind-proxy", err)
	}
	c.Hosts = append(c.Hosts, names...)
	c.Trust = &api.Trust{Authority: local.Authority, Fingerprint: local.Fingerprint, Address: "https://" + net.JoinHostPort(names[0], port)}
	return c, local.TLS(), nil
}

func lower(names []string) []string {
	list := make([]string, len(names))
	for i, name := range names {
		list[i] = strings.ToLower(name)
	}
	return list
}

// say tells where the server is, and what a device needs first.
func (o *outside) say(to io.Writer, address string, c api.Config) error {
	if !o.paired {
		_, err := fmt.Fprintf(to, "Dusha is at http://%s\nOnly this machine reaches it, and whoever sits here may everything.\n", address)
		return err
	}
	at := "https://" + c.Hosts[0]
	if len(c.Proxies) == 0 {
		_, port, _ := net.SplitHostPort(address)
		at = "https://" + net.JoinHostPort(c.Hosts[0], port)
	}
	lines := []string{"Dusha is at " + at, "Only paired devices are let in. Pair one: dusha pair --role owner --address " + at}
	if c.Trust != nil {
		where := at + "/trust"
		if o.trust != "" {
			where += " or http://" + o.trust + "/trust"
		}
		lines = append(lines, "Devices trust it after "+where, "SHA-256 "+c.Trust.Fingerprint)
	}
	_, err := fmt.Fprintln(to, strings.Join(lines, "\n"))
	return err
}

// alone serves how to trust the server, and nothing else, without TLS.
func alone(ctx context.Context, address string, t *api.Trust, log *slog.Logger) {
	server := &http.Server{Addr: address, Handler: t.Alone()}
	api.Harden(server, log)
	context.AfterFunc(ctx, func() { _ = server.Close() })
	if err := server.ListenAndServe(); !errors.Is(err, http.ErrServerClosed) {
		log.Error("the page on trust is not served", "address", address, "error", err)
	}
}

func pairCommand() *cobra.Command {
	c := &cobra.Command{Use: "pair", Short: "Show a one-time code for a device, good for ten minutes", Args: cobra.NoArgs}
	dsn := databaseFlag(c)
	role := c.Flags().String("role", access.Crew, "owner, crew or inspector")
	address := c.Flags().String("address", "", "address at which devices reach the server, for the QR picture, as https://tower.local:8443")
	c.RunE = func(c *cobra.Command, _ []string) error {
		return withStore(c.Context(), *dsn, func(s *store.Store) error {
			code, until, err := access.New(s).Offer(c.Context(), *role, nil)
			if err != nil {
				return err
			}
			out := c.OutOrStdout()
			fmt.Fprintf(out, "%s\nfor one device as %s, until %s\n", code, *role, until.Local().Format("15:04"))
			if *address == "" {
				return nil
			}
			link := api.PairLink(strings.TrimRight(*address, "/"), code)
			fmt.Fprintln(out, link)
			return printQR(out, link)
		})
	}
	return c
}

// printQR writes a QR code in half blocks, dark on light whatever the terminal's colours.
func printQR(to io.Writer, text string) error {
	code, err := qr.Encode(text, qr.L)
	if err != nil {
		return err
	}
	const quiet = 2
	for y := -quiet; y < code.Size+quiet; y += 2 {
		line := "\x1b[30;107m"
		for x := -quiet; x < code.Size+quiet; x++ {
			line += map[[2]bool]string{{true, true}: "█", {true, false}: "▀", {false, true}: "▄", {false, false}: " "}[[2]bool{code.Black(x, y), code.Black(x, y+1)}]
		}
		if _, err := fmt.Fprintln(to, line+"\x1b[0m"); err != nil {
			return err
		}
	}
	return nil
}

func devicesCommand() *cobra.Command {
	c := &cobra.Command{Use: "devices", Short: "List the paired devices, or shut one out", Args: cobra.NoArgs}
	dsn := databaseFlag(c)
	revoke := c.Flags().String("revoke", "", "id of a device that is let in no more")
	c.RunE = func(c *cobra.Command, _ []string) error {
		return withStore(c.Context(), *dsn, func(s *store.Store) error { return devices(c, access.New(s), *revoke) })
	}
	return c
}

func devices(c *cobra.Command, a *access.Access, revoke string) error {
	if revoke != "" {
		id, err := uuid.Parse(revoke)
		if err != nil {
			return fmt.Errorf("%q is no id of a device", revoke)
		}
		done, err := a.Revoke(c.Context(), id)
		if err == nil && !done {
			err = fmt.Errorf("no device %s is let in", revoke)
		}
		if err != nil {
			return err
		}
		if err := a.Note(c.Context(), "revoked", nil, revoke); err != nil {
			return err
		}
	}
	list, err := a.Devices(c.Context())
	if err != nil {
		return err
	}
	for _, d := range list {
		state := fmt.Sprintf("seen %s, %d not delivered", d.SeenAt.Local().Format("2 Jan 15:04"), d.Waiting)
		if d.RevokedAt != nil {
			state = "shut out " + d.RevokedAt.Local().Format("2 Jan 15:04")
		}
		fmt.Fprintf(c.OutOrStdout(), "%s  %-9s  %s  %s\n", d.ID, d.Role, state, d.Name)
	}
	return nil
}
