package typescript

import (
	"testing"

	"vetta/internal/types"
)

// TestReads: what code reads of a value that has no type, as the type that it is held to. Each line is the body of a
// function or a class; "?" where what it does is not followed, so that nothing is claimed.
func TestReads(t *testing.T) {
	const around = `
interface Port { code: string; depth?: number; kind: 'quay' | 'buoy' }
class Stop { port: string; berth = 1; constructor(json: any) { this.port = json.port_code; this.berth = json.berth ?? 1 } }
function toStop(dto: any) { return new Stop(dto) }
function toPort(dto: any): Port { return { code: dto.port_code, depth: dto.depth_m, kind: dto.kind } }
`
	const holds = `id!: number; name!: string; at!: Date; stops: Stop[] = []; fare?: number; open!: boolean; port!: Port; constructor(j: any) {`
	for _, c := range []struct{ class, want string }{
		{holds + `this.id = j.id; this.name = j.title }`, "{id: number, title: string}"},
		{holds + `this.id = j['the-id'] }`, "{the-id: number}"},
		{holds + `this.name = j.name ?? 'none'; this.id = j.id || 0 }`, "{name?: (string | null), id?: (number | null)}"},
		{holds + `this.at = new Date(j.departs); this.fare = Number(j.price.amount) }`, "{departs: (string | number), price: {amount?: any}}"},
		{holds + `this.fare = j.price?.amount }`, "{price?: ({amount?: (… | …)} | null)}"},
		{holds + `this.open = !!j.open; this.id = j.id as number }`, "{open?: any, id: number}"},
		{holds + `if (j.name) { this.name = j.name } this.id = j.id }`, "{name?: (string | null), id: number}"},
		{holds + `const { id, name: title, fare = 1 } = j; this.id = id; this.name = title; this.fare = fare }`, "{id: number, name: string, fare?: (number | null)}"},
		{holds + `const { id, ...rest } = j; this.id = id; this.name = rest.title; this.fare = rest.fare ?? 1 }`, "{id: number, title: string, fare?: (number | null)}"},
		{holds + `const [first, ...rest] = j.stops; this.id = j.id; this.stops = rest }`, "?"},
		{holds + `this.stops = j.stops.map((s: any) => new Stop(s)) }`, "{stops: {port_code: string, berth?: (… | …)}[]}"},
		{holds + `this.stops = (j.stops ?? []).map(toStop) }`, "{stops?: ({port_code: …, berth?: …}[] | null)}"},
		{holds + `for (const s of j.stops) { this.stops.push(new Stop(s)) } }`, "{stops: {port_code: string, berth?: (… | …)}[]}"},
		{holds + `this.port = toPort(j.port) }`, "{port: {port_code: string, depth_m?: (number | null), kind: ('quay' | 'buoy')}}"},
		{holds + `this.port = j.port }`, "{port: {code: string, depth?: number, kind: ('quay' | 'buoy')}}"},
		{holds + "this.name = `${j.first} ${j.last.trim()}` }", "{first: any, last: string}"},
		{holds + `this.name = j.kind === 'a' ? j.a : j.b }`, "{kind?: any, a?: (string | null), b?: (string | null)}"},
		{holds + `this.at = j.at }`, "{at: Date}"},
		{holds + `Object.assign(this, j) }`, "{id: number, name: string, at: Date, stops?: {port: string, berth: number}[], fare?: number, open: boolean, port: {code: string, depth?: number, kind: ('quay' | 'buoy')}}"},
		{`kids: Sailing[] = []; next?: Sailing; id!: number; constructor(j: any) { this.id = j.id; this.kids = (j.kids ?? []).map((k: any) => new Sailing(k)); if (j.next) this.next = new Sailing(j.next) }`,
			"{id: number, kids?: ({id: …, kids?: …, next?: …}[] | null), next?: ({id: number, kids?: (… | …), next?: (… | …)} | null)}"},
		{holds + `if (!j || j.error) { throw new Error(j.error) } this.id = j.id }`, "{error?: any, id: number}"},
		{holds + `console.log(j); this.id = j.id }`, "{id: number}"},
		{holds + `this.id = j.id; log(j) }`, "?"},
		{holds + `this.id = j[key] }`, "?"},
		{holds + `j.id = 1; this.id = j.id }`, "?"},
		{holds + `for (const k in j) { this.id = j[k] } }`, "?"},
		{`constructor(readonly id: number, readonly name?: string) {} static fromJson(json: any): Sailing { return new Sailing(json.sailing_id, json.title) }`, "{sailing_id: number, title?: (string | null)}"},
		{`id = 0; static from({ id, name }: any): Sailing { const s = new Sailing(); s.id = Number(id); return s }`, "{id: any, name?: any}"},
	} {
		set := read(t, "sailing.ts", around+"class Sailing { "+c.class+" }\nasync function load() { return new Sailing(await (await fetch('/s')).json()) }\nasync function made() { return Sailing.fromJson(await (await fetch('/s')).json()) }\nasync function other() { return Sailing.from(await (await fetch('/s')).json()) }")
		got := "?"
		for _, call := range set.Calls {
			if call.Type != nil && call.Type.Model != nil && call.Type.Model.Name == "Sailing" {
				got = shown(types.Of(call.Type), 0)
				break
			}
		}
		if got != c.want {
			t.Errorf("%s\n is read as %s\n      want %s", c.class, got, c.want)
		}
	}
}
