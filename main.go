// Vetta checks hand-written model classes against captured API responses.
package main

import (
	"os"

	"vetta/internal/cli"
	"vetta/internal/memory"
)

func main() {
	memory.Set()
	os.Exit(cli.Main(os.Args[1:], os.Stdin, os.Stdout, os.Stderr))
}
