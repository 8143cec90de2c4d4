package cli

import (
	"fmt"
	"os"
	"path/filepath"

	"vetta/demo"
	"vetta/internal/report"
)

var demoCommand = &command{
	name:    "demo",
	args:    "[DIR]",
	summary: "write a project to try Vetta on, and check it",
	text: `Writes the Saltmere Ferries project, the source of apps for phones, a tablet, a
desk and the web, and what was captured of their API over three weeks, to DIR or to a temporary
folder, says what it holds, and runs check on it.`,
	example: "vetta demo\nvetta demo saltmere",
}

func init() { demoCommand.run = runDemo }

func runDemo(e *env, args []string) int {
	o := newOptions(e, demoCommand)
	color := o.color()
	rest, code, err := o.parse(args)
	if err != nil {
		return code
	}
	if len(rest) > 1 {
		return o.misuse("it takes one folder")
	}
	dir := ""
	if len(rest) == 1 {
		dir = rest[0]
		if entries, err := os.ReadDir(dir); err == nil && len(entries) > 0 {
			if _, err := os.Stat(filepath.Join(dir, "App", "Networking", "SaltmereClient.swift")); err != nil {
				return o.misuse("%s is not empty: name a folder that is not there yet", dir)
			}
		}
	} else if dir, err = os.MkdirTemp("", "saltmere-"); err != nil {
		fmt.Fprintf(e.err, "vetta demo: %v\n", err)
		return exitUsage
	}
	if err := demo.Write(dir); err != nil {
		fmt.Fprintf(e.err, "vetta demo: the project could not be written: %v\n", err)
		return exitUsage
	}
	// As one would who goes there: its vetta.toml says what to read.
	if err := os.Chdir(dir); err != nil {
		fmt.Fprintf(e.err, "vetta demo: %v\n", err)
		return exitUsage
	}
	fmt.Fprintf(e.out, `Saltmere Ferries, in %s
    App/        an iOS app in Swift
    Android/    an Android app in Kotlin, with an older part in Java
    Flutter/    a tablet's app in Dart, partly read by hand and partly by generated parts, one of them stale
    Desk/       a desk's app in C#, one model read by each of two libraries, and two of XML
    Web/        a web front end in TypeScript, one of its types inferred of a schema
    captures/   what was captured of their API over three weeks, in which it drifts: the HAR file of a
                browser, what curl -i printed, a recorder's lines, a zip of passes,
                what a proxy wrote down of XML
    vetta.toml  says what Vetta reads, and pairs what no call tells
    cd %s && vetta check

`, report.Safe(dir), report.Safe(dir))
	check := newCheckOptions(e)
	check.color.value = color.value
	check.failOn.value = "never"
	if !check.read() {
		return exitUsage
	}
	_, code = check.check(check.paths(nil))
	return code
}
