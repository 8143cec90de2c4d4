// Vetta checks hand-written model classes against captured API responses.
package main

import (
	"os"

	"vetta/internal/cli"
)

func main() { os.Exit(cli.Main(os.Args[1:], os.Stdin, os.Stdout, os.Stderr)) }
