package swift

import (
	"maps"
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

// object is a JSONDecoder or a formatter that the source builds, with what is set
// on it.
type object struct {
	class string
	pos   model.Pos
	file  *scan.File
	at    int      // the token
	names []string // what it is called: its variable, the property or function that yields it
	scope [2]int   // tokens of the block it is built in
	props map[string]setting
	sub   string // the subclass that it is built as, "" for the class itself
}

// setting is the right side of an assignment to an object's property.
type setting struct {
	file *scan.File
	toks [2]int
	pos  model.Pos
}

// text is the setting as written.
func (s setting) text() string {
	if s.file == nil {
		return ""
	}
	return s.file.Text(s.toks[0], s.toks[1])
}

// settingsFinder finds decoders, what is set on them, and calls of decode, by the
// names that source gives them. It does not follow the flow of values: a name in
// the innermost block around its use wins, then one in the same file, then one
// that the project has once.
type settingsFinder struct {
	l       *linker
	objects []*object
	calls   []*model.Call
	unsure  map[*model.Call]bool // whose decoder was not found, or may be another of its name
	// byName are the objects by what they are called, decoders those of them that decode, and handedOn the
	// settings of those of these that have a name, once they are asked for.
	byName   map[string][]*object
	decoders *lower.Decoders[*object]
	handedOn []*model.Settings
	asking   *lower.Asking // what the calls were followed in, nil where none had to be
	sends    []*model.Call
	several  bool // decoders, so that a name may mean another
}

var objectClasses = map[string]bool{"JSONDecoder": true, "JSONEncoder": true, "DateFormatter": true, "ISO8601DateFormatter": true}

// find reads all files of the linker.
func (s *settingsFinder) find() {
	subclasses := map[string]string{}
	for name, decls := range s.l.types {
		for _, d := range decls {
			if d.kind == "class" && len(d.inherits) > 0 && objectClasses[d.inherits[0].Name] {
				subclasses[name] = d.inherits[0].Name
			}
		}
	}
	for _, top := range s.l.files {
		s.build(top.file, subclasses)
	}
	s.order()
	for _, top := range s.l.files {
		s.assign(top.file)
	}
	for _, top := range s.l.files {
		s.findCalls(top)
	}
}

// order puts the objects where they are found by name.
func (s *settingsFinder) order() {
	s.byName = map[string][]*object{}
	var decoders []*object
	for _, o := range s.objects {
		for i, name := range o.names {
			if !slices.Contains(o.names[:i], name) {
				s.byName[name] = append(s.byName[name], o)
			}
		}
		if o.class == "JSONDecoder" {
			decoders = append(decoders, o)
		}
	}
	s.several = len(decoders) > 1
	s.decoders = lower.NewDecoders(decoders, func(o *object) lower.Built { return lower.Built{File: o.file, At: o.at, Names: o.names} })
}

// mentions says whether a file has one of some words among its hits: most have none, and
// need not be looked at token by token.
func mentions(f *scan.File, words map[string]bool) bool {
	return slices.ContainsFunc(f.Hits, func(i int32) bool { return words[f.Word(int(i))] })
}

// build finds where objects are made: Class(), and the names that lead there.
func (s *settingsFinder) build(f *scan.File, subclasses map[string]string) {
	if len(subclasses) == 0 && !mentions(f, objectClasses) {
		return
	}
	blocks := blocksOf(f)
	for i := range f.Len() {
		if f.KindAt(i) != scan.Ident || !f.Is(i+1, "(") {
			continue
		}
		name := f.TokenAt(i).Text
		class := name
		if base := subclasses[class]; base != "" {
			class = base
		}
		if !objectClasses[class] || i > 0 && (f.Is(i-1, "class") || f.Is(i-1, "func")) {
			continue
		}
		block := blocks.around(i)
		o := &object{class: class, pos: f.Where(i), file: f, at: i, scope: block.tokens(f), props: map[string]setting{}}
		if name != class {
			o.sub = name
		}
		if name := assignedName(f, i); name != "" {
			o.names = append(o.names, name)
		}
		// What is built in a block that yields it is known by the block's name too:
		// static let api: JSONDecoder = { … }(), func makeDecoder() -> JSONDecoder { … }.
		for b := block; b != nil; b = b.parent {
			if b.name != "" && b.yields {
				o.names = append(o.names, b.name)
				o.scope = [2]int{0, f.Len() + 1}
				if len(o.names) > 1 {
					o.scope = block.tokens(f)
				}
			}
		}
		s.objects = append(s.objects, o)
	}
	// What a subclass or an extension sets on itself in an initialiser.
	for name, base := range subclasses {
		for _, d := range s.l.types[name] {
			if d.file == f {
				s.objects = append(s.objects, &object{class: base, pos: d.pos, file: f, names: []string{name}, scope: [2]int{0, f.Len() + 1}, props: map[string]setting{}})
			}
		}
	}
}

// assignedName is the name that the object built at token i is given there.
func assignedName(f *scan.File, i int) string {
	k := i - 1
	if k < 1 || !f.Is(k, "=") {
		return ""
	}
	k--
	for k > 0 && (f.KindAt(k) == scan.Ident || f.Is(k, "?") || f.Is(k, "!")) && f.Is(k-1, ":") {
		k -= 2 // a type annotation
	}
	if f.KindAt(k) == scan.Ident {
		return f.TokenAt(k).Text
	}
	return ""
}

// block is a stretch between braces.
type block struct {
	open, shut int
	name       string // of the function or property it is the body of
	yields     bool   // its value is an object: it returns a decoder or is called at once
	typ        string // of the type it is the body of
	parent     *block
}

func (b *block) tokens(f *scan.File) [2]int {
	if b == nil {
		return [2]int{0, f.Len() + 1}
	}
	return [2]int{b.open, b.shut}
}

type blocks []*block

// blocksOf finds the blocks of a file and what each is the body of.
func blocksOf(f *scan.File) blocks {
	var all blocks
	var stack []*block
	for i := range f.Len() {
		if !f.Is(i, "{") {
			continue
		}
		for len(stack) > 0 && stack[len(stack)-1].shut < i {
			stack = stack[:len(stack)-1]
		}
		if f.Partner(i) <= i {
			continue
		}
		b := &block{open: i, shut: f.Partner(i)}
		if len(stack) > 0 {
			b.parent = stack[len(stack)-1]
		}
		b.describe(f)
		stack = append(stack, b)
		all = append(all, b)
	}
	return all
}

// around is the innermost block that holds token i, nil for the file itself.
func (bs blocks) around(i int) (found *block) {
	for _, b := range bs {
		if b.open < i && i < b.shut {
			found = b
		}
	}
	return found
}

// describe reads backwards from a block's brace to what it is the body of.
func (b *block) describe(f *scan.File) {
	for k := b.open - 1; k >= 0; k-- {
		t := f.TokenAt(k)
		switch {
		case t.Is(")") || t.Is("]") || t.Is("}"):
			if t.Is("}") || f.Partner(k) < 0 {
				return
			}
			k = f.Partner(k)
		case t.Is("{") || t.Is("(") || t.Is(";"):
			return
		case t.Is("func"):
			b.name = f.TokenAt(k + 1).Text
			b.yields = strings.Contains(f.Text(k, b.open), "Decoder") || strings.Contains(f.Text(k, b.open), "Encoder") || strings.Contains(f.Text(k, b.open), "Encoder") || strings.Contains(f.Text(k, b.open), "Formatter")
			return
		case t.Is("let") || t.Is("var"):
			b.name = f.TokenAt(k + 1).Text
			b.yields = true
			return
		case t.Is("class") || t.Is("struct") || t.Is("enum") || t.Is("extension"):
			if f.KindAt(k+1) == scan.Ident {
				b.typ = f.TokenAt(k + 1).Text
				return
			}
		case t.Is("init") || t.Is("if") || t.Is("else") || t.Is("do") || t.Is("for") || t.Is("while") || t.Is("guard") || t.Is("switch"):
			return
		}
	}
}

// settable are the properties of objects that matter to decoding.
var settable = map[string]bool{
	"keyDecodingStrategy": true, "dateDecodingStrategy": true, "dataDecodingStrategy": true,
	"keyEncodingStrategy": true, "dateEncodingStrategy": true, "dataEncodingStrategy": true,
	"nonConformingFloatDecodingStrategy": true, "allowsJSON5": true,
	"dateFormat": true, "timeZone": true, "locale": true, "formatOptions": true, "dateStyle": true, "timeStyle": true,
}

// assign finds settings: name.property = value.
func (s *settingsFinder) assign(f *scan.File) {
	if !mentions(f, settable) {
		return
	}
	bs := blocksOf(f)
	for _, hit := range f.Hits {
		i := int(hit)
		t := f.TokenAt(i)
		if !settable[t.Text] || !f.Is(i+1, "=") || f.Is(i+2, "=") {
			continue
		}
		p := parserAt(f, i+2)
		p.skipExpression(f.Len())
		value := setting{file: f, toks: [2]int{i + 2, p.I}, pos: f.Where(i)}
		name := receiverName(f, i)
		if name == "" || name == "self" {
			// Inside a subclass of the decoder, or an extension of it.
			for b := bs.around(i); b != nil; b = b.parent {
				if b.typ != "" {
					name = b.typ
				}
			}
		}
		if o := s.lookup(name, f, i); o != nil {
			o.props[t.Text] = value
		}
	}
}

// receiverName is the name before the dot before token i: decoder in
// self.decoder.keyDecodingStrategy.
func receiverName(f *scan.File, i int) string {
	k := i - 1
	if k < 0 || !f.Is(k, ".") {
		return ""
	}
	k--
	for k >= 0 && (f.Is(k, "?") || f.Is(k, "!")) {
		k--
	}
	if k >= 0 && f.Is(k, ")") && f.Partner(k) > 0 {
		k = f.Partner(k) - 1
	}
	if k >= 0 && f.KindAt(k) == scan.Ident {
		return f.TokenAt(k).Text
	}
	return ""
}

// lookup finds the object that a name means at token i of f.
func (s *settingsFinder) lookup(name string, f *scan.File, i int) *object {
	var best *object
	size := 0
	var elsewhere []*object
	for _, o := range s.byName[name] {
		if o.file == f && o.scope[0] <= i && i <= o.scope[1] {
			if n := o.scope[1] - o.scope[0]; best == nil || n < size {
				best, size = o, n
			}
			continue
		}
		elsewhere = append(elsewhere, o)
	}
	if best == nil {
		for _, o := range elsewhere {
			if o.file == f {
				return o
			}
		}
		if len(elsewhere) > 0 {
			return elsewhere[0]
		}
	}
	return best
}

// settings reads the options of a decoder from what was set on it.
func (s *settingsFinder) settings(o *object) *model.Settings {
	set := &model.Settings{Library: "foundation", Pos: o.pos, Options: map[string]model.Option{}}
	props := map[string]setting{}
	for _, class := range s.objects {
		if o.sub != "" && class.sub == "" && len(class.names) == 1 && class.names[0] == o.sub {
			maps.Copy(props, class.props)
		}
	}
	maps.Copy(props, o.props)
	for prop, v := range props {
		text := v.text()
		switch prop {
		case "keyDecodingStrategy", "keyEncodingStrategy":
			set.Options["keys"] = model.Option{Value: strategyName(text), Pos: v.pos}
		case "dateDecodingStrategy", "dateEncodingStrategy":
			set.Options["dates"] = model.Option{Value: strategyName(text), Pos: v.pos}
			switch strategyName(text) {
			case "formatted":
				s.formatter(set, v)
			case "custom":
				if o.class == "JSONDecoder" {
					s.custom(set, "dates", v)
				}
			}
		case "dataDecodingStrategy", "dataEncodingStrategy":
			set.Options["data"] = model.Option{Value: strategyName(text), Pos: v.pos}
		case "nonConformingFloatDecodingStrategy":
			set.Options["floats"] = model.Option{Value: strategyName(text), Pos: v.pos}
			s.floatWords(set, v)
		case "allowsJSON5":
			set.Options["json5"] = model.Option{Value: text, Pos: v.pos}
		}
	}
	return set
}

// custom follows the closure of a .custom strategy.
func (s *settingsFinder) custom(set *model.Settings, option string, v setting) {
	p := parserAt(v.file, v.toks[0])
	for p.I < v.toks[1] && !p.Is("{") {
		p.Advance()
	}
	if p.I >= v.toks[1] {
		return // a function by name
	}
	in := &typeDecl{kind: "file", file: v.file}
	closure, _ := lower.Expression(v.file, s.l.language(in), p.I, v.toks[1])
	if closure.Op != code.Lambda {
		return
	}
	decoder := "$0"
	if len(closure.Labels) > 0 { // decoder in, (decoder: Decoder) in
		decoder = closure.Labels[0]
	}
	f := s.l.newFollower(in, nil, decoder)
	f.Yields = true
	steps, err := f.Follow(closure.Body)
	if err != nil {
		return
	}
	if len(steps) == 1 && steps[0].Field == "" && steps[0].Expr != nil {
		steps[0].Field = model.SelfField // a closure of one expression
	}
	set.Custom = map[string][]model.Step{option: steps}
	s.resolveFormatters()
}

// strategyName is the name of a case: iso8601 in .iso8601,
// JSONDecoder.DateDecodingStrategy.iso8601 or .formatted(x).
func strategyName(text string) string {
	if cut := strings.IndexAny(text, "({"); cut >= 0 {
		text = text[:cut]
	}
	return strings.TrimSpace(text[strings.LastIndexByte(text, '.')+1:])
}

// formatter reads the pattern and the zone of the formatter in .formatted(name).
func (s *settingsFinder) formatter(set *model.Settings, v setting) {
	p := parserAt(v.file, v.toks[0])
	for p.I < v.toks[1] && !p.Is("(") {
		p.Advance()
	}
	last := ""
	for i := p.I; i < v.toks[1]; i++ {
		if t := v.file.TokenAt(i); t.Kind == scan.Ident {
			last = t.Text
		}
	}
	o := s.lookup(last, v.file, v.toks[0])
	if o == nil || o.class != "DateFormatter" {
		set.Options["dates"] = model.Option{Value: "custom", Pos: v.pos}
		return
	}
	format, ok := o.props["dateFormat"]
	if !ok || format.toks[1] != format.toks[0]+1 || format.file.KindAt(format.toks[0]) != scan.String {
		set.Options["dates"] = model.Option{Value: "custom", Pos: v.pos}
		return
	}
	set.Options["dates.pattern"] = model.Option{Value: format.file.TokenAt(format.toks[0]).Text, Pos: format.pos}
	if zone, ok := o.props["timeZone"]; ok {
		set.Options["dates.zone"] = model.Option{Value: zoneName(zone), Pos: zone.pos}
	}
}

// resolveFormatters finds the patterns of the formatters that hand-written code
// calls; a date of one that is not found is not followed.
func (s *settingsFinder) resolveFormatters() {
	defer func() { s.l.formatted = nil }()
	for _, f := range s.l.formatted {
		o := s.lookup(f.name, f.file, f.tok)
		if o != nil && o.class == "ISO8601DateFormatter" && len(o.props) == 0 {
			f.expr.Func = "iso8601"
			continue
		}
		if o == nil || o.class != "DateFormatter" {
			*f.expr = model.Expr{Op: model.OpUnknown, Why: "the formatter " + f.name, Pos: f.expr.Pos}
			continue
		}
		format := o.props["dateFormat"]
		if format.file == nil || format.toks[1] != format.toks[0]+1 || format.file.KindAt(format.toks[0]) != scan.String {
			*f.expr = model.Expr{Op: model.OpUnknown, Why: "the formatter " + f.name, Pos: f.expr.Pos}
			continue
		}
		f.expr.Value.Text = format.file.TokenAt(format.toks[0]).Text
		if zone, ok := o.props["timeZone"]; ok {
			f.expr.Key = zoneName(zone)
		}
	}
}

// zoneName is what a TimeZone(…) expression names: an identifier or abbreviation,
// or seconds from GMT.
func zoneName(v setting) string {
	for i := v.toks[0]; i < v.toks[1]; i++ {
		switch t := v.file.TokenAt(i); {
		case t.Kind == scan.String:
			return t.Text
		case t.Kind == scan.Number:
			if n, err := strconv.Atoi(t.Text); err == nil {
				if v.file.Is(i-1, "-") {
					n = -n
				}
				return strconv.Itoa(n)
			}
		case t.Is("gmt"):
			return "GMT"
		}
	}
	return ""
}

// floatWords reads the strings of .convertFromString(positiveInfinity:…).
func (s *settingsFinder) floatWords(set *model.Settings, v setting) {
	for i := v.toks[0]; i+2 < v.toks[1]; i++ {
		if f := v.file; f.KindAt(i) == scan.Ident && f.Is(i+1, ":") && f.KindAt(i+2) == scan.String {
			set.Options["floats."+f.TokenAt(i).Text] = model.Option{Value: f.TokenAt(i + 2).Text, Pos: v.pos}
		}
	}
}
