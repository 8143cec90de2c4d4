//go:build ignore

// Measures check against json.Valid over the same bytes, and how fast source is read, in
// one run:
//
//	go run scripts/bench.go [-mb 50] [-rounds 5] [-sources 5000] [-keep DIR]
//
// It makes captures from a seed (dense API JSON of several endpoints; the same with
// shuffled keys; objects with thousands of dynamic keys; many small files), builds
// the program, and prints for each set the throughput of both, their ratio, what a
// second core gains, and the peak memory of check. The first of them is made into one HAR file,
// one of HTTP messages, one of lines and one of lines in gzip, too; of the last the ratio is to
// the decompressor alone. Of XML, many documents and one large one, it is to the token loop of encoding/xml. Machines are shared, so every
// round measures all of them one after the other, and each figure is the median over
// the rounds; a ratio is that of one round's own times.
package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"encoding/xml"
	"flag"
	"fmt"
	"io"
	"log"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"syscall"
	"time"

	"github.com/klauspost/compress/gzip"

	"vetta/internal/input"
	"vetta/internal/memory"
	"vetta/internal/source"
)

const xmlModels = `using System.Xml.Serialization;
[XmlRoot("timetable")]
public class Timetable { [XmlAttribute("day")] public DateTime Day { get; set; } [XmlElement("sailing")] public List<Sailing> Sailings { get; set; } = new(); }
public class Sailing
{
    [XmlAttribute("id")] public int Id { get; set; } [XmlAttribute("gate")] public string Gate { get; set; } = "";
    [XmlElement("vessel")] public string Vessel { get; set; } = ""; [XmlElement("departs")] public DateTime Departs { get; set; }
    [XmlElement("seats")] public int Seats { get; set; } [XmlElement("fare")] public decimal Fare { get; set; }
}
public class Client { public Timetable Load(Stream s) => (Timetable)new XmlSerializer(typeof(Timetable)).Deserialize(s); }
`

const models = `import Foundation
struct SailingPage: Decodable { let sailings: [Sailing]; let page: Page }
struct Page: Decodable { let number: Int; let of: Int; let next: String? }
struct Sailing: Decodable {
    enum Status: String, Decodable { case onTime = "on_time", delayed, cancelled }
    let id: Int; let from: String; let to: String; let departsAt: Date; let vessel: Vessel; let status: Status
    let seatsLeft: Int; let price: Double; let gate: String?; let notices: [Notice]; let note: String?
}
struct Vessel: Decodable { let name: String; let knots: Double; let position: Position? }
struct Position: Decodable { let lat: Double; let lon: Double }
struct Notice: Decodable { let text: String; let severity: Int }
struct PortList: Decodable { let ports: [Port] }
struct Port: Decodable { let code: String; let name: String; let depth: Double; let berths: [Int]; let open: Bool }
struct FareBook: Decodable { let fares: [String: Fare] }
struct Fare: Decodable { let amount: Double; let currency: String }
final class Client {
    let decoder: JSONDecoder = { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; d.dateDecodingStrategy = .iso8601; return d }()
    func a(_ x: Data) throws { _ = try decoder.decode(SailingPage.self, from: x); _ = try decoder.decode(PortList.self, from: x); _ = try decoder.decode(FareBook.self, from: x) }
}
`

type maker struct {
	r        *rand.Rand
	shuffled bool
	b        bytes.Buffer
}

// object writes members, in a random order where keys are shuffled.
func (m *maker) object(members ...func()) {
	if m.shuffled {
		m.r.Shuffle(len(members), func(i, k int) { members[i], members[k] = members[k], members[i] })
	}
	m.b.WriteByte('{')
	first := true
	for _, f := range members {
		if f == nil {
			continue
		}
		if !first {
			m.b.WriteByte(',')
		}
		first = false
		f()
	}
	m.b.WriteByte('}')
}

func (m *maker) printf(format string, args ...any) func() {
	return func() { fmt.Fprintf(&m.b, format, args...) }
}

func (m *maker) maybe(percent int, f func()) func() {
	if m.r.IntN(100) < percent {
		return f
	}
	return nil
}

var ports = []string{"SAL", "MER", "TOR", "WYK", "HOL"}
var names = []string{"Tern", "Gull", "Curlew", "Plover", "Dunlin", "Knot", "Ruff", "Avocet"}

func (m *maker) sailing() {
	r := m.r
	status := []string{"on_time", "delayed", "cancelled"}[r.IntN(3)]
	note := []string{"Low tide: use the \\\"upper\\\" ramp", "Crossing in swell\\nexpect delay", "Caf\\u00e9 closed", "Plain text without anything odd in it"}[r.IntN(4)]
	m.object(
		m.printf(`"id":%d`, r.IntN(1000000)), m.printf(`"from":"%s"`, ports[r.IntN(5)]), m.printf(`"to":"%s"`, ports[r.IntN(5)]),
		m.printf(`"departs_at":"2026-%02d-%02dT%02d:%02d:00Z"`, 1+r.IntN(12), 1+r.IntN(28), r.IntN(24), r.IntN(60)),
		func() {
			m.b.WriteString(`"vessel":`)
			m.object(m.printf(`"name":"%s %d"`, names[r.IntN(8)], r.IntN(40)), m.printf(`"knots":%.1f`, 8+12*r.Float64()), m.maybe(70, func() {
				fmt.Fprintf(&m.b, `"position":{"lat":%.5f,"lon":%.5f}`, 50+5*r.Float64(), -4+4*r.Float64())
			}))
		},
		m.printf(`"status":"%s"`, status), m.printf(`"seats_left":%d`, r.IntN(400)), m.printf(`"price":%.2f`, 5+60*r.Float64()),
		m.maybe(80, m.printf(`"gate":"%c%d"`, 'A'+r.IntN(4), r.IntN(9))),
		func() {
			m.b.WriteString(`"notices":[`)
			for i := range r.IntN(3) {
				if i > 0 {
					m.b.WriteByte(',')
				}
				m.object(m.printf(`"text":"%s"`, note), m.printf(`"severity":%d`, r.IntN(4)))
			}
			m.b.WriteByte(']')
		},
		m.maybe(30, m.printf(`"note":null`)), m.maybe(40, m.printf(`"operator":"Saltmere Ferries of the northern sound"`)),
	)
}

func (m *maker) page(n int) {
	m.b.WriteString(`{"sailings":[`)
	for i := range n {
		if i > 0 {
			m.b.WriteByte(',')
		}
		m.sailing()
	}
	fmt.Fprintf(&m.b, `],"page":{"number":%d,"of":400}}`, m.r.IntN(400))
}

func (m *maker) portList(n int) {
	m.b.WriteString(`{"ports":[`)
	for i := range n {
		if i > 0 {
			m.b.WriteByte(',')
		}
		m.object(m.printf(`"code":"%s"`, ports[m.r.IntN(5)]), m.printf(`"name":"%s Harbour %d"`, names[m.r.IntN(8)], i), m.printf(`"depth":%.1f`, 9*m.r.Float64()),
			m.printf(`"berths":[%d,%d,%d]`, m.r.IntN(50), m.r.IntN(50), m.r.IntN(50)), m.printf(`"open":%v`, m.r.IntN(2) == 0))
	}
	m.b.WriteString(`]}`)
}

func (m *maker) fareBook(n int) {
	m.b.WriteString(`{"fares":{`)
	for i := range n {
		if i > 0 {
			m.b.WriteByte(',')
		}
		fmt.Fprintf(&m.b, `"f-%06d":{"amount":%.2f,"currency":"EUR"}`, m.r.IntN(1000000), 60*m.r.Float64())
	}
	m.b.WriteString(`}}`)
}

// wrap makes one file of a set that holds the same responses in another form: a HAR file, lines, HTTP
// messages, or lines in gzip.
func wrap(dir, set, of string) {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		log.Fatal(err)
	}
	paths, _ := files(of)
	out, err := os.Create(filepath.Join(dir, "session."+set))
	if err != nil {
		log.Fatal(err)
	}
	defer out.Close()
	w := bufio.NewWriter(out)
	defer w.Flush()
	write := func(n int, body []byte, url string) {}
	switch set {
	case "har":
		fmt.Fprint(w, `{"log":{"version":"1.2","creator":{"name":"bench","version":"1"},"entries":[`)
		defer fmt.Fprintln(w, "]}}")
		write = func(n int, body []byte, url string) {
			if n > 0 {
				fmt.Fprint(w, ",")
			}
			text := &bytes.Buffer{}
			enc := json.NewEncoder(text)
			enc.SetEscapeHTML(false)
			enc.Encode(string(body))
			fmt.Fprintf(w, "\n{\n \"startedDateTime\": \"2026-03-09T09:00:00.000Z\", \"time\": 12,\n \"request\": {\"method\": \"GET\", \"url\": \"%s\", \"headers\": [{\"name\": \"Accept\", \"value\": \"application/json\"}]},\n \"response\": {\"status\": 200, \"headers\": [], \"content\": {\"size\": %d, \"mimeType\": \"application/json\", \"text\": %s}}\n}", url, len(body), bytes.TrimSpace(text.Bytes()))
		}
	case "http":
		write = func(n int, body []byte, url string) {
			fmt.Fprintf(w, "GET %s HTTP/1.1\r\nHost: api.saltmere.example\r\n\r\nHTTP/1.1 200 OK\r\nContent-Type: application/json\r\nContent-Length: %d\r\n\r\n%s\n", url, len(body), body)
		}
	case "ndjson":
		write = func(n int, body []byte, url string) { w.Write(body); w.WriteByte('\n') }
	case "ndjson.gz":
		z := gzip.NewWriter(w)
		defer z.Close()
		write = func(n int, body []byte, url string) { z.Write(body); z.Write([]byte{'\n'}) }
	}
	for n, p := range paths {
		body, err := os.ReadFile(p)
		if err != nil {
			log.Fatal(err)
		}
		kind := "sailings"
		if strings.HasPrefix(filepath.Base(p), "port") {
			kind = "ports"
		}
		write(n, body, fmt.Sprintf("https://api.saltmere.example/v2/%s?page=%d", kind, n))
	}
}

// expanded decompresses files, and answers how long that took and how much they hold.
func expanded(paths []string) (took time.Duration, size int64) {
	start := time.Now()
	for _, p := range paths {
		in, err := os.Open(p)
		if err != nil {
			log.Fatal(err)
		}
		z, err := gzip.NewReader(in)
		if err != nil {
			log.Fatal(err)
		}
		n, err := io.Copy(io.Discard, z)
		if err != nil {
			log.Fatal(err)
		}
		in.Close()
		size += n
	}
	return time.Since(start), size
}

// write makes one set of captures of about so many bytes.
func write(dir, set string, size int) {
	m := &maker{r: rand.New(rand.NewPCG(2026, 11)), shuffled: set == "shuffled"}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		log.Fatal(err)
	}
	for total, n := 0, 0; total < size; n++ {
		m.b.Reset()
		name := ""
		switch {
		case set == "dynamic":
			m.fareBook(3000)
			name = fmt.Sprintf("fare-book-%d.json", n)
		case set == "small":
			m.page(5)
			name = fmt.Sprintf("%02d/sailing-page-%d.json", n%100, n)
		case n%4 == 3:
			m.portList(300)
			name = fmt.Sprintf("port-list-%d.json", n)
		default:
			m.page(400)
			name = fmt.Sprintf("sailing-page-%d.json", n)
		}
		path := filepath.Join(dir, name)
		if set == "small" {
			os.MkdirAll(filepath.Dir(path), 0o755)
		}
		if err := os.WriteFile(path, m.b.Bytes(), 0o644); err != nil {
			log.Fatal(err)
		}
		total += m.b.Len()
	}
}

// sources makes so many source files of a language, and measures on one core how fast
// they are read from disk into models, and how fast the program shows all of them. It
// answers the medians over the rounds in bytes per second.
func sources(bin, dir, ending string, n, rounds int) (size int64, read, shown float64) {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		log.Fatal(err)
	}
	// NNN makes a file's names its own.
	form, err := os.ReadFile("internal/source/testdata/bench/Sailing" + ending)
	if err != nil {
		log.Fatal(err, ": run it from the project's folder")
	}
	for i := range n {
		text := strings.ReplaceAll(string(form), "NNN", fmt.Sprint(i))
		size += int64(len(text))
		if err := os.WriteFile(filepath.Join(dir, fmt.Sprintf("Sailing%d%s", i, ending)), []byte(text), 0o644); err != nil {
			log.Fatal(err)
		}
	}
	var rates [2][]float64
	self, err := os.Executable()
	if err != nil {
		log.Fatal(err)
	}
	for range rounds {
		// In a process of its own, as the program reads: with a heap that has to grow.
		cmd := exec.Command(self)
		cmd.Env = append(os.Environ(), "GOMAXPROCS=1", toRead+"="+dir)
		cmd.Stderr = os.Stderr
		out, err := cmd.Output()
		if err != nil {
			log.Fatal(err)
		}
		took, models := 0.0, 0
		if _, err := fmt.Sscan(string(out), &took, &models); err != nil || models < n {
			log.Fatal("models were lost: ", string(out))
		}
		rates[0] = append(rates[0], float64(size)/took)
		cmd = exec.Command(bin, "models", dir)
		cmd.Env = append(os.Environ(), "GOMAXPROCS=1")
		start := time.Now()
		if err := cmd.Run(); err != nil {
			log.Fatal(err)
		}
		rates[1] = append(rates[1], float64(size)/time.Since(start).Seconds())
	}
	return size, median(rates[0]), median(rates[1])
}

// toRead names, to a process of this program, the folder whose source it reads.
const toRead = "VETTA_BENCH_READ"

// read reads the source in a folder as the program does, and prints how many seconds that took
// and how many models there are.
func read(dir string) {
	memory.Set()
	start := time.Now()
	done := memory.Reading()
	set := source.Read(input.Find([]input.Path{{Name: dir, What: input.Models}}, nil).Sources)
	done()
	fmt.Println(time.Since(start).Seconds(), len(set.Models))
}

func files(dir string) (all []string, size int64) {
	filepath.Walk(dir, func(path string, info os.FileInfo, err error) error {
		if err == nil && !info.IsDir() {
			all, size = append(all, path), size+info.Size()
		}
		return nil
	})
	return all, size
}

// toValidate names, to a process of this program, a folder whose files it lets json.Valid read.
const toValidate = "VETTA_BENCH_VALID"

// valid is how long json.Valid takes over the files of a folder, in a process of its own: what this one
// takes of memory, the system would count for the programs that it starts.
func valid(dir string) time.Duration {
	self, err := os.Executable()
	if err != nil {
		log.Fatal(err)
	}
	cmd := exec.Command(self)
	cmd.Env = append(os.Environ(), "GOMAXPROCS=1", toValidate+"="+dir)
	cmd.Stderr = os.Stderr
	out, err := cmd.Output()
	if err != nil {
		log.Fatal(err)
	}
	took, err := time.ParseDuration(strings.TrimSpace(string(out)))
	if err != nil {
		log.Fatal(err)
	}
	return took
}

// tokens is how long the token loop of encoding/xml takes over files.
func tokens(paths []string) time.Duration {
	start := time.Now()
	for _, path := range paths {
		f, err := os.Open(path)
		if err != nil {
			log.Fatal(err)
		}
		for d := xml.NewDecoder(bufio.NewReaderSize(f, 1<<20)); ; {
			if _, err := d.Token(); err == io.EOF {
				break
			} else if err != nil {
				log.Fatal(path, err)
			}
		}
		f.Close()
	}
	return time.Since(start)
}

// writeXML writes timetables of a size each until there are as many bytes as are asked for.
func writeXML(dir string, size, each int) {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		log.Fatal(err)
	}
	r := rand.New(rand.NewPCG(2026, 12))
	letter := func() byte { return byte('A' + r.IntN(26)) }
	for total, n := 0, 0; total < size; n++ {
		var b bytes.Buffer
		b.WriteString("<?xml version=\"1.0\" encoding=\"utf-8\"?>\n<timetable xmlns:s=\"urn:saltmere:stops\" day=\"2026-03-01\">\n")
		for id := 0; b.Len() < each; id++ {
			fmt.Fprintf(&b, "  <sailing id=\"%d\" gate=\"%c%d\">\n    <vessel>%s</vessel>\n    <departs>2026-03-01T%02d:%02d:00Z</departs>\n    <seats>%d</seats>\n    <fare currency=\"EUR\">%d.%02d</fare>\n    <s:stops>",
				id, letter(), r.IntN(9), []string{"Tern", "Gull", "Skua &amp; Sons", "Héron"}[r.IntN(4)], r.IntN(24), r.IntN(60), r.IntN(300), r.IntN(90), r.IntN(100))
			for range r.IntN(4) {
				fmt.Fprintf(&b, "<s:stop code=\"%c%c%c\"/>", letter(), letter(), letter())
			}
			b.WriteString("</s:stops>\n  </sailing>\n")
		}
		b.WriteString("</timetable>\n")
		if err := os.WriteFile(filepath.Join(dir, fmt.Sprintf("timetable-%d.xml", n)), b.Bytes(), 0o644); err != nil {
			log.Fatal(err)
		}
		total += b.Len()
	}
}

func validate(dir string) {
	paths, _ := files(dir)
	start := time.Now()
	for _, p := range paths {
		data, err := os.ReadFile(p)
		if err != nil || !json.Valid(data) {
			log.Fatal(p, err)
		}
	}
	fmt.Println(time.Since(start))
}

func check(bin, model, dir string, cores int) (time.Duration, int64) {
	cmd := exec.Command(bin, "check", "-fail-on", "never", "-format", "lines", "-workers", fmt.Sprint(cores), "-models", model, "-captures", dir)
	cmd.Env = append(os.Environ(), fmt.Sprintf("GOMAXPROCS=%d", cores))
	start := time.Now()
	if out, err := cmd.CombinedOutput(); err != nil {
		log.Fatalf("%v\n%s", err, out)
	}
	return time.Since(start), cmd.ProcessState.SysUsage().(*syscall.Rusage).Maxrss
}

func main() {
	if dir := os.Getenv(toRead); dir != "" {
		read(dir)
		return
	}
	if dir := os.Getenv(toValidate); dir != "" {
		validate(dir)
		return
	}
	mb := flag.Int("mb", 50, "size of each set")
	rounds := flag.Int("rounds", 5, "")
	count := flag.Int("sources", 5000, "source files of each language")
	keep := flag.String("keep", "", "folder for the captures, kept for the next run")
	flag.Parse()
	dir := *keep
	if dir == "" {
		var err error
		if dir, err = os.MkdirTemp("", "vetta-bench-"); err != nil {
			log.Fatal(err)
		}
		defer os.RemoveAll(dir)
	}
	bin := filepath.Join(dir, "vetta")
	build := exec.Command("go", "build", "-o", bin, ".")
	build.Env = append(os.Environ(), "CGO_ENABLED=0")
	if out, err := build.CombinedOutput(); err != nil {
		log.Fatalf("%v\n%s", err, out)
	}
	model := filepath.Join(dir, "Models.swift")
	if err := os.WriteFile(model, []byte(models), 0o644); err != nil {
		log.Fatal(err)
	}
	timetable := filepath.Join(dir, "Timetable.cs")
	if err := os.WriteFile(timetable, []byte(xmlModels), 0o644); err != nil {
		log.Fatal(err)
	}
	runtime.GOMAXPROCS(1)
	fmt.Printf("%-10s %8s %12s %12s %7s %12s %7s %10s\n", "set", "MB", "json.Valid", "1 core", "ratio", "2 cores", "gain", "peak MB")
	for _, set := range []string{"dense", "shuffled", "dynamic", "small", "har", "http", "ndjson", "ndjson.gz", "xml", "xml-one"} {
		data := filepath.Join(dir, fmt.Sprintf("%s-%d", set, *mb))
		if _, err := os.Stat(data); err != nil {
			switch set {
			case "har", "http", "ndjson", "ndjson.gz":
				wrap(data, set, filepath.Join(dir, fmt.Sprintf("dense-%d", *mb)))
			case "xml":
				writeXML(data, *mb<<20, 30<<10)
			case "xml-one":
				writeXML(data, *mb<<20, *mb<<20)
			default:
				write(data, set, *mb<<20)
			}
		}
		paths, size := files(data)
		baseline := func() time.Duration { return valid(data) }
		switch set {
		case "http", "ndjson": // over the documents that they hold
			baseline = func() time.Duration { return valid(filepath.Join(dir, fmt.Sprintf("dense-%d", *mb))) }
		case "xml", "xml-one":
			model = timetable
			baseline = func() time.Duration { return tokens(paths) }
		case "ndjson.gz": // of the decompressor alone
			_, size = expanded(paths)
			baseline = func() time.Duration { took, _ := expanded(paths); return took }
		}
		var rate [3][]float64
		var ratio, gain []float64
		peak := int64(0)
		for range *rounds {
			plain := baseline()
			one, rss := check(bin, model, data, 1)
			two, rss2 := check(bin, model, data, 2)
			for i, d := range []time.Duration{plain, one, two} {
				rate[i] = append(rate[i], float64(size)/d.Seconds()/1e6)
			}
			ratio = append(ratio, plain.Seconds()/one.Seconds())
			gain = append(gain, one.Seconds()/two.Seconds())
			peak = max(peak, rss, rss2)
		}
		fmt.Printf("%-10s %8.1f %7.0f MB/s %7.0f MB/s %6.2fx %7.0f MB/s %6.2fx %10.1f\n",
			set, float64(size)/1e6, median(rate[0]), median(rate[1]), median(ratio), median(rate[2]), median(gain), float64(peak)/1024)
	}
	measureSources(bin, dir, *count, *rounds)
}

func measureSources(bin, dir string, n, rounds int) {
	fmt.Printf("\n%-10s %8s %12s %12s\n", "source", "MB", "read", "models")
	for _, l := range [][2]string{{"dart", ".dart"}, {"swift", ".swift"}, {"java", ".java"}, {"kotlin", ".kt"}, {"csharp", ".cs"}} {
		size, read, shown := sources(bin, filepath.Join(dir, "source-"+l[0]), l[1], n, rounds)
		fmt.Printf("%-10s %8.1f %7.0f MB/s %7.0f MB/s\n", l[0], float64(size)/1e6, read/1e6, shown/1e6)
	}
}

func median(all []float64) float64 {
	slices.Sort(all)
	return all[len(all)/2]
}
