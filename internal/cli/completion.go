package cli

import (
	"fmt"
	"strings"

	"vetta/internal/words"
)

// shells are those that completion is written for.
var shells = []string{"bash", "zsh", "fish"}

var completionCommand = &command{
	name:    "completion",
	args:    "SHELL",
	summary: "write what completes commands and options in a shell",
	text: `Writes a script by which the shell completes commands, options, their values and
paths. SHELL is bash, zsh or fish.`,
	example: `vetta completion bash > ~/.local/share/bash-completion/completions/vetta
vetta completion zsh > ~/.zfunc/_vetta          # a folder that fpath names
vetta completion fish > ~/.config/fish/completions/vetta.fish`,
}

func init() {
	completionCommand.run = func(e *env, args []string) int {
		o := newOptions(e, completionCommand)
		rest, code, err := o.parse(args)
		if err != nil {
			return code
		}
		if len(rest) != 1 {
			return o.misuse("name one shell: %s", strings.Join(shells, ", "))
		}
		write, ok := map[string]func([]described) string{"bash": bashCompletion, "zsh": zshCompletion, "fish": fishCompletion}[rest[0]]
		if !ok {
			return o.misuse("there is nothing for %q: it is one of %s%s", rest[0], strings.Join(shells, ", "), words.Nearest(rest[0], shells))
		}
		fmt.Fprint(e.out, write(describe()))
		return exitOK
	}
}

// quoted is text between single quotes, as all three shells have them but for what ends them.
func quoted(text string) string { return "'" + strings.ReplaceAll(text, "'", `'\''`) + "'" }

// bashCompletion needs nothing but bash 3.2.
func bashCompletion(all []described) string {
	var b strings.Builder
	b.WriteString(`# Completion of vetta for bash, written by: vetta completion bash
_vetta() {
  local IFS=$'\n' cur=${COMP_WORDS[COMP_CWORD]} prev=${COMP_WORDS[COMP_CWORD-1]} words=
  COMPREPLY=()
  if ((COMP_CWORD == 1)); then
    COMPREPLY=($(compgen -W $'`)
	var names []string
	for _, d := range all {
		names = append(names, d.name)
	}
	b.WriteString(strings.Join(names, `\n`) + "' -- \"$cur\"))\n    return\n  fi\n  case ${COMP_WORDS[1]}:$prev in\n")
	for _, d := range all {
		var files, own []string
		for _, o := range d.options {
			at := d.name + ":-" + o.name
			switch {
			case o.value == "" && len(o.choices) == 0:
			case len(o.choices) > 0:
				fmt.Fprintf(&b, "    %s) words=$'%s' ;;\n", at, strings.Join(o.choices, `\n`))
			case o.takesFile():
				files = append(files, at)
			default:
				own = append(own, at)
			}
		}
		if len(files) > 0 {
			fmt.Fprintf(&b, "    %s) COMPREPLY=($(compgen -f -- \"$cur\")); return ;;\n", strings.Join(files, "|"))
		}
		if len(own) > 0 {
			fmt.Fprintf(&b, "    %s) return ;;\n", strings.Join(own, "|"))
		}
	}
	b.WriteString("  esac\n  if [[ -z $words ]]; then\n    case ${COMP_WORDS[1]}:$cur in\n")
	for _, d := range all {
		var options []string
		for _, o := range d.options {
			options = append(options, "-"+o.name)
		}
		fmt.Fprintf(&b, "      %s:-*) words=$'%s' ;;\n", d.name, strings.Join(append(options, "-h"), `\n`))
		if d.words() != nil {
			fmt.Fprintf(&b, "      %s:*) words=$'%s\\n' ;;\n", d.name, strings.Join(d.words(), `\n`))
		}
	}
	b.WriteString(`      *) COMPREPLY=($(compgen -f -- "$cur")); return ;;
    esac
  fi
  COMPREPLY=($(compgen -W "$words" -- "$cur"))
}
complete -o filenames -F _vetta vetta
`)
	return b.String()
}

func zshCompletion(all []described) string {
	escape := strings.NewReplacer(`\`, `\\`, "[", `\[`, "]", `\]`, ":", `\:`)
	var b strings.Builder
	b.WriteString("#compdef vetta\n# Completion of vetta for zsh, written by: vetta completion zsh\n_vetta() {\n  local -a commands\n  commands=(\n")
	for _, d := range all {
		fmt.Fprintf(&b, "    %s\n", quoted(d.name+":"+escape.Replace(d.summary)))
	}
	b.WriteString("  )\n  if (( CURRENT == 2 )); then\n    _describe command commands\n    return\n  fi\n  local name=$words[2]\n  shift words\n  (( CURRENT-- ))\n  case $name in\n")
	for _, d := range all {
		fmt.Fprintf(&b, "    %s) _arguments", d.name)
		for _, o := range d.options {
			spec := "-" + o.name
			if o.several {
				spec = "*" + spec
			}
			spec += "[" + escape.Replace(o.line()) + "]"
			switch {
			case len(o.choices) > 0:
				spec += ":" + o.value + ":(" + strings.Join(o.choices, " ") + ")"
			case o.takesFile():
				spec += ":" + o.value + ":_files"
			case o.value != "":
				spec += ":" + o.value + ": "
			}
			b.WriteString(" \\\n      " + quoted(spec))
		}
		rest := "*:path:_files"
		if list := d.words(); list != nil {
			rest = "1:word:(" + strings.Join(list, " ") + ")"
		}
		b.WriteString(" \\\n      '-h[show how it is used]' \\\n      " + quoted(rest) + " ;;\n")
	}
	b.WriteString("  esac\n}\n_vetta \"$@\"\n")
	return b.String()
}

func fishCompletion(all []described) string {
	quote := func(text string) string {
		return "'" + strings.NewReplacer(`\`, `\\`, "'", `\'`).Replace(text) + "'"
	}
	var b strings.Builder
	b.WriteString("# Completion of vetta for fish, written by: vetta completion fish\n")
	var names []string
	for _, d := range all {
		names = append(names, d.name)
	}
	none := quote("not __fish_seen_subcommand_from " + strings.Join(names, " "))
	for _, d := range all {
		fmt.Fprintf(&b, "complete -c vetta -n %s -f -a %s -d %s\n", none, d.name, quote(d.summary))
	}
	for _, d := range all {
		in := quote("__fish_seen_subcommand_from " + d.name)
		if list := d.words(); list != nil {
			fmt.Fprintf(&b, "complete -c vetta -n %s -f -a %s\n", in, quote(strings.Join(list, " ")))
		}
		for _, o := range d.options {
			takes := ""
			switch {
			case len(o.choices) > 0:
				takes = " -x -a " + quote(strings.Join(o.choices, " "))
			case o.takesFile():
				takes = " -r -F"
			case o.value != "":
				takes = " -x"
			}
			fmt.Fprintf(&b, "complete -c vetta -n %s -o %s%s -d %s\n", in, o.name, takes, quote(o.line()))
		}
	}
	return b.String()
}
