package cli_test

import (
	"archive/tar"
	"archive/zip"
	"bytes"
	"compress/gzip"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"os/exec"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"golang.org/x/text/encoding/unicode"
)

const boardSource = `import Foundation
struct Board: Decodable { let sailings: [Sailing]; let page: Int }
struct Sailing: Decodable { let id: Int; let to: String; let departsAt: Date; let gate: String; let seats: Int; let vessel: Vessel? }
struct Vessel: Decodable { let name: String; let knots: Int }
struct Pier: Decodable { let code: String; let depth: Double; let lift: Bool }
final class Client {
    let decoder: JSONDecoder = { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; d.dateDecodingStrategy = .iso8601; return d }()
    let base = URL(string: "https://api.saltmere.example/v2/")!
    func board() async throws -> Board { try decoder.decode(Board.self, from: get("sailings")) }
    func pier(_ code: String) async throws -> Pier { try decoder.decode(Pier.self, from: get("piers/\(code)")) }
    func get(_ path: String) async throws -> Data { try await URLSession.shared.data(from: base.appendingPathComponent(path)).0 }
}
`

// sent is one response of the traffic that is written down in many forms.
type sent struct {
	name, url, body string
	at              time.Time
}

// traffic is four weeks of responses: a key is renamed to another word on the way, a gate is null, a number
// has a fraction, a lift is a word.
func traffic() (all []sent) {
	start := time.Date(2026, 3, 2, 6, 0, 0, 0, time.UTC)
	for day := range 20 {
		at := start.AddDate(0, 0, day)
		key, gate, knots := "departs_at", `"A4"`, "14"
		if day >= 12 {
			key = "off"
		}
		if day%5 == 3 {
			gate = "null"
		}
		if day == 7 {
			knots = "12.5"
		}
		var rows []string
		for i := range 3 {
			rows = append(rows, fmt.Sprintf(`{"id":%d,"to":"MER","%s":"%s","gate":%s,"seats":%d,"vessel":{"name":"Tern \"%d\" é","knots":%s},"note":"\u00e9\\"}`, 100*day+i, key, at.Format(time.RFC3339), gate, i, i, knots))
		}
		body := fmt.Sprintf("{\n  \"sailings\": [%s],\n  \"page\": 1\n}", strings.Join(rows, ",\n"))
		all = append(all, sent{fmt.Sprintf("sailings-%s.json", at.Format("2006-01-02")), "/v2/sailings?day=" + at.Format("2006-01-02") + "&token=s3cret", body, at})
		lift := "true"
		if day%6 == 5 {
			lift = `"yes"`
		}
		all = append(all, sent{fmt.Sprintf("piers-%d.json", 1000+day), fmt.Sprintf("/v2/piers/%d", 1000+day), fmt.Sprintf(`{"code":"P%d","depth":%d.5,"lift":%s}`, day, day, lift), at.Add(time.Minute)})
	}
	return all
}

const secretHeader = "Authorization: Bearer s3cret"

func (s sent) harEntry(encoded bool) string {
	text, _ := json.Marshal(s.body)
	content := `"text":` + string(text)
	if encoded {
		content = `"encoding":"base64","text":"` + base64.StdEncoding.EncodeToString([]byte(s.body)) + `"`
	}
	return fmt.Sprintf(`{"startedDateTime":%q,"request":{"method":"GET","url":"https://api.saltmere.example%s","headers":[{"name":"Authorization","value":"Bearer s3cret"}]},"response":{"status":200,"content":{"mimeType":"application/json",%s}}}`, s.at.Format(time.RFC3339), s.url, content)
}

func (s sent) request() string {
	return "GET " + s.url + " HTTP/1.1\r\nHost: api.saltmere.example\r\n" + secretHeader + "\r\n\r\n"
}

func (s sent) answer(more, body string) string {
	return "HTTP/1.1 200 OK\r\nDate: " + s.at.Format(time.RFC1123) + "\r\nContent-Type: application/json\r\nSet-Cookie: s3cret\r\n" + strings.ReplaceAll(more, "\n", "\r\n") + "\r\n" + body
}

func chunked(body string) string {
	var b strings.Builder
	for len(body) > 0 {
		n := min(len(body), 100)
		fmt.Fprintf(&b, "%x\r\n%s\r\n", n, body[:n])
		body = body[n:]
	}
	return b.String() + "0\r\n\r\n"
}

func gzipped(text string) string {
	var out bytes.Buffer
	w := gzip.NewWriter(&out)
	io.WriteString(w, text)
	w.Close()
	return out.String()
}

// forms are the ways in which people have captures, each as the files that hold the traffic.
func forms(all []sent) map[string]files {
	out := map[string]files{}
	put := func(form, name, text string) {
		if out[form] == nil {
			out[form] = files{}
		}
		out[form]["captures/"+name] += text
	}
	var entries, encoded []string
	var zipped, tarred bytes.Buffer
	z, packed := zip.NewWriter(&zipped), gzip.NewWriter(&tarred)
	tr := tar.NewWriter(packed)
	wide := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM)
	for i, s := range all {
		entries, encoded = append(entries, s.harEntry(false)), append(encoded, s.harEntry(true))
		stem := strings.TrimSuffix(s.name, ".json")
		group, _, _ := strings.Cut(s.name, "-")
		var line bytes.Buffer
		json.Compact(&line, []byte(s.body))
		put("bare", s.name, s.body)
		put("lines", group+".ndjson", line.String()+"\n")
		put("one behind the other", group+".json", s.body+"\n")
		put("gzip", s.name+".gz", gzipped(s.body))
		text, _ := wide.NewEncoder().String(s.body)
		put("UTF-16", s.name, text)
		put("protected", s.name, ")]}',\n"+s.body)
		put("curl -i", stem+".txt", s.answer("", s.body))
		put("messages", "all.http", s.request()+s.answer(fmt.Sprintf("Content-Length: %d\n", len(s.body)), s.body)+"\n")
		put("messages in chunks", "all.http", s.request()+s.answer("Transfer-Encoding: chunked\n", chunked(s.body)))
		put("messages in gzip", "all.http", s.request()+s.answer(fmt.Sprintf("Content-Encoding: gzip\nContent-Length: %d\n", len(gzipped(s.body))), gzipped(s.body)))
		put("headers beside", s.name, s.body)
		put("headers beside", s.name+".headers", s.answer("", ""))
		put("meta beside", fmt.Sprintf("%04d.body", i), s.body)
		put("meta beside", fmt.Sprintf("%04d.meta.json", i), fmt.Sprintf(`{"method":"GET","url":"https://api.saltmere.example%s","status":200,"time":%q}`, s.url, s.at.Format(time.RFC3339)))
		m, _ := z.Create("traffic/" + s.name)
		io.WriteString(m, s.body)
		tr.WriteHeader(&tar.Header{Name: s.name, Size: int64(len(s.body)), Mode: 0o600})
		io.WriteString(tr, s.body)
	}
	z.Close()
	tr.Close()
	packed.Close()
	har := func(entries []string) string {
		return `{"log":{"version":"1.2","creator":{"name":"a","version":"1"},"entries":[` + strings.Join(entries, ",\n") + "]}}"
	}
	put("HAR", "session.har", har(entries))
	put("HAR, backwards in two files", "a.har", har(entries[20:]))
	put("HAR, backwards in two files", "b.har", har(entries[:20]))
	put("HAR in base64", "session.har", har(encoded))
	put("HAR in gzip", "session.har.gz", gzipped(har(entries)))
	put("zip", "traffic.zip", zipped.String())
	put("tar", "traffic.tgz", tarred.String())
	return out
}

// findingsOf are the findings of a check as they do not depend on the form of the captures.
func findingsOf(t *testing.T, r *result) (out []string) {
	t.Helper()
	var got struct {
		Models []struct {
			Name     string
			Findings []struct {
				Kind, Field, Level string
				Sites              []struct {
					Place                              string
					Values, Of, Responses, OfResponses int64
				}
			}
		}
	}
	if err := json.Unmarshal([]byte(r.out), &got); err != nil {
		t.Fatalf("%v\n%s%s", err, r.out, r.err)
	}
	for _, m := range got.Models {
		for _, f := range m.Findings {
			for _, s := range f.Sites {
				out = append(out, fmt.Sprint(m.Name, ".", f.Field, " ", f.Kind, " ", f.Level, " ", s))
			}
		}
	}
	slices.Sort(out)
	return out
}

// TestSameTraffic: the same traffic in any form gives the same findings, and shows no secret.
func TestSameTraffic(t *testing.T) {
	all := forms(traffic())
	check := func(t *testing.T, form string) []string {
		captures := all[form]
		captures["App/Board.swift"] = boardSource
		p := newProject(t, captures)
		for _, how := range [][]string{{"-format", "json"}, {"-format", "text"}} {
			if r := p.run(append([]string{"check", "App", "captures", "-show-secrets"}, how...)...).exits(1); strings.Contains(r.out+r.err, "s3cret") {
				t.Errorf("%s: a secret is shown:\n%s%s", form, r.out, r.err)
			}
		}
		p.run("shape", "-o", "a.shape", "captures").exits(0)
		if text, err := os.ReadFile(p.dir + "/a.shape"); err != nil || strings.Contains(string(text), "s3cret") {
			t.Errorf("%s: the shape keeps a secret, or is not there: %v", form, err)
		}
		captured := findingsOf(t, p.run("check", "App", "captures", "-format", "json", "-loose"))
		if saved := findingsOf(t, p.run("check", "App", "a.shape", "-format", "json", "-loose")); !slices.Equal(saved, captured) {
			t.Errorf("%s: the saved shape gives other findings\n got %s\nwant %s", form, strings.Join(saved, "\n     "), strings.Join(captured, "\n     "))
		}
		return captured
	}
	want := check(t, "bare")
	for _, must := range []string{"Sailing.departsAt renamed-key breaks", "Sailing.gate null-value breaks", "Pier.lift wrong-kind breaks", "Vessel.knots out-of-range breaks"} {
		if !slices.ContainsFunc(want, func(f string) bool { return strings.HasPrefix(f, must) }) {
			t.Fatalf("the traffic does not show %s:\n%s", must, strings.Join(want, "\n"))
		}
	}
	for form := range all {
		t.Run(form, func(t *testing.T) {
			t.Parallel()
			if got := check(t, form); !slices.Equal(got, want) {
				t.Errorf("%s\n got %s\nwant %s", form, strings.Join(got, "\n     "), strings.Join(want, "\n     "))
			}
		})
	}
}

// TestSecondReading: objects of several classes are told apart in a HAR file as in files of their own, and a
// type is paired by hand with what was requested.
func TestSecondReading(t *testing.T) {
	const source = `package ferry.saltmere;
import com.fasterxml.jackson.annotation.*;
import com.fasterxml.jackson.databind.*;
import java.util.*;
class Feed { public List<Event> events; }
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({@JsonSubTypes.Type(value = Delay.class, name = "delay"), @JsonSubTypes.Type(value = Gate.class, name = "gate")})
@JsonIgnoreProperties(ignoreUnknown = true)
abstract class Event { public int id; }
class Delay extends Event { public int minutes; }
class Gate extends Event { public String gate; }
class Load { static Feed of(String text) throws Exception { return new ObjectMapper().readValue(text, Feed.class); } }
`
	bare, entries := files{"App/Feed.java": source}, []string(nil)
	for i := range 6 {
		minutes, kind := fmt.Sprint(i), "gate"
		if i == 4 {
			minutes = `"soon"`
		}
		if i == 5 {
			kind = "tide"
		}
		body := fmt.Sprintf(`{"events":[{"kind":"delay","id":%d,"minutes":%s},{"kind":%q,"id":1,"gate":"A"}]}`, i, minutes, kind)
		bare[fmt.Sprintf("captures/feed-%d.json", i)] = body
		entries = append(entries, sent{url: "/v2/feed", body: body, at: time.Date(2026, 3, 2, 6, i, 0, 0, time.UTC)}.harEntry(i%2 == 0))
	}
	want := findingsOf(t, newProject(t, bare).run("check", "App", "captures", "-format", "json").exits(1))
	if len(want) < 2 {
		t.Fatalf("the traffic shows nothing: %q", want)
	}
	p := newProject(t, files{"App/Feed.java": source, "captures/s.har": `{"log":{"version":"1.2","creator":{},"entries":[` + strings.Join(entries, ",") + "]}}"})
	if got := findingsOf(t, p.run("check", "App", "captures", "-format", "json").exits(1)); !slices.Equal(got, want) {
		t.Errorf("got %q\nwant %q", got, want)
	}
	for _, pair := range []string{"Feed=GET /v2/feed", "Feed=/v2/*", "Feed=captures/s.har"} {
		p.run("check", "App", "captures", "-pair", pair).exits(1).says("decoded from GET /v2/feed at $.events[*]")
	}
}

// piped runs the program with something on its standard input.
func (p *project) piped(in string, args ...string) *result {
	p.t.Helper()
	cmd := exec.Command(program, args...)
	cmd.Dir = p.dir
	var out, errs bytes.Buffer
	cmd.Stdin, cmd.Stdout, cmd.Stderr = strings.NewReader(in), &out, &errs
	cmd.Run()
	return &result{p.t, out.String(), errs.String(), cmd.ProcessState.ExitCode()}
}

// TestStandardInput: - is read as what its content is, and written as a shape.
func TestStandardInput(t *testing.T) {
	all := traffic()
	p := newProject(t, files{"App/Board.swift": boardSource})
	every := forms(all)
	for _, c := range []struct{ in, says string }{
		{all[0].body, "stdin $\n"},
		{all[0].answer("", all[0].body), "stdin $\n"},
		{all[0].request() + all[0].answer("", all[0].body), "GET /v2/sailings $\n"},
		{gzipped(all[0].body), "stdin $\n"},
		{every["HAR"]["captures/session.har"], "GET /v2/sailings $\n"},
		{every["zip"]["captures/traffic.zip"], "stdin/traffic/sailings $\n"},
		{every["tar"]["captures/traffic.tgz"], "stdin/sailings $\n"},
	} {
		p.piped(c.in, "check", "App", "-", "-all", "-fail-on", "never", "-only", "Board").exits(0).says("  Board  App/Board.swift:2:8  " + c.says)
	}
	saved := p.piped(all[0].body, "shape", "-o", "-", "-").exits(0)
	if !strings.HasPrefix(saved.out, `{"format":"vetta shape"`) || saved.err != "" {
		t.Errorf("%.80q %s", saved.out, saved.err)
	}
	p.piped(saved.out, "check", "App", "-", "-all", "-fail-on", "never", "-only", "Board").exits(0).says("App/Board.swift:2:8  stdin $")
	p.piped("", "shape", "-").exits(2).complains("vetta: stdin: it is empty")
	p.piped(all[1].body, "trial", "App", "-").exits(0).says("stdin as Pier: decodes")
}

// TestTrafficOptions: responses are picked by how they were sent.
func TestTrafficOptions(t *testing.T) {
	all := forms(traffic())
	p := newProject(t, files{"s.har": all["HAR"]["captures/session.har"], "bare/ports-1.json": `{"code":"SAL"}`})
	for _, c := range []struct {
		args []string
		says string
	}{
		{nil, "41 responses in 2 captures"},
		{[]string{"-host", "api.saltmere.example"}, "40 responses in 2 captures\npassed over: 1 response left out by an option"},
		{[]string{"-host", "*.saltmere.example", "-path", "/v2/piers/*"}, "20 responses"},
		{[]string{"-since", "2026-03-10", "-until", "2026-03-11"}, "4 responses"},
		{[]string{"-status", "2xx", "-since", "2026-03-21T06:00:30Z"}, "1 response in"},
	} {
		p.run(append([]string{"shape", "s.har", "bare"}, c.args...)...).exits(0).says(c.says)
	}
	p.run("shape", "s.har", "-status", "404").exits(2).complains("no capture could be read: 40 responses left out by an option")
	p.run("shape", "s.har", "-since", "monday").exits(2).complains("-since monday: it is no date (2026-03-09) and no moment")
	p.run("shape", "s.har", "-status", "teapot").exits(2).complains("-status teapot: it is no status (404), class (4xx) or range (200-299)")
}

// TestPassedOver: what holds no JSON is counted and said, and an error page where JSON comes otherwise is told
// for what it is.
func TestPassedOver(t *testing.T) {
	p := newProject(t, files{"captures/all.txt": "GET /v2/ports HTTP/1.1\nHost: a.example\n\nHTTP/1.1 200 OK\nContent-Type: application/json\n\n{\"code\":\"SAL\"}\n" +
		"GET /v2/ports HTTP/1.1\nHost: a.example\n\nHTTP/1.1 502 Bad Gateway\nContent-Type: text/html\n\n<html>no</html>\n" +
		"GET /v2/ports HTTP/1.1\nHost: a.example\n\nHTTP/1.1 404 Not Found\nContent-Type: application/problem+json\n\n{\"title\":\"no such port\"}\n" +
		"GET /v2/tides HTTP/1.1\nHost: a.example\n\nHTTP/1.1 200 OK\nContent-Type: application/xml\n\n<tides/>\n" +
		"GET /logo.png HTTP/1.1\nHost: a.example\n\nHTTP/1.1 200 OK\nContent-Type: image/png\n\nPNG\n" +
		"POST /v2/ports HTTP/1.1\nHost: a.example\nContent-Length: 8\n\n{\"d\":\"\"}\nHTTP/1.1 204 No Content\n\n", "captures/crest.png": "\x89PNG\r\n\x1a\n", "captures/notes.txt": "read me"})
	r := p.run("shape", "captures").exits(0)
	r.says("GET /v2/ports  1 response", "GET /v2/ports (error)  1 response", "POST /v2/ports (request)  1 response",
		"GET /v2/tides  1 response", "passed over: 2 images, 1 empty body, 1 plain text, 1 web page")
	r.complains("captures/all.txt#2: it is a web page, status 502, where GET /v2/ports answers JSON otherwise")
	// Two hosts that are asked for the same are told apart.
	q := newProject(t, files{"c/all.txt": strings.ReplaceAll(strings.Repeat("GET /p HTTP/1.1\nHost: #.example\n\nHTTP/1.1 200 OK\n\n{\"a\":1}\n", 1), "#", "a") + "GET /p HTTP/1.1\nHost: b.example\n\nHTTP/1.1 200 OK\n\n{\"b\":1}\n"})
	q.run("shape", "c").exits(0).says("GET a.example/p  1 response", "GET b.example/p  1 response")
}

// TestSlugs: words in paths are values where what is answered is alike, and resources where it is not.
func TestSlugs(t *testing.T) {
	var text strings.Builder
	get := func(path, body string) {
		fmt.Fprintf(&text, "GET %s HTTP/1.1\nHost: a.example\n\nHTTP/1.1 200 OK\n\n%s\n", path, body)
	}
	for _, slug := range []string{"saltmere", "north-quay", "merrow-point", "wyke-sands"} {
		get("/v2/ports/"+slug, `{"code":"A","depth":1,"lift":true,"name":"x"}`)
		get("/v2/ports/"+slug+"/berths", `[{"number":1,"length":2,"covered":true}]`)
	}
	get("/v2/ports/search", `{"results":[],"total":0,"took":1}`)
	get("/v2/ports", `[{"code":"A","depth":1,"lift":true,"name":"x"}]`)
	get("/v2/vessels", `[{"name":"x","knots":1,"built":1990,"cars":2}]`)
	get("/v2/fares", `[{"name":"x","amount":1,"currency":"EUR","zone":2}]`)
	for i := range 80 {
		get(fmt.Sprintf("/v2/tags/%c%c/pages", 'a'+i/10, 'a'+i%10), fmt.Sprintf(`{"k%d":1}`, i%3))
	}
	p := newProject(t, files{"c/all.http": text.String()})
	r := p.run("shape", "c").exits(0)
	r.says("GET /v2/ports/{port}  4 responses", "GET /v2/ports/{port}/berths  4 responses", "GET /v2/ports/search  1 response", "GET /v2/ports  1 response", "GET /v2/vessels  1 response", "GET /v2/fares  1 response", "GET /v2/tags/{tag}/pages")
	if again := p.run("shape", "c", "-workers", "1").out; again != r.out {
		t.Error("the number of workers changes the endpoints")
	}
}

// TestInterrupt: what was read before Ctrl-C is reported, and marked.
func TestInterrupt(t *testing.T) {
	p := newProject(t, nil)
	cmd := exec.Command(program, "shape", "-")
	cmd.Dir = p.dir
	in, err := cmd.StdinPipe()
	if err != nil {
		t.Fatal(err)
	}
	var out, errs bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &errs
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	line := []byte(strings.Repeat(`{"code":"SAL"}`+"\n", 1000))
	for range 1000 { // more than is read at once, so that the rest comes behind the interrupt
		if _, err := in.Write(line); err != nil {
			t.Fatal(err)
		}
	}
	cmd.Process.Signal(os.Interrupt)
	for range 1 << 20 { // far more than it takes to notice
		if _, err := in.Write(line); err != nil {
			break // it has stopped reading, as it should
		}
	}
	in.Close()
	cmd.Wait()
	r := &result{t, out.String(), errs.String(), cmd.ProcessState.ExitCode()}
	r.exits(2).says("the run was interrupted: this is of what was read until then").complains("vetta shape: it was interrupted")
}

// TestTrialOfLargeCaptures: documents of a capture that is read in stretches are told as they are, the first one
// too, which is held back until it is known whether others follow.
func TestTrialOfLargeCaptures(t *testing.T) {
	const source = "import Foundation\nstruct Pier: Decodable { let code: String; let note: String? }\nfunc pier(_ d: Data) throws -> Pier { try JSONDecoder().decode(Pier.self, from: d) }\n"
	long := strings.Repeat("long ", 1<<18)
	var lines, entries []string
	for i := range 8 {
		body := fmt.Sprintf(`{"code":"P%d","note":"%s"}`, i, long)
		lines = append(lines, body)
		entries = append(entries, sent{url: "/v2/pier", body: body, at: time.Date(2026, 3, 2, 6, i, 0, 0, time.UTC)}.harEntry(false))
	}
	for name, text := range map[string]string{
		"piers.ndjson": strings.Join(lines, "\n") + "\n",
		"session.har":  `{"log":{"version":"1.2","creator":{},"entries":[` + strings.Join(entries, ",\n") + "]}}",
		"all.http":     "HTTP/1.1 200 OK\n\n" + strings.Join(lines, "\n\nHTTP/1.1 200 OK\n\n") + "\n",
	} {
		p := newProject(t, files{"App/Pier.swift": source, name: text})
		r := p.run("trial", "App", name, "-model", "Pier", "-format", "json").exits(0)
		told := strings.Split(strings.TrimSpace(r.out), "\n")
		if len(told) != 8 {
			t.Fatalf("%s: %d lines", name, len(told))
		}
		for i, line := range told {
			if want := fmt.Sprintf(`{"document":"%s#%d","model":"Pier","outcome":"decodes","seen":{"code":"P%d","note":"long `, name, i+1, i); !strings.HasPrefix(line, want) {
				t.Errorf("%s: %.120s, want %s", name, line, want)
			}
		}
		text := p.run("trial", "App", name, "-model", "Pier").exits(0).out
		for i := range 8 { // what was sent, and what is seen
			if want := regexp.MustCompile(fmt.Sprintf(`\$\.code +code: String +"P%d" +"P%d"`, i, i)); !want.MatchString(text) {
				t.Errorf("%s: document %d is not shown as it was sent:\n%.400s", name, i+1, text)
			}
		}
	}
}
