// Command mutate makes one small fault at a time in code that tests cover, and counts how
// many the tests catch: each against the tests of its package and the rule cases. The faults
// are drawn by a seed, which it prints; those that nobody can tell from the code as it is
// stand in equivalent.txt. Nothing in the tree is changed: the compiler reads an overlay.
package main

import (
	"bufio"
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

//go:embed equivalent.txt
var equivalent string

// ruleCases are the tests that hold each rule to its level in each of its cases, and the demo
// to all that is said of it.
const ruleCases, ofTheRules = "./core/assess", "TestRules$|TestWholeDemo"

// patience is how long the tests of one fault may take: one that never ends is caught.
const patience = 60 * time.Second

func main() {
	seed := flag.Uint64("seed", uint64(time.Now().Unix()), "what draws the faults")
	count := flag.Int("n", 100, "how many faults to make")
	packages := flag.String("packages", "./core/...,./store", "where, with commas")
	flag.Parse()
	if err := run(*seed, *count, strings.Split(*packages, ",")); err != nil {
		fmt.Fprintln(os.Stderr, "mutate:", err)
		os.Exit(1)
	}
}

func run(seed uint64, count int, packages []string) error {
	dir, err := os.MkdirTemp("", "mutate")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	covered, err := coveredLines(filepath.Join(dir, "cover"), packages)
	if err != nil {
		return err
	}
	var faults []fault
	for file, lines := range covered {
		of, err := faultsOf(file, lines)
		if err != nil {
			return err
		}
		faults = append(faults, of...)
	}
	slices.SortFunc(faults, func(a, b fault) int { return strings.Compare(a.String(), b.String()) })
	fmt.Printf("seed %d; %d faults can be made\n", seed, len(faults))
	rng := rand.New(rand.NewPCG(seed, 0))
	rng.Shuffle(len(faults), func(i, j int) { faults[i], faults[j] = faults[j], faults[i] })
	made, caught := 0, 0
	for _, f := range faults {
		if made == count {
			break
		}
		if strings.Contains(equivalent, f.String()+"\n") {
			continue
		}
		verdict, err := f.try(dir)
		switch {
		case err != nil:
			return err
		case verdict == noCode:
			continue
		case verdict == isCaught:
			caught++
		default:
			fmt.Println("not caught:", f)
		}
		made++
	}
	fmt.Printf("%d of %d caught\n", caught, made)
	return nil
}

// coveredLines runs the tests once and tells which lines of each file they reach.
func coveredLines(profile string, packages []string) (map[string]map[int]bool, error) {
	args := append([]string{"test", "-count", "1", "-coverprofile", profile, "-coverpkg", strings.Join(packages, ",")}, packages...)
	if out, err := exec.Command("go", args...).CombinedOutput(); err != nil {
		return nil, fmt.Errorf("the tests do not pass as they are: %w\n%s", err, out)
	}
	file, err := os.Open(profile)
	if err != nil {
		return nil, err
	}
	defer file.Close()
	covered := map[string]map[int]bool{}
	lines := bufio.NewScanner(file)
	for lines.Scan() {
		name, block, _ := strings.Cut(strings.TrimPrefix(lines.Text(), "kolvan/"), ":")
		var from, to, column, statements, times int
		if n, _ := fmt.Sscanf(block, "%d.%d,%d.%d %d %d", &from, &column, &to, &column, &statements, &times); n != 6 || times == 0 {
			continue
		}
		if covered[name] == nil {
			covered[name] = map[int]bool{}
		}
		for line := from; line <= to; line++ {
			covered[name][line] = true
		}
	}
	return covered, lines.Err()
}

// A verdict is what the tests made of a fault.
type verdict int

const (
	isMissed verdict = iota
	isCaught
	noCode // it does not compile, and counts for nothing
)

// try runs the tests of the fault's package, and the rule cases, with the fault in.
func (f *fault) try(dir string) (verdict, error) {
	changed, overlay := filepath.Join(dir, "changed.go"), filepath.Join(dir, "overlay.json")
	was, err := os.ReadFile(f.file)
	if err != nil {
		return 0, err
	}
	whole, err := filepath.Abs(f.file)
	if err != nil {
		return 0, err
	}
	note, err := json.Marshal(map[string]any{"Replace": map[string]string{whole: changed}})
	if err != nil {
		return 0, err
	}
	now := slices.Concat(was[:f.from], []byte(f.now), was[f.to:])
	if err := errors.Join(os.WriteFile(changed, now, 0o600), os.WriteFile(overlay, note, 0o600)); err != nil {
		return 0, err
	}
	of := "./" + filepath.Dir(f.file)
	if exec.Command("go", "build", "-overlay", overlay, of).Run() != nil {
		return noCode, nil
	}
	if fails(overlay, of, ".") || strings.HasPrefix(f.file, "core/") && of != ruleCases && fails(overlay, ruleCases, ofTheRules) {
		return isCaught, nil
	}
	return isMissed, nil
}

func fails(overlay, of, tests string) bool {
	ctx, cancel := context.WithTimeout(context.Background(), patience)
	defer cancel()
	cmd := exec.CommandContext(ctx, "go", "test", "-overlay", overlay, "-count", "1", "-failfast", "-run", tests, of)
	cmd.WaitDelay = time.Second
	return cmd.Run() != nil
}
