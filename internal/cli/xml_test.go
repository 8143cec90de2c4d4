package cli_test

import (
	"archive/zip"
	"bytes"
	"compress/gzip"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"golang.org/x/text/encoding/unicode"
)

const xmlSource = `using System.Xml.Serialization;
namespace Saltmere;

[XmlRoot("timetable")]
public class Timetable
{
    [XmlAttribute("day")] public string Day { get; set; } = "";
    [XmlElement("departure")] public List<Departure> Lines { get; set; } = new();
}

public class Departure
{
    [XmlAttribute("gate")] public string Gate { get; set; } = "";
    [XmlElement("vessel")] public string Vessel { get; set; } = "";
    [XmlElement("seats")] public int Seats { get; set; }
    [XmlElement("token")] public int Token { get; set; }
}

public class Api
{
    public Timetable Load(string text) => (Timetable)new XmlSerializer(typeof(Timetable)).Deserialize(new StringReader(text));
}
`

// timetables are three responses: with a gate as an attribute, with one as an element, and with seats that nobody counted.
var timetables = []string{
	`<?xml version="1.0" encoding="utf-8"?>` + "\n" + `<timetable day="2026-03-01"><departure gate="A1"><vessel>Tern</vessel><seats>40</seats><token>1</token></departure></timetable>`,
	`<timetable day="2026-03-02"><departure><gate>A2</gate><vessel>Gull &amp; Sons</vessel><seats>12</seats><token>2</token></departure></timetable>`,
	`<timetable day="2026-03-03"><departure gate="A1"><vessel><![CDATA[Skua]]></vessel><seats/><token>s3cret</token></departure></timetable>`,
}

// TestXMLForms: the same XML responses in each form of capture give the same findings.
func TestXMLForms(t *testing.T) {
	bare, packed, wide := files{}, files{}, files{}
	var messages strings.Builder
	var entries []string
	var archive bytes.Buffer
	z := zip.NewWriter(&archive)
	for i, doc := range timetables {
		name := fmt.Sprintf("captures/timetable-%d.xml", i+1)
		bare[name] = doc
		var b bytes.Buffer
		g := gzip.NewWriter(&b)
		g.Write([]byte(doc))
		g.Close()
		packed[name+".gz"] = b.String()
		text, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder().String(strings.Replace(doc, "utf-8", "utf-16", 1))
		if err != nil {
			t.Fatal(err)
		}
		wide[name] = text
		fmt.Fprintf(&messages, "GET /v2/timetable HTTP/1.1\r\nHost: api.saltmere.example\r\n\r\nHTTP/1.1 200 OK\r\nContent-Type: text/xml\r\nContent-Length: %d\r\n\r\n%s", len(doc), doc)
		content, _ := json.Marshal(doc)
		encoded := `"text":` + string(content)
		if i == 1 {
			encoded = `"encoding":"base64","text":"` + base64.StdEncoding.EncodeToString([]byte(doc)) + `"`
		}
		entries = append(entries, fmt.Sprintf(`{"startedDateTime":"2026-03-0%dT06:00:00Z","request":{"method":"GET","url":"https://api.saltmere.example/v2/timetable"},"response":{"status":200,"content":{"mimeType":"application/vnd.saltmere+xml",%s}}}`, i+1, encoded))
		w, _ := z.Create(fmt.Sprintf("timetable-%d.xml", i+1))
		w.Write([]byte(doc))
	}
	z.Close()
	for name, captures := range map[string]files{
		"bare": bare, "gzip": packed, "UTF-16": wide,
		"messages": {"captures/day.http": messages.String()},
		"HAR":      {"captures/day.har": `{"log":{"version":"1.2","creator":{"name":"b","version":"1"},"entries":[` + strings.Join(entries, ",") + `]}}`},
		"zip":      {"captures/day.zip": archive.String()},
	} {
		t.Run(name, func(t *testing.T) {
			captures["App/Timetable.cs"] = xmlSource
			p := newProject(t, captures)
			p.run("check", "App", "captures").exits(1).says(
				"1 of 3 responses would not decode", // seats and token are wrong in one response
				`sent      ""  in 1 of 3 values, 1 of 3 responses`, "no attribute @gate  in 1 of 3 elements", "it was an attribute, and is an element",
				`change    [XmlElement("gate")]`, "at /timetable/departure: 3 elements in 3 responses")
			if out := p.run("check", "App", "captures").out; strings.Contains(out, "s3cret") {
				t.Errorf("a secret is shown:\n%s", out)
			}
			p.run("check", "App", "captures", "-show-secrets").says("s3cret")
			p.run("shape", "captures").exits(0).says("@gate", `"Gull & Sons" "Skua" "Tern"`, "number in text 2, empty string 1")
		})
	}
}

// TestXMLMalformed: what is no XML is told with its place, and the run goes on.
func TestXMLMalformed(t *testing.T) {
	p := newProject(t, files{
		"App/Timetable.cs":         xmlSource,
		"captures/timetable-1.xml": timetables[0],
		"captures/timetable-2.xml": "<timetable day=\"2026-03-02\">\n  <departure>\n</timetable>",
		"captures/timetable-3.xml": `<!DOCTYPE timetable [<!ENTITY x SYSTEM "/etc/passwd">]><timetable day="&x;"/>`,
	})
	p.run("check", "App", "captures").exits(0).says("1 read from 3 captures: 1 checked", "2 inputs could not be read whole").complains(
		"captures/timetable-2.xml:3:1: malformed: </timetable> where <departure> is open",
		"captures/timetable-3.xml:1:72: malformed: the entity &x; stands outside the document, which is not read")
	p.run("trial", "App", "captures/timetable-2.xml").exits(2).says("malformed", "timetable-2.xml:3:1")
}

// TestXMLPlaces: a part is paired by its XPath, the root by $ or nothing, and a saved shape is checked as captures are.
func TestXMLPlaces(t *testing.T) {
	source := strings.Replace(xmlSource, "public class Api", "internal class Unused", 1)
	source = source[:strings.Index(source, "internal class Unused")]
	project := files{"App/Timetable.cs": source, "vetta.toml": "[[decoder]]\npath = \"App\"\nlibrary = \"xmlserializer\"\n"}
	for i, doc := range timetables {
		project[fmt.Sprintf("captures/day-%d.xml", i+1)] = doc
	}
	p := newProject(t, project)
	p.run("check", "App", "captures", "-pair", "Departure=captures/day#/timetable/departure").says("at /timetable/departure: 3 elements in 3 responses", "no attribute @gate  in 1 of 3 elements")
	p.run("check", "App", "captures", "-pair", "Timetable=captures/day#$").says("at /timetable/departure: 3 elements in 3 responses")
	p.run("check", "App", "captures", "-pair", "Timetable=captures/day#/timetable/ferry").complains("captures/day has no place /timetable/ferry; it has /timetable, /timetable/departure")
	p.run("shape", "captures", "-place", "/timetable/departure").exits(0).says("/timetable/departure", "vessel")
	p.run("shape", "-o", "day.shape", "captures").exits(0)
	p.run("check", "App", "day.shape", "-pair", "Timetable=captures/day").says("no attribute @gate  in 1 of 3 elements", "captures/day-2.xml:1:29  /timetable/departure[1]")
}

// TestXMLRoot: a root of another name, or in another namespace, is told with what to write.
func TestXMLRoot(t *testing.T) {
	project := files{"App/Timetable.cs": strings.Replace(xmlSource, "public class Api\n{", "public class Api(HttpClient http)\n{\n    public async Task<Timetable> Get() { await using var s = await http.GetStreamAsync(\"v2/timetable\"); return (Timetable)new XmlSerializer(typeof(Timetable)).Deserialize(s); }\n", 1)}
	var messages strings.Builder
	for _, doc := range []string{timetables[1], strings.Replace(timetables[1], "<timetable", `<timetable xmlns="urn:saltmere"`, 1), strings.ReplaceAll(timetables[1], "timetable", "schedule")} {
		fmt.Fprintf(&messages, "GET /v2/timetable HTTP/1.1\r\nHost: api.saltmere.example\r\n\r\nHTTP/1.1 200 OK\r\nContent-Type: text/xml\r\nContent-Length: %d\r\n\r\n%s", len(doc), doc)
	}
	project["captures/day.http"] = messages.String()
	newProject(t, project).run("check", "App", "captures").exits(1).says(
		"2 of 3 responses would not decode", "another root than timetable", "the root element is another [missing-key]",
		"GET /v2/timetable (<saltmere:timetable>)", "<timetable xmlns='urn:saltmere'> was not expected", `[XmlRoot("timetable", Namespace = "urn:saltmere")]`,
		"GET /v2/timetable (<schedule>)", `[XmlRoot("schedule")]`)
}
