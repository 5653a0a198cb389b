package main

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"strconv"
	"strings"
)

// A fault is one piece of code put in the place of another.
type fault struct {
	file     string
	line     int
	from, to int // bytes of the file
	was, now string
	text     string // the line it stands in
}

// String names it by what stands there, not by its line, which moves.
func (f fault) String() string {
	return fmt.Sprintf("%s: %s: %s -> %s", f.file, f.text, f.was, f.now)
}

// instead is what people write by mistake in place of a token.
var instead = map[token.Token]string{
	token.LSS: "<=", token.LEQ: "<", token.GTR: ">=", token.GEQ: ">", token.EQL: "!=", token.NEQ: "==",
	token.LAND: "||", token.LOR: "&&", token.ADD: "-", token.SUB: "+", token.MUL: "/", token.QUO: "*",
}

// mistaken are names of which one is easily written for the other.
var mistaken = map[string]string{
	"min": "max", "max": "min", "Low": "High", "High": "Low", "true": "false", "false": "true", "Always": "Sometimes",
	"Sometimes": "Always",
}

// faultsOf lists the faults that can be made in the given lines of a file.
func faultsOf(file string, lines map[int]bool) ([]fault, error) {
	source, err := os.ReadFile(file)
	if err != nil {
		return nil, err
	}
	set := token.NewFileSet()
	tree, err := parser.ParseFile(set, file, source, parser.SkipObjectResolution)
	if err != nil {
		return nil, err
	}
	rows := strings.Split(string(source), "\n")
	var faults []fault
	put := func(at, end token.Pos, now string) {
		from, to := set.Position(at), set.Position(end)
		if lines[from.Line] {
			faults = append(
				faults,
				fault{
					file, from.Line, from.Offset, to.Offset, string(source[from.Offset:to.Offset]), now,
					strings.TrimSpace(rows[from.Line-1]),
				},
			)
		}
	}
	ast.Inspect(tree, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.BinaryExpr:
			if now := instead[n.Op]; now != "" {
				put(n.OpPos, n.OpPos+token.Pos(len(n.Op.String())), now)
			}
		case *ast.IfStmt:
			from, to := set.Position(n.Cond.Pos()).Offset, set.Position(n.Cond.End()).Offset
			put(n.Cond.Pos(), n.Cond.End(), "false && ("+string(source[from:to])+")")
		case *ast.Ident:
			if now := mistaken[n.Name]; now != "" {
				put(n.Pos(), n.End(), now)
			}
		case *ast.BasicLit:
			if number, err := strconv.Atoi(n.Value); err == nil && n.Kind == token.INT {
				put(n.Pos(), n.End(), strconv.Itoa(number+1))
			}
		case *ast.BranchStmt:
			if n.Tok == token.CONTINUE && n.Label == nil {
				put(n.Pos(), n.End(), "break")
			}
		case *ast.AssignStmt:
			if n.Tok == token.ASSIGN || n.Tok == token.ADD_ASSIGN {
				put(n.Pos(), n.Pos(), "_, _ = 0, 0 //")
			}
		case *ast.UnaryExpr:
			if n.Op == token.NOT {
				put(n.OpPos, n.OpPos+1, "")
			}
		}
		return true
	})
	return faults, nil
}
