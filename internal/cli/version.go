package cli

import (
	"fmt"
	"runtime"
	"runtime/debug"
)

// version is the version of the program.
const version = "0.1.0"

var versionCommand = &command{
	name:    "version",
	summary: "show the version",
	text:    "Shows the version of the program and what it was built with.",
	example: "vetta version",
}

func init() {
	versionCommand.run = func(e *env, args []string) int {
		o := newOptions(e, versionCommand)
		rest, code, err := o.parse(args)
		if err != nil {
			return code
		}
		if len(rest) > 0 {
			return o.misuse("it takes no arguments")
		}
		commit := ""
		if info, ok := debug.ReadBuildInfo(); ok {
			for _, s := range info.Settings {
				if s.Key == "vcs.revision" && len(s.Value) >= 12 {
					commit = " (" + s.Value[:12] + ")"
				}
			}
		}
		fmt.Fprintf(e.out, "vetta %s%s %s/%s %s\n", version, commit, runtime.GOOS, runtime.GOARCH, runtime.Version())
		return exitOK
	}
}
