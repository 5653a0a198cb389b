package web

import (
	"errors"
	"fmt"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/pairing"
	"kolvan/store"
	"kolvan/web/fields"
	"kolvan/web/phrase"
	"kolvan/web/room"
	"kolvan/web/sheet"
)

// devicesView is the page of the devices that may come in.
type devicesView struct {
	Open    []string // addresses that are listened on beyond this machine
	CanOpen bool
	Rows    []deviceRow
	Rights  []fields.Choice
	Invited *invitedView
	Rigs    []rigToShare
	Links   []deviceRow
	Fault   string

	Encrypted   bool
	Fingerprint string // of the authority a device has to take in; "" for none
}

type deviceRow struct{ ID, Name, Rights, Address, Used string }

type rigToShare struct {
	ID   int64
	Name string
}

// invitedView is an invitation, or a link to a sheet: one code for each address it leads to.
type invitedView struct {
	Head, Says string
	At         []invitedAt
}

type invitedAt struct {
	Link, Address string
	Code          pairing.Drawn
}

func (a *App) devicesOf(c fiber.Ctx) (*devicesView, error) {
	v := &devicesView{Open: a.hosts.beyond(), CanOpen: a.network.Open != nil, Encrypted: a.network.Encrypted, Fingerprint: a.Fingerprint()}
	for _, d := range a.network.Devices.Devices() {
		v.Rows = append(v.Rows, deviceRow{d.ID, d.Name, rightsWords(d.Rights), phrase.Or(d.Address, "anywhere, encrypted"),
			phrase.When(d.Used.Format(time.RFC3339))})
	}
	for _, r := range pairing.Known {
		v.Rights = append(v.Rights, fields.Choice{Value: string(r), Label: rightsWords(r), On: string(r) == c.FormValue("rights",
			string(pairing.Bench))})
	}
	for _, l := range a.network.Devices.Links() {
		v.Links = append(v.Links, deviceRow{ID: l.ID, Name: l.Name, Used: phrase.When(l.Until.Format(time.RFC3339))})
	}
	rigs, _, err := a.store.List(c.Context(), store.Query{Kind: store.RigKind})
	for _, e := range rigs {
		v.Rigs = append(v.Rigs, rigToShare{e.ID, e.Name})
	}
	return v, err
}

// here answers only who sits at this machine: what is about devices is not for devices.
func (a *App) here(next fiber.Handler) fiber.Handler {
	return a.paired(func(c fiber.Ctx) error {
		if !visitorOf(c).here {
			return fiber.NewError(fiber.StatusForbidden, "Devices are paired and ended at the machine where Kolvan runs.")
		}
		return next(c)
	})
}

// paired answers only where devices can be paired at all.
func (a *App) paired(next fiber.Handler) fiber.Handler {
	return func(c fiber.Ctx) error {
		if a.network.Devices == nil {
			return fiber.NewError(fiber.StatusNotFound, "Devices can be paired where Kolvan serves a data file of one's own.")
		}
		return next(c)
	}
}

func (a *App) devices(c fiber.Ctx) error { return a.showDevices(c, nil, nil) }

// showDevices shows the page, with what was just made, or why nothing was.
func (a *App) showDevices(c fiber.Ctx, made *invitedView, fault error) error {
	v, err := a.devicesOf(c)
	if err != nil {
		return err
	}
	v.Invited = made
	if fault != nil {
		v.Fault = fault.Error()
		c.Status(fiber.StatusUnprocessableEntity)
	}
	return a.page(c, "devices", fiber.Map{"Title": "Devices", "Devices": v})
}

// openNetwork listens beyond this machine from now on.
func (a *App) openNetwork(c fiber.Ctx) error {
	if err := a.OpenNetwork(); err != nil {
		return a.showDevices(c, nil, err)
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To("/devices")
}

// OpenNetwork listens on the machine's own addresses, where that can be done.
func (a *App) OpenNetwork() error {
	if a.network.Open == nil {
		return errors.New("this Kolvan does not listen beyond its machine")
	}
	names, err := a.network.Open()
	if err == nil && len(names) == 0 {
		err = errors.New("this machine has no address that others reach")
	}
	a.hosts.add(names)
	a.certify()
	return err
}

// scheme begins the addresses beyond this machine.
func (a *App) scheme() string {
	if a.network.Encrypted {
		return "https://"
	}
	return "http://"
}

// Fingerprint is that of the authority a device has to take in; "" for none.
func (a *App) Fingerprint() string {
	if a.network.Authority == nil {
		return ""
	}
	return a.network.Authority.Fingerprint()
}

// authority hands out the certificate that devices take in.
func (a *App) authority(c fiber.Ctx) error {
	if a.network.Authority == nil {
		return fiber.NewError(fiber.StatusNotFound, "There is no certificate to take in.")
	}
	c.Attachment("kolvan-ca.crt")
	c.Set(fiber.HeaderContentType, "application/x-x509-ca-cert")
	return c.Send(a.network.Authority.Certificate())
}

// Invitation is an invitation for a device, and the addresses it can be taken at.
func (a *App) Invitation(r pairing.Rights) (links []string, until time.Time, err error) {
	token, until, err := a.network.Devices.Invite(r)
	return a.leadingTo("/pair?invitation=" + token), until, err
}

// leadingTo are the addresses of a page beyond this machine.
func (a *App) leadingTo(page string) (links []string) {
	for _, host := range a.hosts.beyond() {
		links = append(links, a.scheme()+host+page)
	}
	return links
}

func (a *App) invite(c fiber.Ctx) error {
	rights := pairing.Rights(c.FormValue("rights"))
	links, until, err := a.Invitation(rights)
	if err != nil {
		return a.showDevices(c, nil, err)
	}
	return a.showCodes(c, links, "Point the device’s camera here, until "+until.Format("15:04:05"), "Good for one device, "+
		rightsWords(rights)+".")
}

// showCodes shows the page with a code for each address.
func (a *App) showCodes(c fiber.Ctx, links []string, head, says string) error {
	v := &invitedView{Head: head, Says: says}
	for _, link := range links {
		code, err := pairing.Draw(link)
		if err != nil {
			return err
		}
		v.At = append(v.At, invitedAt{link, PairedAt(link), code})
	}
	return a.showDevices(c, v, nil)
}

// share makes a link to the sheet of one rig, to look, until a day.
func (a *App) share(c fiber.Ctx) error {
	id, err := strconv.ParseInt(c.FormValue("rig"), 10, 64)
	if err != nil {
		return a.showDevices(c, nil, errors.New("choose a rig"))
	}
	l, err := a.loadRig(c.Context(), id)
	if err != nil {
		return err
	}
	days, err := strconv.Atoi(c.FormValue("days"))
	if err != nil {
		return a.showDevices(c, nil, fmt.Errorf("%q is not accepted; accepted: 1 to 365 days", c.FormValue("days")))
	}
	token, err := a.network.Devices.Share(id, l.rig.Name, time.Duration(days)*24*time.Hour)
	if err != nil {
		return a.showDevices(c, nil, err)
	}
	return a.showCodes(c, a.leadingTo("/shared/"+token), "The sheet of "+l.rig.Name,
		fmt.Sprintf("To look at, for %d days; no device is paired by it.", days))
}

// shared shows the sheet that a link opens, without money, names and diary.
func (a *App) shared(c fiber.Ctx) error {
	id, err := a.network.Devices.Shared(c.Params("token"))
	if err != nil {
		return fiber.NewError(fiber.StatusNotFound, finding.Begin(err.Error())+".")
	}
	l, err := a.loadRig(c.Context(), id)
	if err != nil {
		return err
	}
	out, err := sheet.LeftOut(nil, nil)
	if err != nil {
		return err
	}
	report := assess.Rig(l.rig, a.ref)
	s := sheet.Make(l.rig, &report, a.ref, inches(c))
	s.Without(out)
	s.Alone = true
	return a.page(c, "shared", fiber.Map{"Title": l.rig.Name, "Region": &region{Desk: &room.Desk{}, Name: l.rig.Name, Room: s}})
}

func (a *App) endDevice(c fiber.Ctx) error {
	if err := a.network.Devices.End(c.Params("device")); err != nil {
		return err
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To("/devices")
}

// pair is the page a device sees before it is let in.
func (a *App) pair(c fiber.Ctx) error { return a.pairPage(c, c.Query("invitation"), "", "") }

func (a *App) pairPage(c fiber.Ctx, invitation, name, why string) error {
	return a.page(c, "pair", fiber.Map{
		"Title": "Pair this device", "Invitation": invitation, "Name": name, "Why": why, "Encrypted": a.network.Encrypted,
		"Fingerprint": a.Fingerprint(),
	})
}

// cookieLife is how long a browser keeps that it is paired.
const cookieLife = 365 * 24 * time.Hour

// pairDevice takes an invitation.
func (a *App) pairDevice(c fiber.Ctx) error {
	token, name := c.FormValue("invitation"), strings.Clone(c.FormValue("name")) // it outlives the request, whose memory is used again
	secret, err := a.network.Devices.Pair(token, name, from(c))
	if err != nil {
		status := fiber.StatusUnprocessableEntity
		if errors.Is(err, pairing.ErrTries) {
			status = fiber.StatusTooManyRequests
		}
		c.Status(status)
		return a.pairPage(c, token, name, err.Error())
	}
	c.Cookie(&fiber.Cookie{
		Name: a.deviceCookie(), Value: secret, Path: "/", MaxAge: int(cookieLife.Seconds()), SameSite: "Strict", HTTPOnly: true,
		Secure: c.RequestCtx().IsTLS(),
	})
	return c.Redirect().Status(fiber.StatusSeeOther).To("/")
}

// PairedAt is where the bench is on a paired device, for the terminal.
func PairedAt(link string) string {
	u, err := url.Parse(link)
	if err != nil {
		return link
	}
	return fmt.Sprintf("%s://%s", u.Scheme, u.Host)
}
