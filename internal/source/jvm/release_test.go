package jvm

import (
	"strings"
	"testing"

	"vetta/internal/source/scan"
)

func TestRelease(t *testing.T) {
	const module = "jackson-module-kotlin"
	gradle := func(text string) scan.Source { return scan.Source{Name: "app/build.gradle.kts", Text: text} }
	pom := func(text string) scan.Source {
		return scan.Source{Name: "app/pom.xml", Text: "<project>" + text + "</project>"}
	}
	catalog := func(text string) scan.Source { return scan.Source{Name: "gradle/libs.versions.toml", Text: text} }
	for _, c := range []struct {
		name   string
		builds []scan.Source
		want   string // version and where, "" for none
	}{
		{"a dependency of Gradle", []scan.Source{gradle("dependencies {\n  implementation(\"com.fasterxml.jackson.module:jackson-module-kotlin:2.14.0\")\n}")}, "2.14.0 app/build.gradle.kts:2:70"},
		{"in Groovy, with a classifier", []scan.Source{gradle("api 'com.fasterxml.jackson.module:jackson-module-kotlin:2.15.4@jar'")}, "2.15.4 app/build.gradle.kts:1:57"},
		{"by a variable", []scan.Source{gradle("val jackson: String = \"2.16.1\"\nimplementation(\"com.fasterxml.jackson.module:jackson-module-kotlin:$jackson\")")}, "2.16.1 app/build.gradle.kts:1:24"},
		{"by a property of ext", []scan.Source{gradle("ext.versions = [jackson: '2.16.1']\napi \"com.fasterxml.jackson.module:jackson-module-kotlin:${versions.jackson}\"")}, "2.16.1 app/build.gradle.kts:1:27"},
		{"a range", []scan.Source{gradle(`api("com.fasterxml.jackson.module:jackson-module-kotlin:2.+")`)}, ""},
		{"another artifact", []scan.Source{gradle(`api("com.fasterxml.jackson.core:jackson-databind:2.12.0")`)}, ""},
		{"a dependency of Maven", []scan.Source{pom("<dependency>\n<artifactId>jackson-module-kotlin</artifactId>\n<version>2.17.2</version></dependency>")}, "2.17.2 app/pom.xml:3:10"},
		{"by a property of Maven", []scan.Source{pom("<properties><jackson.version>2.18.0</jackson.version></properties>\n<dependency><artifactId>jackson-module-kotlin</artifactId> <version>${jackson.version}</version></dependency>")}, "2.18.0 app/pom.xml:1:39"},
		{"one in a comment of Maven", []scan.Source{pom("<!-- <dependency><artifactId>jackson-module-kotlin</artifactId><version>2.10.0</version></dependency> --><dependency><version>2.19.2</version><artifactId>\n jackson-module-kotlin</artifactId></dependency>")}, "2.19.2 app/pom.xml:1:136"},
		{"one in a comment of Gradle", []scan.Source{gradle("val site = \"https://ferry.example\"\n// api(\"g:jackson-module-kotlin:2.10.0\")\n/* api('g:jackson-module-kotlin:2.11.0') */ api(\"g:jackson-module-kotlin:2.19.2\")")}, "2.19.2 app/build.gradle.kts:3:74"},
		{"a dependency in three parts", []scan.Source{gradle(`api group: 'g', name: 'jackson-module-kotlin', version: '2.13.0'`)}, "2.13.0 app/build.gradle.kts:1:58"},
		{"in three arguments, by a property of extra", []scan.Source{gradle("extra[\"jackson\"] = \"2.16.0\"\napi(\"g\", \"jackson-module-kotlin\", \"$jackson\")")}, "2.16.0 app/build.gradle.kts:1:21"},
		{"a dependency without a version", []scan.Source{gradle(`api("g:jackson-module-kotlin"); api("g:other:1.0")`)}, ""},
		{"a pom that is no XML", []scan.Source{pom("<dependency><artifactId>jackson-module-kotlin<version>2.17.2</version>")}, ""},
		{"two of a catalog", []scan.Source{catalog("[libraries]\nb = \"g:jackson-module-kotlin:2.19.0\"\na = \"g:jackson-module-kotlin:2.20.0\"")}, "2.20.0 gradle/libs.versions.toml:2:8"},
		{"a property that is not there", []scan.Source{pom("<dependency><artifactId>jackson-module-kotlin</artifactId><version>${jackson.version}</version></dependency>")}, ""},
		{"a catalog, by reference", []scan.Source{catalog("[versions]\nj = \"2.19.1\"\n[libraries]\nkotlin = { module = \"com.fasterxml.jackson.module:jackson-module-kotlin\", version.ref = \"j\" }")}, "2.19.1 gradle/libs.versions.toml:4:51"},
		{"a catalog, in one text", []scan.Source{catalog("[libraries]\nkotlin = \"com.fasterxml.jackson.module:jackson-module-kotlin:2.20.0\"")}, "2.20.0 gradle/libs.versions.toml:2:40"},
		{"a catalog that is no TOML", []scan.Source{catalog("[libraries\nkotlin = jackson-module-kotlin")}, ""},
		{"two that say the same", []scan.Source{gradle(`api("g:jackson-module-kotlin:2.14.0")`), pom("<dependency><artifactId>jackson-module-kotlin</artifactId><version>2.14.0</version></dependency>")}, "2.14.0 app/build.gradle.kts:1:30"},
		{"two that differ", []scan.Source{gradle(`api("g:jackson-module-kotlin:2.14.0")`), pom("<dependency><artifactId>jackson-module-kotlin</artifactId><version>2.20.0</version></dependency>")}, ""},
		{"that of the module itself first", []scan.Source{{Name: "lib/build.gradle", Module: "lib", Text: `api("g:jackson-module-kotlin:2.14.0")`}, gradle(`api("g:jackson-module-kotlin:2.20.0")`)}, "2.20.0 app/build.gradle.kts:1:30"},
	} {
		got := ""
		if r := (&Project{Builds: c.builds}).Release("", module); r.Value != "" {
			got = r.Value + " " + r.Pos.String()
		}
		if got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
}

// FuzzRelease: whatever build files hold, a version is one that is written there, at its place.
func FuzzRelease(f *testing.F) {
	for _, text := range []string{"api(\"g:a:1.0\")", "x = '1.0'; api \"g:a:$x\"", "<p><artifactId>a</artifactId><version>1.0</version></p>", "[libraries]\nb = \"g:a:1.0\"", "api('g:a:", "\"\"\"g:a:${"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for _, name := range []string{"build.gradle", "pom.xml", "libs.versions.toml"} {
			r := (&Project{Builds: []scan.Source{{Name: name, Text: text}}}).Release("", "a")
			if r.Value != "" && (!strings.Contains(text, r.Value) || r.Pos.Line < 1 || r.Pos.Col < 1) {
				t.Errorf("%s: %q at %v", name, r.Value, r.Pos)
			}
		}
	})
}
