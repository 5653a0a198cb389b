package reading

import (
	"bufio"
	"bytes"
	"errors"
	"fmt"
	"io"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Bounds of what is read: beyond them a text is no listing of one machine.
const (
	maxBytes   = 64 << 20
	maxLine    = 1 << 20
	maxDevices = 4096
)

// What a text can be refused for.
var (
	ErrEmpty  = errors.New("the text is empty; accepted: the output of lspci -vv, or files of a link such as current_link_speed")
	ErrBinary = errors.New("this is no text; accepted: the output of lspci -vv, or files of a link such as current_link_speed")
	ErrNone   = errors.New(
		"no device of the bus and no link was found in the text; accepted: the output of lspci -vv, files of a link such as " +
			"current_link_speed, or words such as x4, 8.0 GT/s, 4.0 @ x4",
	)
)

// Read reads one text to its end. name is the file's name where there is one: the
// kernel's files say by their name what they hold.
func Read(from io.Reader, name string) (*Reading, error) {
	p := &parser{reading: &Reading{Format: Format, Load: Unknown}, name: path.Base(name), places: map[string]int{}}
	lines := bufio.NewScanner(io.LimitReader(from, maxBytes+1))
	lines.Buffer(make([]byte, 0, 64<<10), maxLine)
	seen, read := false, 0
	for lines.Scan() {
		line := lines.Bytes()
		if read += len(line) + 1; read > maxBytes {
			return nil, fmt.Errorf("the text is longer than %d MB: no listing of one machine is", maxBytes>>20)
		}
		if bytes.IndexByte(line, 0) >= 0 || !utf8.Valid(line) {
			return nil, ErrBinary
		}
		text := strings.TrimRight(strings.TrimPrefix(string(line), "\ufeff"), " \t\r")
		seen = seen || text != ""
		if len(p.plain) < mostPlain && len(text) < maxPlain {
			p.plain = append(p.plain, text)
		}
		if err := p.line(text); err != nil {
			return nil, err
		}
	}
	if errors.Is(lines.Err(), bufio.ErrTooLong) {
		return nil, ErrBinary
	}
	if lines.Err() != nil {
		return nil, fmt.Errorf("reading the text: %w", lines.Err())
	}
	if !seen {
		return nil, ErrEmpty
	}
	return p.finish()
}

// parser keeps what has been read so far.
type parser struct {
	reading *Reading
	name    string
	places  map[string]int // of the devices, by address
	now     int            // the device whose lines are read, from 1
	express bool           // inside its Express capability
	file    string         // the kernel's file whose value comes next
	plain   []string       // the first lines, in case no device is named
}

// A text in plain words is short.
const mostPlain, maxPlain = 200, 400

var (
	headLine = regexp.MustCompile(`^((?:[0-9a-fA-F]{4,8}:)?[0-9a-fA-F]{2}:[0-9a-fA-F]{2}\.[0-7])\s+(?:"?)([^:]+?)(?:\s*\[([0-9a-fA-F]{4})\])?:\s*(.*)$`)
	numbers  = regexp.MustCompile(
		`^((?:[0-9a-fA-F]{4,8}:)?[0-9a-fA-F]{2}:[0-9a-fA-F]{2}\.[0-7])\s+([0-9a-fA-F]{4}):\s*([0-9a-fA-F]{4}:[0-9a-fA-F]{4}.*)$`,
	)
	speed    = regexp.MustCompile(`Speed (unknown|[0-9.]+ ?GT/s)(?: \((\w+)\))?`)
	width    = regexp.MustCompile(`Width (x[0-9]+)(?: \((\w+)\))?`)
	payload  = regexp.MustCompile(`MaxPayload ([0-9]+) bytes`)
	second   = regexp.MustCompile(`secondary=([0-9a-fA-F]{2})`)
	loadMark = regexp.MustCompile(`(?i)^#\s*load:\s*(idle|loaded)\s*$`)
)

// line takes in one line of either kind of text.
func (p *parser) line(text string) error {
	if m := loadMark.FindStringSubmatch(text); m != nil {
		p.reading.Load = Load(strings.ToLower(m[1]))
		return nil
	}
	if text == "" || strings.HasPrefix(text, "#") {
		return nil
	}
	if m := numbers.FindStringSubmatch(text); m != nil {
		return p.start(m[1], classes[strings.ToLower(m[2])], m[3])
	}
	if m := headLine.FindStringSubmatch(text); m != nil {
		class := m[2]
		if named := classes[strings.ToLower(m[3])]; named != "" {
			class = named
		}
		return p.start(m[1], class, m[4])
	}
	if p.now > 0 && p.reading.Source.Kind == Listing {
		p.detail(strings.TrimSpace(text))
		return nil
	}
	return p.kernel(text)
}

// classes are the classes of devices that matter here, by number.
var classes = map[string]string{
	"0300": "VGA compatible controller", "0302": "3D controller", "0380": "Display controller", "0604": "PCI bridge",
}

func (p *parser) start(address, class, name string) error {
	p.reading.Source = Source{Listing, "lspci"}
	return p.device(normal(address), class, name)
}

// normal writes an address without the domain nearly every machine has.
func normal(address string) string {
	return strings.TrimPrefix(strings.ToLower(address), "0000:")
}

// device goes to the device at an address, a new one or one that was met before.
func (p *parser) device(address, class, name string) error {
	p.express = false
	if i, met := p.places[address]; met {
		p.now = i
		return nil
	}
	if len(p.reading.Devices) == maxDevices {
		return fmt.Errorf("the text lists more than %d devices: no machine has as many", maxDevices)
	}
	p.reading.Devices = append(p.reading.Devices, Device{Address: address, Class: class, Name: name, Downgraded: []string{}})
	p.now = len(p.reading.Devices)
	p.places[address] = p.now
	return nil
}

// detail takes in one indented line of a device.
func (p *parser) detail(text string) {
	d := &p.reading.Devices[p.now-1]
	key, rest, _ := strings.Cut(text, ":")
	switch {
	case key == "Bus":
		if m := second.FindStringSubmatch(rest); m != nil {
			d.secondary = strings.ToLower(m[1])
		}
	case key == "Capabilities":
		p.express = strings.Contains(rest, "Express (v") || strings.Contains(rest, "Express Root") ||
			strings.Contains(rest, "Express Endpoint") ||
			strings.Contains(rest, "Express Legacy")
		if p.express {
			d.port = portOf(rest)
		}
	case key == "LnkCap":
		d.Capable = linkIn(rest, d.Capable)
	case key == "LnkSta":
		d.Now = linkIn(rest, d.Now)
		d.marks(rest)
	case key == "DevSta":
		d.Errors = Errors{Correctable: flag(rest, "CorrErr"), NonFatal: flag(rest, "NonFatalErr"), Fatal: flag(rest, "FatalErr")}
	case key == "CESta":
		d.Errors.Correctable = max(d.Errors.Correctable, flags(rest))
	case p.express && strings.HasPrefix(text, "MaxPayload"):
		if m := payload.FindStringSubmatch(text); m != nil {
			d.Payload, _ = strconv.Atoi(m[1])
		}
	}
}

func portOf(rest string) string {
	for _, port := range []string{"Root Port", "Upstream Port", "Downstream Port", "Endpoint"} {
		if strings.Contains(rest, port) {
			return strings.ToLower(strings.TrimSuffix(port, " Port"))
		}
	}
	return ""
}

func linkIn(rest string, link Link) Link {
	if m := speed.FindStringSubmatch(rest); m != nil {
		link.Gen = GenOf(m[1])
	}
	if m := width.FindStringSubmatch(rest); m != nil {
		link.Width = widthOf(m[1])
	}
	return link
}

// marks takes in what the tool itself marks as downgraded.
func (d *Device) marks(rest string) {
	for what, m := range map[string][]string{"speed": speed.FindStringSubmatch(rest), "width": width.FindStringSubmatch(rest)} {
		if m != nil && m[2] == "downgraded" && !slices.Contains(d.Downgraded, what) {
			d.Downgraded = append(d.Downgraded, what)
		}
	}
	slices.Sort(d.Downgraded)
}

// flag reads "CorrErr+" as one and "CorrErr-" as none; "NonFatalErr+" is no
// "FatalErr+".
func flag(rest, name string) int {
	for word := range strings.FieldsSeq(rest) {
		if word == name+"+" {
			return 1
		}
	}
	return 0
}

// flags counts the bits that are set. Advisory ones are no errors of the link.
func flags(rest string) (set int) {
	for word := range strings.FieldsSeq(rest) {
		if strings.HasSuffix(word, "+") && !strings.HasPrefix(word, "Adv") {
			set++
		}
	}
	return set
}

// finish joins the devices and looks for the card.
func (p *parser) finish() (*Reading, error) {
	r := p.reading
	if len(r.Devices) == 0 {
		d, load, told := plainly(p.plain)
		if !told {
			return nil, ErrNone
		}
		d.Address, d.Name, d.Downgraded, d.Class = "card", "the card, as typed", []string{}, "display controller"
		d.downgrade()
		r.Source, r.Devices, r.Load, r.Card = Source{Kind: Plain, Tool: "plain words"}, []Device{d}, load, d.Address
		return r, nil
	}
	below := map[string]string{}
	for i := range r.Devices {
		if d := &r.Devices[i]; d.secondary != "" {
			domain := strings.TrimSuffix(bus(d.Address), lastBus(bus(d.Address)))
			below[domain+d.secondary] = d.Address
		}
	}
	for i := range r.Devices {
		d := &r.Devices[i]
		if d.Above == "" && below[bus(d.Address)] != d.Address {
			d.Above = below[bus(d.Address)]
		}
		d.downgrade()
	}
	r.Card = r.findCard()
	return r, nil
}

func lastBus(b string) string {
	if i := strings.LastIndexByte(b, ':'); i >= 0 {
		return b[i+1:]
	}
	return b
}

// findCard looks for the card: a device that draws behind a bridge, or with a link
// of its own; graphics of the processor hang on the root and have none. The kernel's
// files of a link need not say what draws: there it is the end that was asked about.
func (r *Reading) findCard() string {
	best, score := "", 0
	for i := range r.Devices {
		d := &r.Devices[i]
		s := 0
		if d.isCard() {
			if d.Above != "" || lastBus(bus(d.Address)) != "00" {
				s += 2
			}
			if d.Now.Width > 0 {
				s++
			}
		}
		if s > score {
			best, score = d.Address, s
		}
	}
	if best != "" || r.Source.Kind == Listing && len(r.Devices) > 1 {
		return best
	}
	for i := range r.Devices {
		if d := &r.Devices[i]; (r.Source.Kind == Files || d.Now != (Link{})) && !r.isAbove(d.Address) {
			best = d.Address
		}
	}
	return best
}

func (r *Reading) isAbove(address string) bool {
	return slices.ContainsFunc(r.Devices, func(d Device) bool { return d.Above == address })
}
