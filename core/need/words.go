package need

import (
	"fmt"
	"strconv"
	"strings"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// partName is what a person calls the part of a lever.
func partName(r *rig.Rig, l *lever) string {
	switch {
	case l.spec.ByOwner && l.spec.Unit == "W":
		return "a cap on the card's power"
	case l.spec.ByOwner && strings.HasPrefix(l.at, "/supplies/"):
		_, name := r.Subject(l.at)
		return "what switches " + name + " on"
	case l.spec.ByOwner:
		return l.spec.Called
	case l.part == "/card" && r.Card.Name != "":
		return r.Card.Name
	}
	_, name := r.Subject(l.part)
	return name
}

// titles are those of troubles, each once.
func titles(list []Trouble) string {
	var words []string
	seen := map[string]bool{}
	for _, t := range list {
		if !seen[t.Title] {
			seen[t.Title] = true
			words = append(words, t.Title)
		}
	}
	return strings.Join(words, "; ")
}

// value is a word as the file has it: a number, yes or no, a list, or the word.
func (l *lever) value(word string) any {
	switch l.spec.Kind {
	case rig.Flag:
		return word == "true"
	case rig.Number, rig.Whole:
		v, err := strconv.ParseFloat(word, 64)
		if err == nil {
			return v
		}
	case rig.TextList:
		return strings.Split(word, ", ")
	}
	return word
}

// label is what the lever is called, with the plug, rail or end it belongs to.
func (l *lever) label(r *rig.Rig) string {
	if l.part == l.at {
		return l.spec.Called
	}
	rest := strings.TrimPrefix(l.at, l.part+"/")
	list, rest, nested := strings.Cut(rest, "/")
	place, _, entry := strings.Cut(rest, "/")
	if !nested || !entry {
		if nested {
			return rig.Called(r, l.part+"/"+list) + ": " + l.spec.Called
		}
		return l.spec.Called
	}
	of := rig.Called(r, l.part+"/"+list+"/"+place)
	if i, err := strconv.Atoi(place); err == nil {
		of = fmt.Sprintf("%s %d", of, i+1)
		if name, _, err := rig.At(r, l.part+"/"+list+"/"+place+"/name"); err == nil && name.String() != "" {
			of = rig.Called(r, l.part+"/"+list+"/"+place) + " " + name.String()
		}
	}
	return of + ": " + l.spec.Called
}

// ways a figure may go on, by its unit.
var more, less = map[string]string{"mm": "or longer", "AWG": "or thinner"}, map[string]string{"mm": "or shorter", "AWG": "or thicker"}

// saysExactly is a figure that may be neither more nor less, on one line.
func (l *lever) saysExactly(r *rig.Rig, v float64) string {
	return l.label(r) + " " + l.figure(v) + ", just that"
}

// saysNumber is a bound on one line; sure is from where on it certainly holds.
func (l *lever) saysNumber(r *rig.Rig, from, sure float64, up bool) string {
	words, usual := less, "or less"
	if up {
		words, usual = more, "or more"
	}
	way := words[l.spec.Unit]
	if way == "" {
		way = usual
	}
	text := l.label(r) + " " + l.figure(from) + " " + way
	if sure != from {
		text += ", surely from " + l.figure(sure)
	}
	return text
}

func (l *lever) figure(v float64) string {
	figure := units.Trim(v, 3)
	switch {
	case l.spec.Unit == "AWG":
		return "AWG " + figure
	case strings.HasPrefix(l.spec.Unit, "°"), l.spec.Unit == "":
		return figure + l.spec.Unit
	default:
		return figure + " " + l.spec.Unit
	}
}

func (l *lever) saysOneOf(r *rig.Rig, values []any) string {
	words := make([]string, len(values))
	for i, v := range values {
		words[i] = fmt.Sprint(v)
		switch v := v.(type) {
		case string:
			if l.spec.Words != nil {
				words[i] = l.spec.Words.Spoken(v)
			}
		case bool:
			words[i] = map[bool]string{true: "yes", false: "no"}[v]
		case []string:
			words[i] = strings.Join(v, " and ")
		case float64:
			words[i] = l.figure(v)
		}
	}
	return l.label(r) + " " + strings.Join(words, " or ")
}
