package rig

import (
	"bytes"
	"fmt"
	"reflect"
	"slices"
	"strconv"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"
)

// Merge puts what was changed from base to mine on theirs, which was changed from base too: all
// three are documents of one kind. clashes are the places (JSON Pointers) that both changed, and
// not to the same; merged is nil then. Entries of lists are known again by their names; those
// that both sides added stand one after the other, theirs first. Whether the outcome holds as a
// document is for who decodes it to say.
func Merge(base, mine, theirs []byte) (merged []byte, clashes []string, err error) {
	var docs [3]any
	for i, doc := range [][]byte{base, mine, theirs} {
		if err := json.Unmarshal(bytes.TrimPrefix(doc, []byte("\xef\xbb\xbf")), &docs[i], jsontext.AllowDuplicateNames(true)); err != nil {
			return nil, nil, fmt.Errorf("merging: %w", err)
		}
	}
	m := merger{}
	joined := m.join("", docs[0], docs[1], docs[2])
	if len(m.clashes) > 0 {
		return nil, m.clashes, nil
	}
	merged, err = json.Marshal(joined)
	if err != nil {
		return nil, nil, fmt.Errorf("merging: %w", err)
	}
	return merged, nil, nil
}

// absent is what a side has not.
type absent struct{}

type merger struct{ clashes []string }

func (m *merger) join(at string, base, mine, theirs any) any {
	switch {
	case reflect.DeepEqual(mine, base), reflect.DeepEqual(mine, theirs):
		return theirs
	case reflect.DeepEqual(theirs, base):
		return mine
	}
	if b, i, t, all := allOf[map[string]any](base, mine, theirs); all && b["value"] == nil && i["value"] == nil && t["value"] == nil {
		return m.joinMembers(at, b, i, t) // a fact is whole: its value and its source are of one hand
	}
	if b, i, t, all := allOf[[]any](base, mine, theirs); all {
		if joined, can := m.joinEntries(at, b, i, t); can {
			return joined
		}
	}
	m.clashes = append(m.clashes, at)
	return theirs
}

// allOf are all three as of one type; a base that is not there stands for an empty one.
func allOf[T any](base, mine, theirs any) (b, i, t T, all bool) {
	b, fits := base.(T)
	_, none := base.(absent)
	i, isMine := mine.(T)
	t, isTheirs := theirs.(T)
	return b, i, t, (fits || none) && isMine && isTheirs
}

func (m *merger) joinMembers(at string, base, mine, theirs map[string]any) map[string]any {
	joined := map[string]any{}
	for _, side := range []map[string]any{base, mine, theirs} {
		for name := range side {
			if _, done := joined[name]; done {
				continue
			}
			joined[name] = m.join(at+"/"+name, member3(base, name), member3(mine, name), member3(theirs, name))
		}
	}
	for name, value := range joined {
		if value == (absent{}) {
			delete(joined, name)
		}
	}
	return joined
}

func member3(side map[string]any, name string) any {
	if value, has := side[name]; has {
		return value
	}
	return absent{}
}

// joinEntries joins lists entry by entry; it cannot where two entries bear one name, or where
// both sides put them in another order.
func (m *merger) joinEntries(at string, base, mine, theirs []any) (joined []any, can bool) {
	b, i, t := keysOf(base), keysOf(mine), keysOf(theirs)
	if b == nil || i == nil || t == nil || !slices.Equal(among(i, b), among(b, i)) {
		return nil, false
	}
	entry := func(list []any, keys []string, key string) any {
		if k := slices.Index(keys, key); k >= 0 {
			return list[k]
		}
		return absent{}
	}
	joined = []any{}
	for _, key := range append(slices.Clone(t), without(i, t)...) {
		place := at + "/" + strconv.Itoa(max(slices.Index(t, key), 0))
		if one := m.join(place, entry(base, b, key), entry(mine, i, key), entry(theirs, t, key)); one != (absent{}) {
			joined = append(joined, one)
		}
	}
	return joined, true
}

// tellApart are the members that tell one entry of a list from the others, by their worth.
var tellApart = []string{"name", "step", "occupant", "thing"}

// keysOf are what the entries of a list are known by, in their order; nil where two are the same.
func keysOf(list []any) []string {
	keys := make([]string, 0, len(list))
	for _, one := range list {
		key := fmt.Sprint(one)
		if members, is := one.(map[string]any); is {
			for _, name := range tellApart {
				if text, told := members[name].(string); told {
					key = name + " " + text
					break
				}
			}
		}
		if slices.Contains(keys, key) {
			return nil
		}
		keys = append(keys, key)
	}
	return keys
}

func among(keys, of []string) []string {
	return slices.DeleteFunc(slices.Clone(keys), func(k string) bool { return !slices.Contains(of, k) })
}

func without(keys, of []string) []string {
	return slices.DeleteFunc(slices.Clone(keys), func(k string) bool { return slices.Contains(of, k) })
}
