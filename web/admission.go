package web

import (
	"errors"
	"net"
	"regexp"
	"slices"
	"strings"
	"sync"

	"github.com/gofiber/fiber/v3"

	"kolvan/pairing"
)

// hostList are the values of the Host header that are answered: names of this machine, and
// those by which it is reached from elsewhere. Addresses may come to it while it serves.
type hostList struct {
	mu    sync.RWMutex
	names []string
}

func (h *hostList) has(name string) bool {
	h.mu.RLock()
	defer h.mu.RUnlock()
	return slices.Contains(h.names, name)
}

func (h *hostList) all() []string {
	h.mu.RLock()
	defer h.mu.RUnlock()
	return slices.Clone(h.names)
}

// beyond are the names that lead here from other machines.
func (h *hostList) beyond() []string {
	return slices.DeleteFunc(h.all(), loopbackName)
}

func (h *hostList) add(names []string) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for _, name := range names {
		if !slices.Contains(h.names, name) {
			h.names = append(h.names, name)
		}
	}
}

// loopbackName reports a name that means this very machine.
func loopbackName(host string) bool {
	name, _, err := net.SplitHostPort(host)
	if err != nil {
		name = host
	}
	ip := net.ParseIP(name)
	return name == "localhost" || ip != nil && ip.IsLoopback()
}

// Network is how devices beyond this machine are let in.
type Network struct {
	Devices *pairing.Book
	// Open listens on the machine's own addresses from now on, and names them, host:port.
	Open func() ([]string, error)
	// Encrypted tells that what is open beyond this machine is; Authority signed for it, unless
	// the certificate is one's own.
	Encrypted bool
	Authority *pairing.Authority
}

// Admit lets in from beyond this machine only what is paired.
func (a *App) Admit(n Network) {
	a.network = n
	a.certify()
}

// certify has certificates made for all names that lead here.
func (a *App) certify() {
	if a.network.Authority != nil {
		a.network.Authority.For(a.hosts.beyond())
	}
}

// from is where a request comes from, as devices are known by it: an address, or any at all over
// an encrypted connection, where nobody overhears the secret.
func from(c fiber.Ctx) string {
	if c.RequestCtx().IsTLS() {
		return ""
	}
	return c.RequestCtx().RemoteIP().String()
}

// visitor is who a request is from.
type visitor struct {
	pairing.Device
	here bool // at this very machine
}

type visitorKey struct{}

func visitorOf(c fiber.Ctx) visitor {
	v, told := c.Locals(visitorKey{}).(visitor)
	return visitor{v.Device, v.here || !told}
}

// open is what a device sees before it is paired.
var open = regexp.MustCompile(`^/(pair|ca\.crt|shared/[0-9a-f]{64}|static/.*)$`)

// admit asks who a request is from, and whether that may do what it asks for.
func (a *App) admit(c fiber.Ctx) error {
	if a.network.Devices == nil || c.RequestCtx().RemoteIP().IsLoopback() && loopbackName(c.Host()) || open.MatchString(c.Path()) {
		return c.Next()
	}
	device, err := a.network.Devices.Who(c.Cookies(a.deviceCookie()), from(c))
	if err != nil {
		return a.unpaired(c, err)
	}
	if !may(device.Rights, c.Method(), c.Path()) {
		return fiber.NewError(fiber.StatusForbidden, "This device may not do that: it was paired "+rightsWords(device.Rights)+".")
	}
	c.Locals(visitorKey{}, visitor{Device: device})
	return c.Next()
}

// deviceCookie is named by the port, as that of pages is.
func (a *App) deviceCookie() string {
	return "kolvan_device_" + a.hosts.all()[0][strings.LastIndex(a.hosts.all()[0], ":")+1:]
}

func rightsWords(r pairing.Rights) string {
	return map[pairing.Rights]string{
		pairing.All: "for all", pairing.Bench: "for the bench: steps, readings, log, pictures, the finder", pairing.Look: "to look",
	}[r]
}

// What a device may ask for by other ways than looking. Whatever is not named here only a device
// that may all asks for; what is about devices, only who sits at this machine.
var (
	ownPage  = regexp.MustCompile(`^/devices(/.*)?$`)
	harmless = regexp.MustCompile(`^/(units|list|lessons)$`) // a choice for this browser alone
	atBench  = regexp.MustCompile(`^/rigs/[0-9]+/(done|hand|step|need|try|untry|tick|line|run|results|keep-expected|look|picture|` +
		`reading|reading/probe|reading/keep|meter/start|meter/tell|meter/import|meter/take)$`)
)

// may is the one place where rights are checked.
func may(r pairing.Rights, method, path string) bool {
	looks := method == fiber.MethodGet || method == fiber.MethodHead
	switch {
	case ownPage.MatchString(path):
		return false
	case looks, harmless.MatchString(path), r == pairing.All:
		return true
	default:
		return r == pairing.Bench && atBench.MatchString(path)
	}
}

// unpaired answers a device that is not let in: with the one page that says how.
func (a *App) unpaired(c fiber.Ctx, why error) error {
	if !errors.Is(why, pairing.ErrUnknown) && !errors.Is(why, pairing.ErrElsewhere) {
		return why
	}
	c.Status(fiber.StatusUnauthorized)
	if c.Get("HX-Request") != "" {
		return c.SendString("This device is not paired, or not any more.")
	}
	return a.pairPage(c, "", "", why.Error())
}
