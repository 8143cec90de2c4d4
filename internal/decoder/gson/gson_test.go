package gson

import (
	"testing"

	"vetta/internal/model"
	"vetta/internal/wire"
)

func TestRename(t *testing.T) {
	for _, c := range [][3]string{
		{"", "departsAt", "departsAt"},
		{"IDENTITY", "departsAt", "departsAt"},
		{"LOWER_CASE_WITH_UNDERSCORES", "imageURL", "image_u_r_l"},
		{"LOWER_CASE_WITH_UNDERSCORES", "page2", "page2"},
		{"LOWER_CASE_WITH_UNDERSCORES", "DepartsAt", "departs_at"},
		{"LOWER_CASE_WITH_UNDERSCORES", "_id", "_id"},
		{"LOWER_CASE_WITH_DASHES", "departsAt", "departs-at"},
		{"LOWER_CASE_WITH_DOTS", "departsAt", "departs.at"},
		{"UPPER_CASE_WITH_UNDERSCORES", "departsAt", "DEPARTS_AT"},
		{"UPPER_CAMEL_CASE", "departsAt", "DepartsAt"},
		{"UPPER_CAMEL_CASE", "_departsAt", "_DepartsAt"},
		{"UPPER_CAMEL_CASE_WITH_SPACES", "departsAt", "Departs At"},
	} {
		if got, ok := Rename(c[0], c[1]); got != c[2] || !ok {
			t.Errorf("%s of %s is %s, want %s", c[0], c[1], got, c[2])
		}
	}
	if _, ok := Rename("custom", "a"); ok {
		t.Error("a policy of the app is said to be followed")
	}
}

// TestScalars takes literals through the adapters that the tables have few rows of.
func TestScalars(t *testing.T) {
	c := &compiler{}
	for _, row := range [][3]string{
		{"int", `"12f"`, "12"},
		{"int", `"0x10p1"`, "32"},
		{"int", `1e-400`, "0"},
		{"int", `-2147483648`, "-2147483648"},
		{"int", `"NaN"`, "JsonSyntaxException: java.lang.NumberFormatException: Expected an int but was NaN"},
		{"long", `9223372036854775807`, "9223372036854775807"},
		{"long", `"1e3"`, "1000"},
		{"long", `-9223372036854775809`, "-9223372036854775808"},
		{"byte", `255`, "-1"},
		{"byte", `-128`, "-128"},
		{"byte", `-129`, "JsonSyntaxException: Lossy conversion from -129 to byte"},
		{"short", `65535`, "-1"},
		{"short", `65536`, "JsonSyntaxException: Lossy conversion from 65536 to short"},
		{"double", `"-Infinity"`, "-Infinity"},
		{"double", `"1,5"`, `NumberFormatException: For input string: "1,5"`},
		{"float", `3.4028236e38`, "Infinity"},
		{"boolean", `"True"`, "true"},
		{"boolean", `1`, "JsonSyntaxException: java.lang.IllegalStateException: Expected a boolean but was NUMBER"},
		{"char", `"é"`, `"é"`},
		{"char", `"😀"`, "JsonSyntaxException: Expecting character, got: 😀"},
		{"String", `1.50`, `"1.50"`},
		{"String", `[]`, "JsonSyntaxException: java.lang.IllegalStateException: Expected a string but was BEGIN_ARRAY"},
		{"BigDecimal", `"1e2"`, "1E+2"},
		{"BigInteger", `"1.0"`, "JsonSyntaxException: Failed parsing '1.0' as BigInteger"},
		{"UUID", `"1-1-1-1-1"`, `"00000001-0001-0001-0001-000000000001"`},
		{"URL", `"null"`, "null"},
		{"URI", `"a b"`, "JsonIOException: java.net.URISyntaxException: Illegal character in path at index 1: a b"},
		{"Date", `"2026-03-01T09:30Z"`, `"2026-03-01T09:30:00Z"`},
		{"Date", `"yesterday"`, "JsonSyntaxException: Failed parsing 'yesterday' as Date"},
		{"Number", `false`, "JsonSyntaxException: Expecting number, got: BOOLEAN"},
	} {
		doc, err := wire.Parse([]byte(row[1]))
		if err != nil {
			t.Fatal(err)
		}
		verdict := c.scalar(&model.Type{Kind: model.Named, Name: row[0]})(doc)
		got := verdict.Seen.String()
		if verdict.Err != nil {
			got = verdict.Err.Message
		}
		if got != row[2] {
			t.Errorf("%s of %s: %s, want %s", row[1], row[0], got, row[2])
		}
	}
	for _, name := range []string{"Port", "LocalDate", "Object", ""} {
		if c.scalar(&model.Type{Kind: model.Named, Name: name}) != nil {
			t.Errorf("%q is taken for a scalar", name)
		}
	}
}
