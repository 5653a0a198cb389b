// Package oneseed gives the random tests of a package one seed, so that a change is what
// breaks them and not the hour. It is imported for that alone. RAPID_SEED in the
// environment, or -rapid.seed, looks elsewhere: what is found there becomes a case.
package oneseed

import (
	"flag"
	"os"
	"strconv"

	_ "pgregory.net/rapid" // has the flags
)

func init() {
	set("rapid.nofailfile", "true") // a file that was left would fail every later run
	if _, told := os.LookupEnv("RAPID_SEED"); !told {
		set("rapid.seed", "20261125")
	}
}

// Seed is the one seed, for what is drawn otherwise.
func Seed() uint64 {
	seed, _ := strconv.ParseUint(flag.Lookup("rapid.seed").Value.String(), 10, 64) // it was parsed as one
	return seed
}

func set(name, value string) {
	if err := flag.Set(name, value); err != nil {
		panic(err)
	}
}

// Hard is how often a heavy test does a thing: so often, and so many times that by make
// hard, or a share of it: KOLVAN_HARD=0.2.
func Hard(times, more int) int {
	share, err := strconv.ParseFloat(os.Getenv("KOLVAN_HARD"), 64)
	if err != nil {
		return times
	}
	return max(times, int(share*float64(times*more)))
}
