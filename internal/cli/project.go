package cli

import (
	"fmt"
	"os"
	"slices"
	"strings"

	"vetta/internal/config"
	"vetta/internal/decoder/library"
	"vetta/internal/input"
	"vetta/internal/model"
	"vetta/internal/pairing"
	"vetta/internal/report"
	"vetta/internal/source"
)

// project are what a command was told about the project it works on: by vetta.toml, and by options and
// paths, which go before it.
type project struct {
	options          *options
	name             *string // of the file, "" for the one of this folder or of one around it
	models, captures list
	file             *config.File // never nil once read has been called
	part             bool         // paths were given: what the file says may be about other parts of the project
	outputs          []string     // files that the command writes itself, which it does not read
	texts            *input.Texts // of source, where it is read again and again
	secrets          *bool        // whether what looks secret in the names of captures is told; nil for a command that tells none
}

// byOption is what sets a pair on the command line.
const byOption = "-pair"

// noConfig is the name by which no file is taken.
const noConfig = "none"

// project adds the options that say what files are.
func (o *options) project() *project {
	p := &project{options: o}
	o.Var(&p.models, "models", "`PATH` with model source alone; may be repeated")
	o.Var(&p.captures, "captures", "`PATH` with captures alone; may be repeated")
	p.config(o)
	return p
}

// config adds the option that names the file alone.
func (p *project) config(o *options) {
	p.options = o
	p.name = o.String("config", "", "`FILE` in place of the vetta.toml of this folder or the nearest\naround it; none for no file")
}

// configWords are what vetta.toml may say.
var configWords = config.Words{Levels: failLevels, Libraries: library.Names(), Settings: library.Settings, Assumed: library.Assumed}

// read reads the file. It answers false where it has mistakes, which are told then.
func (p *project) read() bool {
	p.file = &config.File{}
	name := *p.name
	switch name {
	case noConfig:
		return true
	case "":
		if name = config.Find("."); name == "" {
			return true
		}
	}
	name = fromHere(name)
	var errs []error
	p.file, errs = config.Read(name, configWords)
	report.KeepSecret(p.file.Secrets.Values)
	return p.options.env.taken(p.options.command, name, errs, "-config none")
}

// taken says whether a file of the project has no mistakes, and tells those that it has, with the option that does without
// the file.
func (e *env) taken(c *command, name string, mistakes []error, without string) bool {
	for _, err := range mistakes {
		fmt.Fprintf(e.err, "vetta: %s\n", report.Safe(err.Error()))
	}
	if len(mistakes) > 0 {
		fmt.Fprintf(e.err, "vetta %s: %s is not taken as it is: mend it, or leave it out with %s\n", c.name, report.Safe(name), without)
	}
	return len(mistakes) == 0
}

// paths are those that a command works on: those it was given, and for a kind of which it was given none
// those of the file.
func (p *project) paths(args []string) (paths []input.Path) {
	p.part = len(args)+len(p.models)+len(p.captures) > 0
	for _, a := range args {
		paths = append(paths, input.Path{Name: a})
	}
	add := func(given list, said config.Listed, what input.What) {
		names := []string(given)
		if len(args) == 0 && len(names) == 0 {
			names = p.file.Paths(said)
		}
		for _, n := range names {
			paths = append(paths, input.Path{Name: n, What: what})
		}
	}
	add(p.models, p.file.Models, input.Models)
	add(p.captures, p.file.Captures, input.Captures)
	return paths
}

// alone are the paths of one kind of file: those that a command was given, else those of the file.
func (p *project) alone(args []string, said config.Listed, what input.What) (paths []input.Path) {
	if len(args) == 0 {
		args = p.file.Paths(said)
	}
	for _, a := range args {
		paths = append(paths, input.Path{Name: a, What: what})
	}
	return paths
}

// documents are the paths that trial works on. Where it is given documents alone, the models are those of the
// file.
func (p *project) documents(args []string) []input.Path {
	paths := p.paths(args)
	hasSource := len(args) == 0 || len(p.models) > 0 || slices.ContainsFunc(args, func(a string) bool {
		info, err := os.Stat(a)
		return source.LanguageOf(a) != nil || err == nil && info.IsDir()
	})
	if !hasSource {
		for _, m := range p.file.Paths(p.file.Models) {
			paths = append(paths, input.Path{Name: m, What: input.Models})
		}
	}
	return paths
}

// pairs are those that are set by hand: by options, and by the file where no option is about the same type.
func (p *project) pairs(given list) (all []pairing.Manual, err error) {
	for _, text := range given {
		m, err := pairing.ParseManual(text)
		if err != nil {
			return nil, err
		}
		m.By = byOption
		all = append(all, m)
	}
	fromOptions := len(all)
	for _, pair := range p.file.Pairs {
		if slices.ContainsFunc(all[:fromOptions], func(m pairing.Manual) bool { return m.Type == pair.Type }) {
			continue
		}
		m, err := pairing.ParseManual(pair.String())
		if err != nil {
			p.tell(pair.Pos, err.Error())
			continue
		}
		m.By, m.Lenient = pair.Pos.String(), true
		all = append(all, m)
	}
	return all, nil
}

// decide tells a set what the file says of its decoders.
func (p *project) decide(set *model.Set) {
	unused := p.file.Decide(set)
	if p.part {
		return
	}
	for _, d := range unused {
		p.tell(d.Pos, fmt.Sprintf("no class is declared in %s, and nothing decodes there", d.Path))
	}
}

// tell says on standard error what is odd about the file.
func (p *project) tell(at model.Pos, reason string) {
	fmt.Fprintf(p.options.env.err, "vetta: %s\n", report.Safe(at.String()+": "+reason))
}

// missing words what a command was not told, with where it may be said.
func (p *project) missing(what string) string {
	if p.file.Path == "" {
		return what + ", or say it in " + config.Name
	}
	return what + ": " + strings.TrimPrefix(p.file.Path, "./") + " does not"
}
