package decoder

import "vetta/internal/wire"

// The samples by which it is found whether values of one class fare alike with code.
var (
	sampleTexts     = []string{`""`, `" "`, `"a"`, `"Text of several words"`, `"0"`, `"1"`, `"12"`, `"-3"`, `"1.5"`, `"1e3"`, `"true"`, `"false"`, `"2026-03-01"`, `"2026-03-01T09:30:00Z"`, `"https://saltmere.example/a"`, `"1::2"`, `"#1a2b3c"`, `"YWJj"`, `"abc"`, `"NaN"`}
	sampleWholes    = []string{`0`, `1`, `2`, `7`, `12`, `100`, `1000`, `40000`, `1772357400`, `1772357400000`}
	sampleFractions = []string{`0.5`, `1.5`, `12.25`, `1000.75`}
	sampleWide      = []string{`9007199254740993`, `-1`, `-40000`}
)

// Minds says of what code makes of values whether it tells texts apart, or numbers of one class, by samples of them: those
// that all fare alike stand for the others. It is what Node.Minds asks for.
func Minds(read func(*wire.Value) Verdict) (text, numbersByClass bool) {
	numbersByClass = alike(read, sampleWholes) && alike(read, sampleFractions) && alike(read, sampleWide)
	return !numbersByClass || !alike(read, sampleTexts), numbersByClass
}

// alike says whether samples all decode as they are, or all fail for their kind: then others do too.
func alike(read func(*wire.Value) Verdict, samples []string) bool {
	first := ""
	for i, s := range samples {
		v, err := wire.Parse([]byte(s))
		if err != nil {
			return false
		}
		verdict := read(v)
		says := "decodes"
		switch {
		case verdict.Err != nil && verdict.Err.Reason == ReasonKind:
			says = "of another kind"
		case verdict.Err != nil || verdict.Seen.Kind == SeenUnknown:
			return false
		case verdict.Loss == LostDigits: // of all of the class
			says = "digits"
		case verdict.Loss != NoLoss:
			return false
		}
		if i == 0 {
			first = says
		}
		if says != first {
			return false
		}
	}
	return true
}
