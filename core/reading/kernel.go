package reading

import (
	"path"
	"regexp"
	"strconv"
	"strings"
)

// The kernel's files of a device that are read.
var files = map[string]func(d *Device, value string){
	"current_link_speed": func(d *Device, value string) { d.Now.Gen = GenOf(value) },
	"current_link_width": func(d *Device, value string) { d.Now.Width = widthOf(value) },
	"max_link_speed":     func(d *Device, value string) { d.Capable.Gen = GenOf(value) },
	"max_link_width":     func(d *Device, value string) { d.Capable.Width = widthOf(value) },
	"class":              func(d *Device, value string) { d.Class = classOf(value) },
	"aer_dev_correctable": func(d *Device, value string) {
		d.Errors.Correctable = max(d.Errors.Correctable, totalOf(value, "TOTAL_ERR_COR", d.Errors.Correctable))
	},
	"aer_dev_fatal": func(d *Device, value string) {
		d.Errors.Fatal = max(d.Errors.Fatal, totalOf(value, "TOTAL_ERR_FATAL", d.Errors.Fatal))
	},
	"aer_dev_nonfatal": func(d *Device, value string) {
		d.Errors.NonFatal = max(d.Errors.NonFatal, totalOf(value, "TOTAL_ERR_NONFATAL", d.Errors.NonFatal))
	},
}

// totalOf reads one line of a file of counts: its total stands for all, and a single
// count where no total follows.
func totalOf(value, total string, sofar int) int {
	name, number, _ := strings.Cut(strings.TrimSpace(value), " ")
	n, err := strconv.Atoi(strings.TrimSpace(number))
	if err != nil || n < 0 {
		return sofar
	}
	if name == total {
		return n
	}
	return max(sofar, n)
}

// classOf reads "0x030000".
func classOf(value string) string {
	number := strings.TrimPrefix(strings.TrimSpace(strings.ToLower(value)), "0x")
	if len(number) >= 4 {
		if class := classes[number[:4]]; class != "" {
			return class
		}
	}
	return value
}

var (
	address = regexp.MustCompile(`(?:[0-9a-fA-F]{4,8}:)?[0-9a-fA-F]{2}:[0-9a-fA-F]{2}\.[0-7]`)
	header  = regexp.MustCompile(`^==>\s*(.+?)\s*<==$`)
	keyed   = regexp.MustCompile(`^(?:(.*)/)?([a-z_]+)\s*[:=]\s*(.*)$`)
)

// kernel takes in one line of the kernel's files: as grep and head print them, as a
// person writes them down, or the bare value of a file that is named.
func (p *parser) kernel(text string) error {
	if m := header.FindStringSubmatch(text); m != nil {
		p.file = path.Base(m[1])
		return p.at(m[1])
	}
	if m := keyed.FindStringSubmatch(text); m != nil && files[m[2]] != nil {
		if err := p.at(m[1]); err != nil {
			return err
		}
		p.file = m[2]
		return p.value(m[2], m[3])
	}
	if p.file == "" && files[p.name] != nil {
		p.file = p.name
	}
	if p.file != "" {
		return p.value(p.file, text)
	}
	if where := address.FindString(text); where != "" && strings.TrimSpace(text) == where {
		return p.at(where)
	}
	return nil
}

// at goes to the device a path names; its last address is the device, and the one
// before it the bridge above.
func (p *parser) at(where string) error {
	all := address.FindAllString(where, -1)
	for i, a := range all {
		if err := p.device(normal(a), "", ""); err != nil {
			return err
		}
		if i > 0 {
			p.reading.Devices[p.now-1].Above = normal(all[i-1])
		}
	}
	return nil
}

func (p *parser) value(file, value string) error {
	if p.now == 0 {
		if err := p.device("the device", "", ""); err != nil {
			return err
		}
	}
	p.reading.Source = Source{Files, "kernel"}
	files[file](&p.reading.Devices[p.now-1], strings.TrimSpace(value))
	return nil
}
