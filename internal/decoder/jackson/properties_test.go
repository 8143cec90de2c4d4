package jackson

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// discovered lists what Jackson makes of class M in Java source: each property with the
// member that takes it, then the keys that are passed over, behind a minus.
func discovered(t *testing.T, text string, options map[string]string) string {
	t.Helper()
	set := source.Read([]scan.Source{{Name: "M.java", Text: "import com.fasterxml.jackson.annotation.*;\n" + text}})
	m := set.Find("M")
	if m == nil {
		t.Fatalf("no model M in %s", text)
	}
	settings := &model.Settings{Library: Name, Options: map[string]model.Option{}}
	for k, v := range options {
		settings.Options[k] = model.Option{Value: v}
	}
	c := &compiler{settings: settings}
	about := c.introspect(&model.Type{Kind: model.Named, Name: "M", Model: m})
	if about.why != "" {
		return "not followed: " + about.why
	}
	if about.refused != nil {
		return about.refused.Message
	}
	var out []string
	for _, p := range about.properties {
		how := "?"
		switch {
		case p.param != nil:
			how = "parameter"
		case p.setter != nil:
			how = p.setter.method.Name
		case p.field != nil:
			how = "field " + p.field.field.Name
		case p.getter != nil:
			how = p.getter.method.Name
		}
		name := p.name
		if aliases := p.marks.Find("JsonAlias").Texts("value"); len(aliases) > 0 {
			name += "|" + strings.Join(aliases, "|")
		}
		out = append(out, fmt.Sprintf("%s: %s", name, how))
	}
	slices.Sort(out)
	var ignored []string
	for name := range about.ignored {
		ignored = append(ignored, "-"+name)
	}
	slices.Sort(ignored)
	out = append(out, ignored...)
	if about.any {
		out = append(out, "any")
	}
	if about.lenient {
		out = append(out, "lenient")
	}
	return strings.Join(out, ", ")
}

func TestProperties(t *testing.T) {
	for _, c := range []struct{ name, source, want string }{
		// Which members are seen without an annotation.
		{"public field", `class M { public int a; }`, "a: field a"},
		{"private field alone", `class M { private int a; protected int b; int c; @JsonProperty int d; }`, "d: field d"},
		{"setter of any access", `class M { private int a; private void setA(int a) { this.a = a; } }`, "a: setA"},
		{"field by its getter", `class M { private int a; public int getA() { return a; } }`, "a: field a"},
		{"not by a hidden getter", `class M { @JsonProperty int z; private int a; int getA() { return a; } }`, "z: field z"},
		{"setter before field", `class M { public int a; public void setA(int a) { this.a = a; } }`, "a: setA"},
		{"fluent setter", `class M { private int a; public M setA(int a) { this.a = a; return this; } }`, "a: setA"},
		{"two parameters are no setter", `class M { public int z; private int a; public void setA(int a, int b) { this.a = a; } }`, "z: field z"},
		{"static is none", `class M { public static int a; public int b; public static void setC(int c) { } }`, "b: field b"},
		{"a collection by its getter", `class M { private final java.util.List<String> tags = new java.util.ArrayList<>(); public java.util.List<String> getTags() { return tags; } }`, "tags: field tags"},
		{"one that masks another", `class M extends B { public int a; } class B { public String a; public int b; }`, "a: field a, b: field b"},
		{"transient, with a getter", `class M { public int z; private transient java.util.List<String> tags; public java.util.List<String> getTags() { return tags; } }`, "tags: field tags, z: field z"},
		// Names of accessors (BeanUtil.legacyManglePropertyName).
		{"URL", `class M { private String u; public void setURL(String u) { this.u = u; } }`, "url: setURL"},
		{"aFare", `class M { public int aFare; public void setAFare(int f) { aFare = f; } }`, "aFare: field aFare, afare: setAFare"},
		{"is of boolean", `class M { private boolean active; public boolean isActive() { return active; } }`, "active: field active"},
		{"is of int is none", `class M { public int z; private int active; public int isActive() { return active; } }`, "z: field z"},
		{"set alone", `class M { public int z; public void set(int a) { } }`, "z: field z"},
		{"underscore", `class M { public int z; private int _id; public void set_id(int id) { _id = id; } }`, "_id: set_id, z: field z"},
		// Annotations on one member count for all of them.
		{"name on the getter", `class M { private int a; @JsonProperty("k") public int getA() { return a; } public void setA(int a) { this.a = a; } }`, "k: setA"},
		{"name on the field", `class M { @JsonProperty("k") private int a; public void setA(int a) { this.a = a; } }`, "k: setA"},
		{"two names", `class M { @JsonProperty("k") private int a; @JsonProperty("j") public void setA(int a) { this.a = a; } }`, "j: setA, k: field a"},
		{"one name for two", `class M { @JsonProperty("k") public int a; @JsonProperty("k") public void setB(int b) { } }`, "k: setB"},
		{"setter annotation", `class M { @JsonSetter("k") public void put(int a) { } public int z; }`, "k: put, z: field z"},
		{"format makes a field seen", `class M { @JsonFormat(pattern = "yyyy") private java.util.Date at; }`, "at: field at"},
		{"alias does not", `class M { public int z; @JsonAlias("b") private int a; }`, "z: field z"},
		{"aliases", `class M { @JsonAlias({"b", "c"}) public int a; }`, "a|b|c: field a"},
		{"alias on the getter", `class M { private int a; @JsonAlias("b") public int getA() { return a; } public void setA(int a) { this.a = a; } }`, "a|b: setA"},
		// What is left out.
		{"ignored", `class M { public int z; @JsonIgnore public int a; }`, "z: field z, -a"},
		{"ignored by its getter", `class M { public int z; public int a; @JsonIgnore public int getA() { return a; } }`, "z: field z, -a"},
		{"ignored but for the setter", `class M { @JsonIgnore private int a; @JsonProperty("a") public void setA(int a) { this.a = a; } }`, "a: setA"},
		{"ignore false", `class M { @JsonIgnore(false) public int a; }`, "a: field a"},
		{"by the class", `@JsonIgnoreProperties({"a", "x"}) class M { public int a; public int b; }`, "b: field b, -a, -x"},
		{"by the class, for writing alone", `@JsonIgnoreProperties(value = "a", allowSetters = true) class M { public int a; }`, "a: field a"},
		{"unknown ones", `@JsonIgnoreProperties(ignoreUnknown = true) class M { public int a; }`, "a: field a, lenient"},
		{"only some", `@JsonIncludeProperties({"b"}) class M { public int a; public int b; }`, "b: field b"},
		{"read only", `class M { public int z; @JsonProperty(access = JsonProperty.Access.READ_ONLY) public int a; }`, "z: field z, -a"},
		{"write only", `class M { @JsonProperty(access = JsonProperty.Access.WRITE_ONLY) private int a; }`, "a: field a"},
		{"a type that is left out", `@JsonIgnoreType class N { public int x; } class M { public int z; public N n; }`, "z: field z, -n"},
		{"any setter", `class M { public int a; @JsonAnySetter public void put(String k, Object v) { } }`, "a: field a, any"},
		{"any setter takes the ignored", `class M { public int a; @JsonIgnore public int b; @JsonAnySetter public void put(String k, Object v) { } }`, "a: field a, any"},
		// Visibility by annotation.
		{"any field", `@JsonAutoDetect(fieldVisibility = JsonAutoDetect.Visibility.ANY) class M { private int a; }`, "a: field a"},
		{"no setter", `@JsonAutoDetect(setterVisibility = JsonAutoDetect.Visibility.NONE) class M { public int a; public void setA(int a) { } public void setB(int b) { } }`, "a: field a"},
		{"inherited", `@JsonAutoDetect(fieldVisibility = JsonAutoDetect.Visibility.NON_PRIVATE) class Base { } class M extends Base { int a; private int b; }`, "a: field a"},
		// What makes instances.
		{"creator", `class M { final int a; @JsonCreator M(@JsonProperty("k") int a) { this.a = a; } }`, "k: parameter"},
		{"creator without its annotation", `class M { final int a; M(@JsonProperty("k") int a, @JsonProperty("j") int b) { this.a = a; } }`, "j: parameter, k: parameter"},
		{"factory", `class M { int a; @JsonCreator static M of(@JsonProperty("k") int a) { return new M(); } }`, "k: parameter"},
		{"constructor properties", `class M { final int a; @java.beans.ConstructorProperties({"k"}) M(int a) { this.a = a; } }`, "k: parameter"},
		{"a creator that is off", `class M { public int a; M() { } @JsonCreator(mode = JsonCreator.Mode.DISABLED) M(@JsonProperty("k") int a) { } }`, "a: field a"},
		{"half a creator", `class M { int a; @JsonCreator M(@JsonProperty("k") int a, int b) { } }`, "InvalidDefinitionException: Invalid type definition for type `M`: Argument #1 of constructor [constructor for `M` (2 args), annotations: {interface com.fasterxml.jackson.annotation.JsonCreator=@com.fasterxml.jackson.annotation.JsonCreator(mode=DEFAULT)} has no property name (and is not Injectable): can not use as property-based Creator"},
		{"parameter and field", `class M { @JsonProperty("k") private int a; @JsonCreator M(@JsonProperty("k") int a) { this.a = a; } }`, "k: parameter"},
		{"ignored, but a parameter", `@JsonIgnoreProperties({"k"}) class M { int a; @JsonCreator M(@JsonProperty("k") int a) { this.a = a; } }`, "k: parameter, -k"},
		{"record", `record M(int a, @JsonProperty("k") String b) { }`, "a: parameter, k: parameter"},
		// Inheritance.
		{"of the superclass", `class Base { public int a; private int b; public void setB(int b) { this.b = b; } } class M extends Base { public int c; }`, "a: field a, b: setB, c: field c"},
		{"annotation of what is overridden", `class Base { @JsonProperty("k") public void setA(int a) { } } class M extends Base { public int z; @Override public void setA(int a) { } }`, "k: setA, z: field z"},
		{"setter by its type", `class M { private int a; public void setA(Integer a) { } public void setA(int a) { } }`, "a: setA"},
		{"two setters", `class M { private Object a; public void setA(java.util.Date a) { } public void setA(java.util.List<String> a) { } }`, `InvalidDefinitionException: Conflicting setter definitions for property "a": M#setA(java.util.List) vs M#setA(java.util.Date)`},
		// What Jackson refuses.
		{"two getters", `class M { private int a; public int geta() { return a; } public int getA() { return a; } public void setA(int a) { } }`, `InvalidDefinitionException: Conflicting getter definitions for property "a": M#getA() vs M#geta()`},
		{"get before is", `class M { private boolean a; public boolean isA() { return a; } public boolean getA() { return a; } public void setA(boolean a) { } }`, "a: setA"},
		{"two fields", `class M { @JsonProperty("k") public int a; @JsonProperty("k") public int b; }`, `InvalidDefinitionException: Multiple fields representing property "k": M#a vs M#b`},
		{"two fields, one with a name", `class M { @JsonProperty("a") public int b; public int a; }`, "a: field b"},
		{"two setters of other names", `class M { @JsonProperty("k") void b(int a) { } @JsonProperty("k") void c(int a) { } }`, `InvalidDefinitionException: Conflicting setter definitions for property "k": M#b(int) vs M#c(int)`},
		{"two any-setters", `class M { @JsonAnySetter void b(String k, Object v) { } @JsonAnySetter void c(String k, Object v) { } }`, "InvalidDefinitionException: Problem with definition of [AnnotedClass M]: Multiple 'any-setter' methods defined ([method M#b(2 params)] vs [method M#c(2 params)])"},
		{"a name twice", `class M { int a; @JsonCreator M(@JsonProperty("k") int a, @JsonProperty("k") int b) { } }`, "InvalidDefinitionException: Duplicate creator property \"k\" (index 0 vs 1) for type `M` "},
		{"unwrapped parameter", `class M { int a; @JsonCreator M(@JsonProperty("k") int a, @JsonUnwrapped Object b) { } }`, "InvalidDefinitionException: Invalid type definition for type `M`: Cannot define Creator parameter 1 as `@JsonUnwrapped`: combination not yet supported"},
		{"half a factory", `class M { int a; @JsonCreator static M of(int a, int b) { return new M(); } }`, "InvalidDefinitionException: Invalid type definition for type `M`: Argument #0 of constructor [method M#of(2 params)] has no property name (and is not Injectable): can not use as property-based Creator"},
		{"half a constructor", `class M { int a; M() { } M(@JsonProperty("k") int a, int b) { } }`, "InvalidDefinitionException: Invalid type definition for type `M`: Argument #1 of constructor [constructor for `M` (2 args), annotations: [null] has no property name annotation; must have name when multiple-parameter constructor annotated as Creator"},
		{"several as a whole", `class M { int a; @JsonCreator(mode = JsonCreator.Mode.DELEGATING) M(int a, int b) { } }`, "InvalidDefinitionException: Invalid type definition for type `M`: More than one argument (#0 and #1) left as delegating for Creator [constructor for `M` (2 args), annotations: {interface com.fasterxml.jackson.annotation.JsonCreator=@com.fasterxml.jackson.annotation.JsonCreator(mode=DELEGATING)}: only one allowed"},
		// Lombok.
		{"accessors of one name but for case", `@lombok.Data class M { private int ID; private String id; }`, "id: setID"},
		{"data", `@lombok.Data class M { private int a; private boolean isOpen; }`, "a: setA, open: setOpen"},
		{"value", `@lombok.Value class M { int a; }`, "a: field a"},
		{"no setter of one", `@lombok.Data class M { @lombok.Setter(lombok.AccessLevel.NONE) private int a; }`, "a: field a"},
		{"no accessor of one", `@lombok.Data class M { private int z; @lombok.Getter(lombok.AccessLevel.NONE) @lombok.Setter(lombok.AccessLevel.NONE) private int a; }`, "z: setZ"},
		{"fluent", `@lombok.Data @lombok.experimental.Accessors(fluent = true) class M { @JsonProperty private int a; private int b; }`, "a: a"},
		{"builder", `@lombok.Value @lombok.Builder @lombok.extern.jackson.Jacksonized class M { int a; @JsonProperty("k") String b; String mURL; }`, "a: a, k: b, mURL: mURL"},
	} {
		t.Run(c.name, func(t *testing.T) {
			if got := discovered(t, c.source, nil); got != c.want {
				t.Errorf("%s\n got %s\nwant %s", c.source, got, c.want)
			}
		})
	}
}

// TestPropertiesBySettings: what a mapper's settings change.
func TestPropertiesBySettings(t *testing.T) {
	const fields = `class M { private int portCode; int seatsLeft; public int aURL; public int getPortCode() { return portCode; } public final int fixed = 1; }`
	for _, c := range []struct{ name, value, want string }{
		{"", "", "aURL: field aURL, fixed: field fixed, portCode: field portCode"},
		{"naming", "SNAKE_CASE", "a_url: field aURL, fixed: field fixed, port_code: field portCode"},
		{"naming", "KEBAB_CASE", "a-url: field aURL, fixed: field fixed, port-code: field portCode"},
		{"naming", "UPPER_CAMEL_CASE", "AURL: field aURL, Fixed: field fixed, PortCode: field portCode"},
		{"naming", "Ours", "not followed: its keys are renamed by Ours, which is not followed"},
		{"visibility.FIELD", "ANY", "aURL: field aURL, fixed: field fixed, portCode: field portCode, seatsLeft: field seatsLeft"},
		{"visibility.FIELD", "NONE", "portCode: field portCode"},
		{"visibility.ALL", "NONE", ""},
		{"AUTO_DETECT_FIELDS", "false", "portCode: field portCode"},
		{"AUTO_DETECT_GETTERS", "false", "aURL: field aURL, fixed: field fixed"},
		{"INFER_PROPERTY_MUTATORS", "false", "aURL: field aURL, fixed: field fixed"},
		{"ALLOW_FINAL_FIELDS_AS_MUTATORS", "false", "aURL: field aURL, portCode: field portCode"},
	} {
		if got := discovered(t, fields, map[string]string{c.name: c.value}); got != c.want {
			t.Errorf("%s %s\n got %s\nwant %s", c.name, c.value, got, c.want)
		}
	}
	std := map[string]string{"USE_STD_BEAN_NAMING": "true"}
	if got := discovered(t, `class M { private String u; public void setURL(String u) { } public void setPortCode(String c) { } }`, std); got != "URL: setURL, portCode: setPortCode" {
		t.Errorf("standard names: %s", got)
	}
}
