// Command notices writes THIRD_PARTY.md: every module and package that ships in the
// program, with its licence. It reads what the build uses, so that nothing is forgotten.
package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
)

// shipped is one thing of somebody else's in the program.
type shipped struct {
	name, version, dir string
}

// assets is where the packages of npm are bundled from; what only builds them is told apart there
// and does not ship.
const assets = "web/assets"

func main() {
	if err := run(); err != nil {
		fmt.Fprintln(os.Stderr, "notices:", err)
		os.Exit(1)
	}
}

func run() error {
	all, err := modules()
	if err != nil {
		return err
	}
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return fmt.Errorf("finding Go: %w", err)
	}
	all = append(all, shipped{"the Go standard library", "", strings.TrimSpace(string(root))})
	packages, err := packagesOf(assets)
	if err != nil {
		return err
	}
	for _, name := range packages {
		one, err := packageOf(name)
		if err != nil {
			return err
		}
		all = append(all, one)
	}
	out := bufio.NewWriter(os.Stdout)
	fmt.Fprint(
		out,
		"# Third-party notices\n\nWhat ships in Kolvan beside its own code, with the licence of each. Made by `make notices` from what the "+
			"build uses.\n",
	)
	texts := map[string][]string{}
	var order []string
	for _, s := range all {
		text, err := licenceOf(s.dir)
		if err != nil {
			return fmt.Errorf("%s: %w", s.name, err)
		}
		if texts[text] == nil {
			order = append(order, text)
		}
		texts[text] = append(texts[text], strings.TrimSpace(s.name+" "+s.version))
	}
	for _, text := range order {
		fmt.Fprintf(out, "\n## %s\n\n```text\n%s\n```\n", strings.Join(texts[text], ", "), text)
	}
	return out.Flush()
}

// modules are those that the program is linked from.
func modules() ([]shipped, error) {
	list := exec.Command("go", "list", "-deps", "-json=Module", "./cmd/kolvan")
	list.Env = append(os.Environ(), "GOOS=linux", "GOARCH=amd64", "CGO_ENABLED=0")
	text, err := list.Output()
	if err != nil {
		return nil, fmt.Errorf("listing modules: %w", err)
	}
	var all []shipped
	seen := map[string]bool{}
	for dec := json.NewDecoder(bytes.NewReader(text)); dec.More(); {
		var p struct {
			Module *struct{ Path, Version, Dir string }
		}
		if err := dec.Decode(&p); err != nil {
			return nil, fmt.Errorf("listing modules: %w", err)
		}
		if m := p.Module; m != nil && m.Version != "" && !seen[m.Path] {
			seen[m.Path] = true
			all = append(all, shipped{m.Path, m.Version, m.Dir})
		}
	}
	slices.SortFunc(all, func(a, b shipped) int { return strings.Compare(a.name, b.name) })
	return all, nil
}

// packagesOf are the names of the packages that are bundled.
func packagesOf(dir string) ([]string, error) {
	text, err := os.ReadFile(filepath.Join(dir, "package.json"))
	if err != nil {
		return nil, fmt.Errorf("listing packages: %w", err)
	}
	var p struct{ Dependencies map[string]string }
	if err := json.Unmarshal(text, &p); err != nil {
		return nil, fmt.Errorf("listing packages: %w", err)
	}
	return slices.Sorted(maps.Keys(p.Dependencies)), nil
}

func packageOf(name string) (shipped, error) {
	dir := filepath.Join(assets, "node_modules", name)
	text, err := os.ReadFile(filepath.Join(dir, "package.json"))
	if err != nil {
		return shipped{}, fmt.Errorf("%w: run make assets", err)
	}
	var p struct{ Version string }
	if err := json.Unmarshal(text, &p); err != nil {
		return shipped{}, fmt.Errorf("%s: %w", name, err)
	}
	return shipped{name, p.Version, dir}, nil
}

var licenceNames = regexp.MustCompile(`(?i)^(licen[cs]e|copying|notice|patents)([-.].*)?$`)

// licenceOf is the text of all licence files at the top of a directory; without one, what
// its package says.
func licenceOf(dir string) (string, error) {
	entries, err := os.ReadDir(dir)
	if err != nil {
		return "", err
	}
	var parts []string
	for _, e := range entries {
		if e.IsDir() || !licenceNames.MatchString(e.Name()) {
			continue
		}
		text, err := os.ReadFile(filepath.Join(dir, e.Name()))
		if err != nil {
			return "", err
		}
		parts = append(parts, strings.TrimSpace(strings.ReplaceAll(string(text), "\r\n", "\n")))
	}
	if parts == nil {
		return declared(dir)
	}
	return strings.ReplaceAll(strings.Join(parts, "\n\n"), "```", "'''"), nil
}

func declared(dir string) (string, error) {
	text, err := os.ReadFile(filepath.Join(dir, "package.json"))
	if err != nil {
		return "", fmt.Errorf("no licence in %s", dir)
	}
	var p struct{ License, Author, Name string }
	if err := json.Unmarshal(text, &p); err != nil || p.License == "" {
		return "", fmt.Errorf("no licence in %s", dir)
	}
	return fmt.Sprintf("%s: licensed under %s, as its package says.", p.Name, p.License), nil
}
