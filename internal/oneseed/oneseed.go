// Package oneseed gives the random tests of a package one seed, so that a change is what
// breaks them and not the hour. It is imported for that alone. RAPID_SEED in the
// environment, or -rapid.seed, looks elsewhere: what is found there becomes a case.
package oneseed

import (
	"flag"
	"os"

	_ "pgregory.net/rapid" // has the flags
)

func init() {
	set("rapid.nofailfile", "true") // a file that was left would fail every later run
	if _, told := os.LookupEnv("RAPID_SEED"); !told {
		set("rapid.seed", "20261125")
	}
}

func set(name, value string) {
	if err := flag.Set(name, value); err != nil {
		panic(err)
	}
}

// Hard is how often a heavy test does a thing: so often, and so many times that by make hard.
func Hard(times, more int) int {
	if os.Getenv("KOLVAN_HARD") != "" {
		return times * more
	}
	return times
}
