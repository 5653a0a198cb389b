package rig

import (
	"slices"
	"strings"
)

// Words are the closed list of words that a type has: all that the file takes.
type Words struct {
	all    []string
	spoken map[string]string
}

// word is one of them, and how a person writes it; "" where that is the same.
type word struct{ file, spoken string }

func words(list ...word) *Words {
	w := &Words{spoken: map[string]string{}}
	for _, one := range list {
		w.all = append(w.all, one.file)
		if one.spoken != "" {
			w.spoken[one.file] = one.spoken
		}
	}
	return w
}

// All lists the words as the file has them.
func (w *Words) All() []string { return slices.Clone(w.all) }

// Has reports a word of the list.
func (w *Words) Has(word string) bool { return slices.Contains(w.all, word) }

// Spoken is how a person writes a word; what is none of the list stays as it is.
func (w *Words) Spoken(word string) string {
	if w != nil && w.spoken[word] != "" {
		return w.spoken[word]
	}
	return word
}

// A Worded type has a closed list of words.
type Worded interface{ Words() *Words }

// Spoken is how a person writes a word of the file.
func Spoken[W interface {
	~string
	Worded
}](word W) string {
	return word.Words().Spoken(string(word))
}

// SpokenList is Spoken of each word, with something between.
func SpokenList[W interface {
	~string
	Worded
}](words []W, between string) string {
	list := make([]string, len(words))
	for i, word := range words {
		list[i] = Spoken(word)
	}
	return strings.Join(list, between)
}
