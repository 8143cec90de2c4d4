package wire

import (
	"reflect"
	"strings"
	"testing"
)

// TestParserKeepsItsMemory: what a parser makes of one document after another is what is made of each alone.
func TestParserKeepsItsMemory(t *testing.T) {
	var p Parser
	for round := range 3 {
		for _, doc := range []string{
			`{"a":[1,"x",null,{"b":{}}],"a":true,"é\n":[[],[[]]]}`, `[]`, `{}`, `1`, ` "x" `, `[{"a":1},{"a":2,"b":[3]},{"c":{"a":[4,5]}}]`,
			`[` + strings.Repeat(`{"k":[1,2,3]},`, 2000) + `0]`, `{"a":`, `[1,]`, `{"a":{"b":[1,{"c":x}]}}`,
		} {
			want, end, err := ParseNext([]byte(doc), 0)
			got, gotEnd, gotErr := p.ParseNext([]byte(doc), 0)
			if !reflect.DeepEqual(got, want) || end != gotEnd || (err == nil) != (gotErr == nil) || err != nil && err.Error() != gotErr.Error() {
				t.Errorf("round %d, %.60s: %v %d %v, want %v %d %v", round, doc, got, gotEnd, gotErr, want, end, err)
			}
		}
	}
}
