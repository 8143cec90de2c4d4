//go:build ignore

// Writes the captures of the demo, as people have them: go run scripts/demo_captures.go
//
// A browser was left open on the board of the quay and recorded a HAR file; fares were asked for with
// curl -i; a recorder wrote the notices line by line; a tester sent her passes in a zip; a proxy wrote down what the
// desk asks for as XML. They span three
// weeks in which the API drifts as APIs do. Everything in them is invented; the same seed gives the same
// bytes.
package main

import (
	"archive/zip"
	"bytes"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"log"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

const dir = "demo/saltmere/captures"

// object keeps its keys in the order in which they were put in.
type object []member

type member struct {
	key   string
	value any
}

func (o object) MarshalJSON() ([]byte, error) {
	var b bytes.Buffer
	b.WriteByte('{')
	for i, m := range o {
		if i > 0 {
			b.WriteByte(',')
		}
		k, _ := json.Marshal(m.key)
		v, err := json.Marshal(m.value)
		if err != nil {
			return nil, err
		}
		b.Write(k)
		b.WriteByte(':')
		b.Write(v)
	}
	b.WriteByte('}')
	return b.Bytes(), nil
}

var r = rand.New(rand.NewPCG(2026, 3))

var (
	ports   = []string{"SAL", "MER", "TOR", "WYK", "HOL"}
	vessels = []struct {
		name  string
		knots any
	}{{"Tern", 14}, {"Gull", 12}, {"Curlew", 18}, {"Plover", 11}}
)

// path makes the folder of a capture, and answers where it lies.
func path(name string) string {
	path := filepath.Join(dir, name)
	if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
		log.Fatal(err)
	}
	return path
}

func write(name string, data []byte) {
	if err := os.WriteFile(path(name), data, 0o644); err != nil {
		log.Fatal(err)
	}
}

func marshal(value any, indent string) []byte {
	data, err := json.Marshal(value)
	if indent != "" {
		data, err = json.MarshalIndent(value, "", indent)
	}
	if err != nil {
		log.Fatal(err)
	}
	return data
}

// session is what a browser has recorded.
type session struct{ entries []entry }

type entry struct {
	at    time.Time
	value object
}

const host = "https://api.saltmere.example"

// add records a request with what was answered.
func (s *session) add(at time.Time, method, url string, status int, media string, body []byte, sent any) {
	request := object{{"method", method}, {"url", url}, {"httpVersion", "HTTP/2"}, {"headers", []object{{{"name", "Accept"}, {"value", "*/*"}}}}, {"cookies", []object{}}, {"queryString", []object{}}, {"headersSize", -1}, {"bodySize", 0}}
	if sent != nil {
		request = append(request, member{"postData", object{{"mimeType", "application/json"}, {"text", string(marshal(sent, ""))}}})
	}
	content := object{{"size", len(body)}, {"mimeType", media}}
	switch {
	case bytes.IndexByte(body, 0) >= 0:
		content = append(content, member{"text", base64.StdEncoding.EncodeToString(body)}, member{"encoding", "base64"})
	case len(body) > 0:
		content = append(content, member{"text", string(body)})
	}
	s.entries = append(s.entries, entry{at, object{
		{"startedDateTime", at.Format("2006-01-02T15:04:05.000Z")}, {"time", 20 + at.Minute()},
		{"request", request},
		{"response", object{{"status", status}, {"statusText", ""}, {"httpVersion", "HTTP/2"}, {"headers", []object{}}, {"cookies", []object{}}, {"content", content}, {"redirectURL", ""}, {"headersSize", -1}, {"bodySize", len(body)}}},
		{"cache", object{}}, {"timings", object{{"send", 1}, {"wait", 15}, {"receive", 4}}}, {"_resource", "fetch"},
	}})
}

func (s *session) answer(at time.Time, url string, value any) {
	s.add(at, "GET", host+url, 200, "application/json; charset=utf-8", marshal(value, ""), nil)
}

// har writes the session as a HAR file, in the order of time.
func (s *session) har() []byte {
	slices.SortStableFunc(s.entries, func(a, b entry) int { return a.at.Compare(b.at) })
	var entries []object
	for _, e := range s.entries {
		entries = append(entries, e.value)
	}
	return append(marshal(object{{"log", object{{"version", "1.2"}, {"creator", object{{"name", "Saltmere browser"}, {"version", "12"}}}, {"pages", []object{}}, {"entries", entries}}}}, "  "), '\n')
}

// curl is what curl -i prints of a response.
func curl(at time.Time, value any) []byte {
	body := marshal(value, "  ")
	return fmt.Appendf(nil, "HTTP/1.1 200 OK\r\nDate: %s\r\nContent-Type: application/json\r\nContent-Length: %d\r\nCache-Control: no-store\r\n\r\n%s\n", at.Format("Mon, 02 Jan 2006 15:04:05 GMT"), len(body)+1, body)
}

func sailings(day time.Time, week int) object {
	var list []object
	for i := range 8 {
		v := vessels[r.IntN(len(vessels))]
		departs := day.Add(time.Duration(6+i*2) * time.Hour)
		from := r.IntN(len(ports))
		key := "departs_at"
		if week == 3 && day.Weekday() >= time.Thursday {
			key = "departure_time" // the API renames the key in the third week
		}
		status := []string{"on_time", "on_time", "on_time", "delayed", "full"}[r.IntN(5)]
		if week >= 2 && r.IntN(10) == 0 {
			status = "boarding"
		}
		knots := v.knots
		if v.name == "Gull" && week >= 2 {
			knots = 12.5 // it was refitted
		}
		vessel := object{{"name", v.name}, {"knots", knots}}
		o := object{
			{"id", 4100 + week*100 + int(day.Weekday())*10 + i}, {"from", ports[from]}, {"to", ports[(from+1+r.IntN(4))%5]},
			{key, departs.Format(time.RFC3339)}, {"arrives_at", departs.Add(95 * time.Minute).Format(time.RFC3339)},
			{"vessel", vessel}, {"status", status}, {"seats_left", r.IntN(180)},
		}
		var gate any = fmt.Sprintf("%c%d", 'A'+r.IntN(3), 1+r.IntN(6))
		if r.IntN(14) == 0 {
			gate = nil // not assigned yet
		}
		o = append(o, member{"gate", gate})
		notice := object{{"text", "Low tide: use the upper ramp"}, {"severity", 1 + r.IntN(3)}}
		switch {
		case r.IntN(4) > 0:
			o = append(o, member{"notices", []object{}})
		case week == 3 && r.IntN(2) == 0:
			o = append(o, member{"notices", notice}) // one of them, without its list
		default:
			o = append(o, member{"notices", []object{notice}})
		}
		if r.IntN(3) == 0 {
			o = append(o, member{"stops", []string{ports[r.IntN(5)]}})
		}
		if week >= 2 {
			o = append(o, member{"wheelchair_spaces", 2 + r.IntN(4)})
		}
		list = append(list, o)
	}
	return object{{"sailings", list}, {"page", object{{"number", 1}, {"of", 1}}}}
}

func portList(week int) []object {
	names := map[string]string{"SAL": "Saltmere", "MER": "Merrow Point", "TOR": "Torrin", "WYK": "Wyke Sands", "HOL": "Holm Island"}
	var list []object
	for i, code := range ports {
		o := object{
			{"code", code}, {"name", names[code]}, {"depth", []any{4, 5.5, 3.2, 6, 4.8}[i]},
			{"berths", []object{{{"number", 1}, {"length", 42}}, {{"number", 2}, {"length", 55.5}}}},
			{"image_url", "https://img.saltmere.example/ports/" + code + ".jpg"}, {"timezone", "Europe/London"},
		}
		if i%2 == 0 {
			o = append(o, member{"open_since", 1921 + 7*i})
		}
		if week == 3 {
			o = append(o, member{"has_lift", i != 2})
		}
		list = append(list, o)
	}
	return list
}

func vesselList(week int) []object {
	var list []object
	for i, v := range vessels {
		o := object{
			{"name", v.name}, {"call_sign", fmt.Sprintf("MSF%d", 11+i)}, {"tonnage", []any{480, 620, 1250, 300}[i]},
			{"capacity", object{{"passengers", 120 + 60*i}, {"cars", 8 * i}}}, {"built", 1998 + 3*i},
			{"website", "https://saltmere.example/fleet/" + v.name}, {"crew", object{{"deck", 3 + i}, {"engine", 2}}},
		}
		if week == 3 && v.name == "Plover" {
			o[5].value = "" // sold: its page is gone
		}
		list = append(list, o)
	}
	return list
}

func fares(week int, sailing int) object {
	var list []object
	for i, ticket := range []string{"adult", "child", "bicycle", "car"} {
		o := object{{"ticket", ticket}, {"amount", []any{12.5, 6.25, 3, 38.9}[i]}, {"tax_included", true}}
		if week == 3 && ticket == "car" {
			o[1].value = "38.90" // as text since the price engine changed
		}
		if i == 0 {
			o = append(o, member{"valid_until", "2026-09-30T23:59:59Z"})
		}
		list = append(list, o)
	}
	return object{{"sailing_id", sailing}, {"currency", "EUR"}, {"fares", list}, {"discounts", object{{"return", 0.15}, {"group", 0.2}}}}
}

func notices(day time.Time, week int) object {
	var list []object
	for i := range 2 {
		published := day.Add(time.Duration(7+i) * time.Hour).Format(time.RFC3339)
		if week == 3 && i == 1 {
			published = day.Add(8 * time.Hour).Format("2006-01-02 15:04:05") // from the new editor
		}
		list = append(list, object{
			{"id", fmt.Sprintf("7d9f1c%02d-3b2a-4c5d-8e6f-%012d", day.Day(), i+1)}, {"title", []string{"Engine works", "Harbour festival"}[i]},
			{"body", "Ask at the kiosk."}, {"published", published}, {"link", nil},
		})
	}
	return object{{"notices", list}, {"updated", day.Add(9 * time.Hour).Format(time.RFC3339)}}
}

func pass(n, week int) object {
	o := object{{"id", fmt.Sprintf("SP-%04d", n)}, {"holder", []string{"R. Alder", "M. Finch", "T. Rowan"}[n%3]}, {"rides_left", n % 9}, {"active", n%4 != 0}, {"zones", []string{"inner"}}}
	if week == 3 {
		o[3].value = fmt.Sprint(n%4 != 0) // "true": a word where a bool was
	}
	if n%3 == 1 {
		o = append(o[:4], o[5:]...)
	}
	return append(o, member{"email", fmt.Sprintf("holder%d@saltmere.example", n)})
}

// asked is what a proxy writes down of a request and its answer in XML.
func asked(at time.Time, path, body string) []byte {
	return fmt.Appendf(nil, "GET %s HTTP/1.1\r\nHost: api.saltmere.example\r\nAccept: application/xml\r\n\r\nHTTP/1.1 200 OK\r\nDate: %s\r\nContent-Type: application/xml; charset=utf-8\r\nContent-Length: %d\r\n\r\n%s", path, at.Format("Mon, 02 Jan 2006 15:04:05 GMT"), len(body), body)
}

// timetable is what the desk prints and pins up.
func timetable(day time.Time, week int) string {
	var b strings.Builder
	fmt.Fprintf(&b, "<?xml version=\"1.0\" encoding=\"utf-8\"?>\n<timetable day=\"%s\">\n", day.Format("2006-01-02"))
	for i := range 4 {
		v := vessels[(i+week)%len(vessels)]
		gate, gateElement := fmt.Sprintf(" gate=\"A%d\"", i+1), ""
		if week == 3 {
			gate, gateElement = "", fmt.Sprintf("<gate>A%d</gate>", i+1) // an attribute until the third week
		}
		seats := fmt.Sprintf("<seats>%d</seats>", 40*(i+1))
		if week >= 2 && i == 2 {
			seats = "<seats/>" // nobody has counted them
		}
		calls := fmt.Sprintf("<calls><port>%s</port><port>%s</port></calls>", ports[i], ports[i+1])
		if week == 3 {
			calls = fmt.Sprintf("<port>%s</port><port>%s</port>", ports[i], ports[i+1])
		}
		fmt.Fprintf(&b, "  <departure%s>%s<vessel>%s</vessel><time>%s</time>%s%s<fare currency=\"EUR\">%d.50</fare></departure>\n", gate, gateElement, v.name, day.Add(time.Duration(6+2*i)*time.Hour).Format(time.RFC3339), seats, calls, 8+i)
	}
	b.WriteString("</timetable>\n")
	return b.String()
}

// manifest is who and what is aboard.
func manifest(sailing int) string {
	return fmt.Sprintf("<manifest xmlns=\"urn:saltmere:desk\" sailing=\"%d\"><souls>%d</souls><vehicle kind=\"car\" length=\"4.5\"/><vehicle kind=\"bus\" length=\"12\"/></manifest>\n", sailing, sailing%90)
}

func main() {
	os.RemoveAll(dir)
	start := time.Date(2026, 3, 2, 0, 0, 0, 0, time.UTC) // a Monday
	board := &session{}
	var recorded bytes.Buffer
	var passes bytes.Buffer
	archive := zip.NewWriter(&passes)
	n := 0
	for week := 1; week <= 3; week++ {
		for _, d := range []int{0, 1, 3, 4} {
			day := start.AddDate(0, 0, 7*(week-1)+d)
			board.answer(day.Add(6*time.Hour), "/v2/sailings?day="+day.Format("2006-01-02"), sailings(day, week))
		}
		day := start.AddDate(0, 0, 7*(week-1))
		board.answer(day.Add(6*time.Hour+time.Minute), "/v2/ports", portList(week))
		board.answer(day.Add(6*time.Hour+2*time.Minute), "/v2/vessels", vesselList(week))
		desk := asked(day.Add(7*time.Hour), "/v2/timetable", timetable(day, week))
		write(fmt.Sprintf("desk/week-%d.txt", week), append(desk, asked(day.Add(8*time.Hour), fmt.Sprintf("/v2/sailings/%d/manifest", 4100+week*100), manifest(4100+week*100))...))
		for k := range 2 {
			id := 4100 + week*100 + k
			write(fmt.Sprintf("curl/fares-%d.txt", id), curl(day.Add(time.Duration(8+k)*time.Hour), fares(week, id)))
			recorded.Write(append(marshal(notices(day.AddDate(0, 0, 2*k), week), ""), '\n'))
			n++
			file, err := archive.CreateHeader(&zip.FileHeader{Name: fmt.Sprintf("pass-SP-%04d.json", 100+n), Method: zip.Deflate, Modified: day})
			if err == nil {
				_, err = file.Write(append(marshal(pass(100+n, week), "  "), '\n'))
			}
			check(err)
		}
	}
	check(archive.Close())
	write("recorder/notices.ndjson", recorded.Bytes())
	write("passes.zip", passes.Bytes())
	// What a browser records besides.
	page := start.Add(6*time.Hour - time.Minute)
	board.add(page, "GET", "https://board.saltmere.example/", 200, "text/html", []byte("<!DOCTYPE html>\n<title>Departures</title>"), nil)
	board.add(page, "GET", "https://board.saltmere.example/board.css", 200, "text/css", []byte("body{background:#06324a}"), nil)
	board.add(page, "GET", "https://board.saltmere.example/board.js", 200, "text/javascript", []byte("setInterval(load,60000)"), nil)
	board.add(page, "GET", "https://board.saltmere.example/crest.png", 200, "image/png", []byte("\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR"), nil)
	fault := start.AddDate(0, 0, 9).Add(6 * time.Hour)
	board.add(fault, "GET", host+"/v2/sailings?day="+fault.Format("2006-01-02"), 503, "text/html", []byte("<html><body><h1>Service unavailable</h1></body></html>"), nil)
	board.add(fault.Add(time.Minute), "GET", host+"/v2/sailings/9999/fares", 404, "application/problem+json", marshal(object{{"title", "No such sailing"}, {"status", 404}}, ""), nil)
	board.add(fault.Add(2*time.Minute), "POST", host+"/v2/passes/SP-0103/rides", 204, "", nil, object{{"sailing", 4313}, {"bicycle", true}})
	board.add(fault.Add(3*time.Minute), "POST", host+"/v2/passes/SP-0101/rides", 204, "", nil, object{{"sailing", 4313}, {"bicycle", false}, {"deck", "outer"}})
	board.add(fault.Add(4*time.Minute), "POST", host+"/v2/passes/SP-0102/rides", 204, "", nil, object{{"sailing", 4314}, {"bicycle", false}, {"deck", "inner"}})
	board.add(fault.Add(5*time.Minute), "POST", host+"/v2/passes/SP-0101/rides", 422, "application/problem+json", marshal(object{{"title", "No place for a bicycle"}, {"status", 422}}, ""), object{{"sailing", 4314}, {"bicycle", true}, {"deck", "inner"}})
	write("board.har", board.har())
}

func check(err error) {
	if err != nil {
		log.Fatal(err)
	}
}
