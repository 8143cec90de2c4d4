package orgjson_test

import (
	"fmt"
	"testing"

	"vetta/internal/decoder/orgjson"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestAccessors: what each way of asking answers for each kind of value, as Android's org.json did when
// it was run (the rewrite of 2009-02-11, on OpenJDK 17): the value that the field holds, or the error.
func TestAccessors(t *testing.T) {
	for _, c := range []struct {
		name, typ, expr string
		want            [][2]string // by document
	}{
		{"getString", "String", `o.getString("k")`, [][2]string{
			{`{}`, `JSONException: No value for k`},
			{`{"k":null}`, `"null"`},
			{`{"k":true}`, `"true"`},
			{`{"k":12}`, `"12"`},
			{`{"k":12.75}`, `"12.75"`},
			{`{"k":3000000000}`, `"3000000000"`},
			{`{"k":"12"}`, `"12"`},
			{`{"k":" 12 "}`, `" 12 "`},
			{`{"k":"12.75"}`, `"12.75"`},
			{`{"k":"TRUE"}`, `"TRUE"`},
			{`{"k":"x"}`, `"x"`},
			{`{"k":""}`, `""`},
			{`{"k":[1]}`, `"[1]"`},
			{`{"k":{"a":1}}`, `"{\"a\":1}"`},
		}},
		{"optString", "String", `o.optString("k")`, [][2]string{
			{`{}`, `""`},
			{`{"k":null}`, `"null"`},
			{`{"k":true}`, `"true"`},
			{`{"k":12}`, `"12"`},
			{`{"k":12.75}`, `"12.75"`},
			{`{"k":3000000000}`, `"3000000000"`},
			{`{"k":"12"}`, `"12"`},
			{`{"k":" 12 "}`, `" 12 "`},
			{`{"k":"12.75"}`, `"12.75"`},
			{`{"k":"TRUE"}`, `"TRUE"`},
			{`{"k":"x"}`, `"x"`},
			{`{"k":""}`, `""`},
			{`{"k":[1]}`, `"[1]"`},
			{`{"k":{"a":1}}`, `"{\"a\":1}"`},
		}},
		{"optString with a default", "String", `o.optString("k", "d")`, [][2]string{
			{`{}`, `"d"`},
			{`{"k":null}`, `"null"`},
			{`{"k":true}`, `"true"`},
			{`{"k":12}`, `"12"`},
			{`{"k":12.75}`, `"12.75"`},
			{`{"k":3000000000}`, `"3000000000"`},
			{`{"k":"12"}`, `"12"`},
			{`{"k":" 12 "}`, `" 12 "`},
			{`{"k":"12.75"}`, `"12.75"`},
			{`{"k":"TRUE"}`, `"TRUE"`},
			{`{"k":"x"}`, `"x"`},
			{`{"k":""}`, `""`},
			{`{"k":[1]}`, `"[1]"`},
			{`{"k":{"a":1}}`, `"{\"a\":1}"`},
		}},
		{"getInt", "int", `o.getInt("k")`, [][2]string{
			{`{}`, `JSONException: No value for k`},
			{`{"k":null}`, `JSONException: Value null at k of type org.json.JSONObject$1 cannot be converted to int`},
			{`{"k":true}`, `JSONException: Value true at k of type java.lang.Boolean cannot be converted to int`},
			{`{"k":12}`, `12`},
			{`{"k":12.75}`, `12`},
			{`{"k":3000000000}`, `-1294967296`},
			{`{"k":"12"}`, `12`},
			{`{"k":" 12 "}`, `12`},
			{`{"k":"12.75"}`, `12`},
			{`{"k":"TRUE"}`, `JSONException: Value TRUE at k of type java.lang.String cannot be converted to int`},
			{`{"k":"x"}`, `JSONException: Value x at k of type java.lang.String cannot be converted to int`},
			{`{"k":""}`, `JSONException: Value  at k of type java.lang.String cannot be converted to int`},
			{`{"k":[1]}`, `JSONException: Value [1] at k of type org.json.JSONArray cannot be converted to int`},
			{`{"k":{"a":1}}`, `JSONException: Value {"a":1} at k of type org.json.JSONObject cannot be converted to int`},
		}},
		{"optInt", "int", `o.optInt("k")`, [][2]string{
			{`{}`, `0`},
			{`{"k":null}`, `0`},
			{`{"k":true}`, `0`},
			{`{"k":12}`, `12`},
			{`{"k":12.75}`, `12`},
			{`{"k":3000000000}`, `-1294967296`},
			{`{"k":"12"}`, `12`},
			{`{"k":" 12 "}`, `12`},
			{`{"k":"12.75"}`, `12`},
			{`{"k":"TRUE"}`, `0`},
			{`{"k":"x"}`, `0`},
			{`{"k":""}`, `0`},
			{`{"k":[1]}`, `0`},
			{`{"k":{"a":1}}`, `0`},
		}},
		{"optInt with a default", "int", `o.optInt("k", 7)`, [][2]string{
			{`{}`, `7`},
			{`{"k":null}`, `7`},
			{`{"k":true}`, `7`},
			{`{"k":12}`, `12`},
			{`{"k":12.75}`, `12`},
			{`{"k":3000000000}`, `-1294967296`},
			{`{"k":"12"}`, `12`},
			{`{"k":" 12 "}`, `12`},
			{`{"k":"12.75"}`, `12`},
			{`{"k":"TRUE"}`, `7`},
			{`{"k":"x"}`, `7`},
			{`{"k":""}`, `7`},
			{`{"k":[1]}`, `7`},
			{`{"k":{"a":1}}`, `7`},
		}},
		{"getLong", "long", `o.getLong("k")`, [][2]string{
			{`{}`, `JSONException: No value for k`},
			{`{"k":null}`, `JSONException: Value null at k of type org.json.JSONObject$1 cannot be converted to long`},
			{`{"k":true}`, `JSONException: Value true at k of type java.lang.Boolean cannot be converted to long`},
			{`{"k":12}`, `12`},
			{`{"k":12.75}`, `12`},
			{`{"k":3000000000}`, `3000000000`},
			{`{"k":"12"}`, `12`},
			{`{"k":" 12 "}`, `12`},
			{`{"k":"12.75"}`, `12`},
			{`{"k":"TRUE"}`, `JSONException: Value TRUE at k of type java.lang.String cannot be converted to long`},
			{`{"k":"x"}`, `JSONException: Value x at k of type java.lang.String cannot be converted to long`},
			{`{"k":""}`, `JSONException: Value  at k of type java.lang.String cannot be converted to long`},
			{`{"k":[1]}`, `JSONException: Value [1] at k of type org.json.JSONArray cannot be converted to long`},
			{`{"k":{"a":1}}`, `JSONException: Value {"a":1} at k of type org.json.JSONObject cannot be converted to long`},
		}},
		{"optLong", "long", `o.optLong("k")`, [][2]string{
			{`{}`, `0`},
			{`{"k":null}`, `0`},
			{`{"k":true}`, `0`},
			{`{"k":12}`, `12`},
			{`{"k":12.75}`, `12`},
			{`{"k":3000000000}`, `3000000000`},
			{`{"k":"12"}`, `12`},
			{`{"k":" 12 "}`, `12`},
			{`{"k":"12.75"}`, `12`},
			{`{"k":"TRUE"}`, `0`},
			{`{"k":"x"}`, `0`},
			{`{"k":""}`, `0`},
			{`{"k":[1]}`, `0`},
			{`{"k":{"a":1}}`, `0`},
		}},
		{"getDouble", "double", `o.getDouble("k")`, [][2]string{
			{`{}`, `JSONException: No value for k`},
			{`{"k":null}`, `JSONException: Value null at k of type org.json.JSONObject$1 cannot be converted to double`},
			{`{"k":true}`, `JSONException: Value true at k of type java.lang.Boolean cannot be converted to double`},
			{`{"k":12}`, `12.0`},
			{`{"k":12.75}`, `12.75`},
			{`{"k":3000000000}`, `3000000000.0`},
			{`{"k":"12"}`, `12.0`},
			{`{"k":" 12 "}`, `12.0`},
			{`{"k":"12.75"}`, `12.75`},
			{`{"k":"TRUE"}`, `JSONException: Value TRUE at k of type java.lang.String cannot be converted to double`},
			{`{"k":"x"}`, `JSONException: Value x at k of type java.lang.String cannot be converted to double`},
			{`{"k":""}`, `JSONException: Value  at k of type java.lang.String cannot be converted to double`},
			{`{"k":[1]}`, `JSONException: Value [1] at k of type org.json.JSONArray cannot be converted to double`},
			{`{"k":{"a":1}}`, `JSONException: Value {"a":1} at k of type org.json.JSONObject cannot be converted to double`},
		}},
		{"optDouble", "double", `o.optDouble("k")`, [][2]string{
			{`{}`, `NaN`},
			{`{"k":null}`, `NaN`},
			{`{"k":true}`, `NaN`},
			{`{"k":12}`, `12.0`},
			{`{"k":12.75}`, `12.75`},
			{`{"k":3000000000}`, `3000000000.0`},
			{`{"k":"12"}`, `12.0`},
			{`{"k":" 12 "}`, `12.0`},
			{`{"k":"12.75"}`, `12.75`},
			{`{"k":"TRUE"}`, `NaN`},
			{`{"k":"x"}`, `NaN`},
			{`{"k":""}`, `NaN`},
			{`{"k":[1]}`, `NaN`},
			{`{"k":{"a":1}}`, `NaN`},
		}},
		{"optDouble with a default", "double", `o.optDouble("k", 0.5)`, [][2]string{
			{`{}`, `0.5`},
			{`{"k":null}`, `0.5`},
			{`{"k":true}`, `0.5`},
			{`{"k":12}`, `12.0`},
			{`{"k":12.75}`, `12.75`},
			{`{"k":3000000000}`, `3000000000.0`},
			{`{"k":"12"}`, `12.0`},
			{`{"k":" 12 "}`, `12.0`},
			{`{"k":"12.75"}`, `12.75`},
			{`{"k":"TRUE"}`, `0.5`},
			{`{"k":"x"}`, `0.5`},
			{`{"k":""}`, `0.5`},
			{`{"k":[1]}`, `0.5`},
			{`{"k":{"a":1}}`, `0.5`},
		}},
		{"getBoolean", "boolean", `o.getBoolean("k")`, [][2]string{
			{`{}`, `JSONException: No value for k`},
			{`{"k":null}`, `JSONException: Value null at k of type org.json.JSONObject$1 cannot be converted to boolean`},
			{`{"k":true}`, `true`},
			{`{"k":12}`, `JSONException: Value 12 at k of type java.lang.Integer cannot be converted to boolean`},
			{`{"k":12.75}`, `JSONException: Value 12.75 at k of type java.lang.Double cannot be converted to boolean`},
			{`{"k":3000000000}`, `JSONException: Value 3000000000 at k of type java.lang.Long cannot be converted to boolean`},
			{`{"k":"12"}`, `JSONException: Value 12 at k of type java.lang.String cannot be converted to boolean`},
			{`{"k":" 12 "}`, `JSONException: Value  12  at k of type java.lang.String cannot be converted to boolean`},
			{`{"k":"12.75"}`, `JSONException: Value 12.75 at k of type java.lang.String cannot be converted to boolean`},
			{`{"k":"TRUE"}`, `true`},
			{`{"k":"x"}`, `JSONException: Value x at k of type java.lang.String cannot be converted to boolean`},
			{`{"k":""}`, `JSONException: Value  at k of type java.lang.String cannot be converted to boolean`},
			{`{"k":[1]}`, `JSONException: Value [1] at k of type org.json.JSONArray cannot be converted to boolean`},
			{`{"k":{"a":1}}`, `JSONException: Value {"a":1} at k of type org.json.JSONObject cannot be converted to boolean`},
		}},
		{"optBoolean", "boolean", `o.optBoolean("k")`, [][2]string{
			{`{}`, `false`},
			{`{"k":null}`, `false`},
			{`{"k":true}`, `true`},
			{`{"k":12}`, `false`},
			{`{"k":12.75}`, `false`},
			{`{"k":3000000000}`, `false`},
			{`{"k":"12"}`, `false`},
			{`{"k":" 12 "}`, `false`},
			{`{"k":"12.75"}`, `false`},
			{`{"k":"TRUE"}`, `true`},
			{`{"k":"x"}`, `false`},
			{`{"k":""}`, `false`},
			{`{"k":[1]}`, `false`},
			{`{"k":{"a":1}}`, `false`},
		}},
		{"optBoolean with a default", "boolean", `o.optBoolean("k", true)`, [][2]string{
			{`{}`, `true`},
			{`{"k":null}`, `true`},
			{`{"k":true}`, `true`},
			{`{"k":12}`, `true`},
			{`{"k":12.75}`, `true`},
			{`{"k":3000000000}`, `true`},
			{`{"k":"12"}`, `true`},
			{`{"k":" 12 "}`, `true`},
			{`{"k":"12.75"}`, `true`},
			{`{"k":"TRUE"}`, `true`},
			{`{"k":"x"}`, `true`},
			{`{"k":""}`, `true`},
			{`{"k":[1]}`, `true`},
			{`{"k":{"a":1}}`, `true`},
		}},
		{"has", "boolean", `o.has("k")`, [][2]string{
			{`{}`, `false`},
			{`{"k":null}`, `true`},
			{`{"k":true}`, `true`},
			{`{"k":12}`, `true`},
			{`{"k":12.75}`, `true`},
			{`{"k":3000000000}`, `true`},
			{`{"k":"12"}`, `true`},
			{`{"k":" 12 "}`, `true`},
			{`{"k":"12.75"}`, `true`},
			{`{"k":"TRUE"}`, `true`},
			{`{"k":"x"}`, `true`},
			{`{"k":""}`, `true`},
			{`{"k":[1]}`, `true`},
			{`{"k":{"a":1}}`, `true`},
		}},
		{"isNull", "boolean", `o.isNull("k")`, [][2]string{
			{`{}`, `true`},
			{`{"k":null}`, `true`},
			{`{"k":true}`, `false`},
			{`{"k":12}`, `false`},
			{`{"k":12.75}`, `false`},
			{`{"k":3000000000}`, `false`},
			{`{"k":"12"}`, `false`},
			{`{"k":" 12 "}`, `false`},
			{`{"k":"12.75"}`, `false`},
			{`{"k":"TRUE"}`, `false`},
			{`{"k":"x"}`, `false`},
			{`{"k":""}`, `false`},
			{`{"k":[1]}`, `false`},
			{`{"k":{"a":1}}`, `false`},
		}},
	} {
		t.Run(c.name, func(t *testing.T) {
			text := fmt.Sprintf("import org.json.*;\nclass R { %s v; R(JSONObject o) throws JSONException { v = %s; } }", c.typ, c.expr)
			set := source.Read([]scan.Source{{Name: "R.java", Text: text}})
			plan := orgjson.Plan(&model.Type{Kind: model.Named, Name: "R", Model: set.Find("R")}, "R", nil)
			for _, row := range c.want {
				doc, err := wire.Parse([]byte(row[0]))
				if err != nil {
					t.Fatal(err)
				}
				out := plan.Decode(doc)
				got := ""
				if out.Err != nil {
					got = out.Err.Message
				} else if v, ok := out.Seen.Get("v"); ok {
					got = v.String()
				}
				if got != row[1] {
					t.Errorf("%s of %s\n got %s\nwant %s", c.expr, row[0], got, row[1])
				}
			}
		})
	}
}
