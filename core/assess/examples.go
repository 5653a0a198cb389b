package assess

import (
	_ "embed"
	"sync"

	"github.com/go-json-experiment/json"
)

// examplesText is made of the rule cases by their test.
//
//go:embed examples.json
var examplesText []byte

var examples = sync.OnceValues(func() (map[string]string, error) {
	all := map[string]string{}
	return all, json.Unmarshal(examplesText, &all)
})

// Example is what a rule says in one of its cases; empty for a rule that only asks.
func Example(rule string) (string, error) {
	all, err := examples()
	return all[rule], err
}
