package web

import (
	"regexp"
	"sync"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// measures are the small pictures that say what to measure, from where to where,
// by the place of the field.
var measures = []struct {
	at      *regexp.Regexp
	picture string
}{
	{regexp.MustCompile(`^(/card|/chamber/takes)/length_mm$`), "card-length"},
	{regexp.MustCompile(`^(/card|/chamber/takes)/height_mm$`), "card-height"},
	{regexp.MustCompile(`^(/card|/chamber/takes)/thickness_mm$`), "card-thickness"},
	{regexp.MustCompile(`/backplate_mm$`), "backplate"},
	{regexp.MustCompile(`^/card/centre_mm$`), "card-centre"},
	{regexp.MustCompile(`/plugs/\d+/at_mm$`), "plug-at"},
	{regexp.MustCompile(`/stands_out_mm$`), "plug-out"},
	{regexp.MustCompile(`/slots/\d+/length_mm$|/module_mm$`), "module"},
	{regexp.MustCompile(`/trace_mm$`), "trace"},
	{regexp.MustCompile(`^/(route/stages|leads)/\d+/length_mm$`), "cable"},
	{regexp.MustCompile(`/stages/\d+/thickness_mm$`), "thickness"},
	{regexp.MustCompile(`/shell/width_mm$`), "shell-width"},
	{regexp.MustCompile(`/shell/height_mm$`), "shell-height"},
	{regexp.MustCompile(`/hangs_free_mm$`), "hangs-free"},
	{regexp.MustCompile(`/at_(plug|socket)/wall_mm$`), "wall-ahead"},
	{regexp.MustCompile(`/(openings/\d+|opening)/width_mm$`), "opening-width"},
	{regexp.MustCompile(`/(openings/\d+|opening)/height_mm$`), "opening-height"},
	{regexp.MustCompile(`(box|size)/x_mm$|/(bag_|pieces/\d+/)length_mm$`), "along-x"},
	{regexp.MustCompile(`(box|size)/y_mm$|/(bag_|pieces/\d+/)depth_mm$`), "along-y"},
	{regexp.MustCompile(`(box|size)/z_mm$|/(bag_|pieces/\d+/)width_mm$`), "along-z"},
	{regexp.MustCompile(`(at|path/\d+)/x_mm$`), "from-x"},
	{regexp.MustCompile(`(at|path/\d+)/y_mm$`), "from-y"},
	{regexp.MustCompile(`(at|path/\d+)/z_mm$`), "from-z"},
	{regexp.MustCompile(`/u_mm$`), "profile-u"},
	{regexp.MustCompile(`/v_mm$`), "profile-v"},
	{regexp.MustCompile(`/inlet_gap_mm$`), "inlet-gap"},
	{regexp.MustCompile(`/fans/\d+/size_mm$`), "fan-size"},
	{regexp.MustCompile(`/holes_apart_mm$`), "fan-holes"},
	{regexp.MustCompile(`/base_mm$`), "stand-base"},
	{regexp.MustCompile(`/stand/centre_mm$`), "stand-centre"},
	{regexp.MustCompile(`/pull_at_mm$`), "stand-pull"},
	{regexp.MustCompile(`/on_edge_mm$`), "stand-edge"},
	{regexp.MustCompile(`/lifted_mm$`), "stand-lifted"},
	{regexp.MustCompile(`/screw/(length|used)_mm$`), "screw-length"},
	{regexp.MustCompile(`/raised_mm$`), "raised"},
	{regexp.MustCompile(`/slide/by_mm$`), "slide-by"},
}

// inRig are the places at which parts of the bins would stand in a rig.
func inRig(part any) string {
	switch part.(type) {
	case *rig.Host:
		return "/host"
	case *rig.Card:
		return "/card"
	case *rig.Stage:
		return "/route/stages/0"
	case *rig.Supply:
		return "/supplies/0"
	case *rig.Lead:
		return "/leads/0"
	default:
		return ""
	}
}

// measureOf is the picture of a length, by its place in a rig; "" for what is no length.
func measureOf(path string) string {
	if known, asked := pictureAt.Load(path); asked {
		return known.(string)
	}
	picture := ""
	for _, m := range measures {
		if m.at.MatchString(path) {
			picture = m.picture
			break
		}
	}
	pictureAt.Store(path, picture)
	return picture
}

// pictureAt keeps the pictures by place: of places there are no more than the format has.
var pictureAt sync.Map

// measuredWith is what lengths are taken with, each with its tolerance (P).
var measuredWith = []struct {
	name      string
	tolerance units.Millimetre
}{{"a rule", 1.5}, {"a calliper", 0.2}, {"its papers", 0.5}}

// instrumentsOf are the choices of an instrument for a length of that tolerance.
func instrumentsOf(tolerance float64) []choice {
	list := []choice{{"", "measured with", false}}
	for _, i := range measuredWith {
		list = append(list, choice{i.tolerance.String(), i.name + ", ±" + i.tolerance.String(), tolerance == float64(i.tolerance)})
	}
	return list
}
