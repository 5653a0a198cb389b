// Command kolvan plans a discrete graphics card on a small host: the lanes it
// gets, what feeds it, whether it fits.
package main

import (
	"errors"
	"fmt"
	"os"

	"github.com/alecthomas/kong"
	completion "github.com/jotaen/kong-completion"
)

// commands is the command line. Every flag can be given as KOLVAN_… in the
// environment too.
type commands struct {
	Demo        demoCommand           `cmd:"" help:"Start Kolvan with the demo data."`
	Serve       serveCommand          `cmd:"" help:"Start Kolvan on your own data."`
	Assess      assessCommand         `cmd:"" one:"something is blocked or dangerous" help:"Print the verdict on rig files; - reads standard input."`
	Ways        waysCommand           `cmd:"" one:"a file has no way" help:"Look for whole ways from the slots of a host to a card, the best first."`
	Read        readCommand           `cmd:"" one:"what was read is blocked or dangerous by the plan" help:"Print what a listing of the bus says of the link, and hold it against a plan."`
	Steps       stepsCommand          `cmd:"" one:"something of the build is blocked or dangerous" help:"Print the steps of assembly in order, and the way back."`
	Rehearse    rehearseCommand       `cmd:"" one:"it ends in anything but works as planned or works below plan" help:"Play the power-on: what happens, and what one sees."`
	Find        findCommand           `cmd:"" help:"From what is seen to what is broken: suspects, and the next test."`
	Stats       statsCommand          `cmd:"" help:"Print the figures of captures of frame times, and of tables that a wall meter wrote."`
	Compare     compareCommand        `cmd:"" help:"Hold captures against others: change, ratio, and how sure."`
	Forecast    forecastCommand       `cmd:"" help:"What is expected of each use, and what a change would bring."`
	Need        needCommand           `cmd:"" one:"something is needed" help:"What a part would have to be like for each trouble to end, and the shopping list by specification."`
	Why         whyCommand            `cmd:"" help:"Open a figure into its sum, down to the facts."`
	Plan        planCommand           `cmd:"" one:"no plan goes" help:"From what a rig is for to whole plans, the frontier of them; and how to mend the one that stands."`
	Protocol    protocolCommand       `cmd:"" help:"Which runs tell most in the minutes there are, ticked as far as they were made."`
	Results     resultsCommand        `cmd:"" help:"Read a table of results, as people keep them, into runs: kolvan-log/1."`
	Log         logCommand            `cmd:"" help:"Print readings, tries, runs and diary of a rig in the order of time, as kolvan-log/1."`
	Ledger      ledgerCommand         `cmd:"" help:"Print what a rig cost, what each gain cost, and in which order to buy."`
	Sheet       sheetCommand          `cmd:"" help:"Print the sheet for the workshop wall."`
	Rules       rulesCommand          `cmd:"" help:"List every rule."`
	Schema      schemaCommand         `cmd:"" help:"Print the JSON Schema of the rig file."`
	Instruments instrumentsCommand    `cmd:"" help:"Run the simulated stand-ins for outside devices."`
	Probe       probeCommand          `cmd:"" help:"Read a Linux host from its own files: kolvan-part/1 of kind host."`
	Parts       partsCommand          `cmd:"" help:"Parts in files of their own, and out of a text."`
	Export      exportCommand         `cmd:"" help:"Write a rig of the data file to standard output."`
	Import      importCommand         `cmd:"" help:"Put rig files on the bench."`
	Backup      backupCommand         `cmd:"" help:"Copy the data file, safely while Kolvan runs."`
	Restore     restoreCommand        `cmd:"" help:"Put a backup, or an export of all, in the place of the data file; what was there is kept beside it."`
	Check       checkCommand          `cmd:"" one:"something is damaged" help:"Look through the data file and say what is damaged."`
	Completion  completion.Completion `cmd:"" help:"Print what makes a shell complete kolvan's words."`
	Man         manCommand            `cmd:"" help:"Print the manual page."`
	Version     versionCommand        `cmd:"" help:"Print the version."`
}

// The exit codes, beside 0 for what was done and found nothing against it. What 1 stands for
// is told in a command's tag, one; commands without it never exit so.
const (
	exitStops = 1
	exitWrong = 2 // the file or the call is wrong; nothing was done, or nothing for that file
)

// exitError ends the program with a code and, unless empty, a message.
type exitError struct {
	code int
	err  error
}

func (e *exitError) Error() string {
	if e.err == nil {
		return ""
	}
	return e.err.Error()
}

func (e *exitError) Unwrap() error { return e.err }

func main() { os.Exit(run(os.Args[1:])) }

func run(args []string) int {
	parser, err := kong.New(new(commands), kong.Name("kolvan"), kong.Description("Plans a graphics card on a small host: lanes, power, fit."),
		kong.DefaultEnvars("KOLVAN"), kong.UsageOnError())
	if err != nil {
		fmt.Fprintln(stderr, "kolvan:", err)
		return exitWrong
	}
	completion.Register(parser)
	ctx, err := parser.Parse(args)
	if err != nil {
		fmt.Fprintln(stderr, "kolvan:", err)
		return exitWrong
	}
	return exitCode(ctx.Run())
}

func exitCode(err error) int {
	if err == nil {
		return 0
	}
	var exit *exitError
	if !errors.As(err, &exit) {
		exit = &exitError{exitWrong, err}
	}
	if exit.err != nil {
		fmt.Fprintln(stderr, "kolvan:", exit.err)
	}
	return exit.code
}
