package jvm

import (
	"testing"

	"vetta/internal/source/scan"
)

func TestRelease(t *testing.T) {
	const module = "jackson-module-kotlin"
	gradle := func(text string) scan.Source { return scan.Source{Name: "app/build.gradle.kts", Text: text} }
	pom := func(text string) scan.Source { return scan.Source{Name: "app/pom.xml", Text: text} }
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
		{"by a property of Maven", []scan.Source{pom("<properties><jackson.version>2.18.0</jackson.version></properties>\n<artifactId>jackson-module-kotlin</artifactId> <version>${jackson.version}</version>")}, "2.18.0 app/pom.xml:1:30"},
		{"a property that is not there", []scan.Source{pom("<artifactId>jackson-module-kotlin</artifactId><version>${jackson.version}</version>")}, ""},
		{"a catalog, by reference", []scan.Source{catalog("[versions]\nj = \"2.19.1\"\n[libraries]\nkotlin = { module = \"com.fasterxml.jackson.module:jackson-module-kotlin\", version.ref = \"j\" }")}, "2.19.1 gradle/libs.versions.toml:4:51"},
		{"a catalog, in one text", []scan.Source{catalog("[libraries]\nkotlin = \"com.fasterxml.jackson.module:jackson-module-kotlin:2.20.0\"")}, "2.20.0 gradle/libs.versions.toml:2:40"},
		{"a catalog that is no TOML", []scan.Source{catalog("[libraries\nkotlin = jackson-module-kotlin")}, ""},
		{"two that say the same", []scan.Source{gradle(`api("g:jackson-module-kotlin:2.14.0")`), pom("<artifactId>jackson-module-kotlin</artifactId><version>2.14.0</version>")}, "2.14.0 app/build.gradle.kts:1:30"},
		{"two that differ", []scan.Source{gradle(`api("g:jackson-module-kotlin:2.14.0")`), pom("<artifactId>jackson-module-kotlin</artifactId><version>2.20.0</version>")}, ""},
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
