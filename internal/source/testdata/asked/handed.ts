import axios from 'axios';
import { useState, useEffect } from 'react';

export interface Port { code: string; name: string }
export interface PortJson { code: string; port_name: string }
export interface Sailing { id: number; ports: Port[] }
export interface Fare { amount: number }

// What is taken out of a response, and by what.
export const chained = (): Promise<Port[]> => fetch('/h1/ports').then(r => r.json()).then(body => body.items); // asks Port[] h1/ports within items
export async function member(): Promise<Port[]> {
  const data = await (await fetch('/h2/ports')).json(); // asks Port[] h2/ports within data.items
  return data.data.items;
}
export async function apart(): Promise<Port[]> {
  const res = await fetch('/h3/ports');
  const { data: { items = [] }, total } = await res.json(); // asks Port[] h3/ports within data.items
  console.log(total);
  return items;
}
export async function several() {
  const res = await fetch('/h4/all');
  const body = await res.json(); // asks Port[] h4/all within portsSailing h4/all within sailing
  const ports = body.ports as Port[];
  const sailing: Sailing = body['sailing'];
  return { ports, sailing };
}
export async function answered(): Promise<Fare[]> {
  const { data } = await axios.get('/h5/fares'); // asks Fare[] h5/fares
  return data;
}
export async function answeredPart(): Promise<Fare[]> {
  const res = await axios.get('/h6/fares'); // asks Fare[] h6/fares within fares
  return res.data.fares ?? [];
}

// What is made of a response: the type that says what is read of it counts, not what is made.
function toPort(json: PortJson): Port {
  return { code: json.code, name: json.port_name };
}
export async function mapped(): Promise<Port[]> {
  const res = await fetch('/h7/ports');
  const rows = await res.json(); // asks PortJson[] h7/ports
  return rows.map(toPort);
}
export async function mappedParts(): Promise<Port[]> {
  const res = await fetch('/h8/ports');
  return (await res.json()).items.filter((p: any) => p.open).map((p: any) => toPort(p)); // asks PortJson[] h8/ports within items
}
export const untold = (): Promise<Port[]> =>
  fetch('/h9/ports').then(r => r.json()).then(rows => rows.map(row => ({ code: row.id, name: row.title }))); // asks untold[] h9/ports
export class Pass {
  ref: string;
  constructor(json: { ref: string }, readonly fare: Fare) { this.ref = json.ref; }
  static from(json: PassJson): Pass { return new Pass(json, json.fare); }
}
export interface PassJson { ref: string; fare: Fare }
export async function made(): Promise<Pass> {
  const data = await (await fetch('/h10/pass')).json(); // asks PassJson h10/pass
  return Pass.from(data);
}
export async function each() {
  const out: Port[] = [];
  for (const row of (await (await fetch('/h11/ports')).json()).rows) { // asks PortJson[] h11/ports within rows
    out.push(toPort(row));
  }
  return out;
}

// Where it is kept.
export function usePorts() {
  const [ports, setPorts] = useState<Port[]>([]);
  useEffect(() => {
    fetch('/h12/ports').then(r => r.json()).then(setPorts); // asks Port[] h12/ports
    fetch('/h13/ports').then(r => r.json()).then(d => setPorts(d.items)); // asks Port[] h13/ports within items
  }, []);
  return ports;
}
export class Board {
  sailings: Sailing[] = [];
  private async load(path: string) {
    const res = await fetch(path);
    return res.json();
  }
  async refresh() {
    const data = await this.load('/h14/sailings'); // asks Sailing[] h14/sailings within sailings
    this.sailings = data.sailings;
  }
}
export class PortService {
  private held = new BehaviorSubject<Port[]>([]);
  readonly sailings = signal<Sailing[]>([]);
  constructor(private http: HttpClient) {}
  all(): Observable<Port[]> {
    return this.http.get('/h15/ports').pipe(map((body: any) => body.items), catchError(fail)); // asks Port[] h15/ports within items
  }
  load() {
    this.http.get('/h16/ports').subscribe((body: any) => this.held.next(body.data)); // asks Port[] h16/ports within data
    this.http.get('/h17/sailings').subscribe((all) => this.sailings.set(all as Sailing[])); // asks Sailing[] h17/sailings
  }
}
export function useSailings() {
  const sailings = ref<Sailing[]>([]);
  async function load() {
    const body = await (await fetch('/h18/sailings')).json(); // asks Sailing[] h18/sailings within list
    sailings.value = body.list;
  }
  return { sailings, load };
}
export async function together() {
  const [fares, body] = await Promise.all([
    fetch('/h19/fares').then(r => r.json()), // asks Fare[] h19/fares
    fetch('/h20/ports').then(r => r.json()), // asks Port[] h20/ports within items
  ]);
  return { fares: fares as Fare[], ports: body.items as Port[] };
}
export async function wrapped() {
  const { data: fare }: { data: Fare } = await axios.get('/h21/fare'); // asks lost: its response is made into something else in a way that is not followed
  return fare;
}

// What a generic client takes out of an envelope.
export class Api {
  async get<T>(path: string): Promise<T> {
    const res = await fetch(path);
    const body = await res.json();
    return body.data as T;
  }
  async list<T>(path: string): Promise<T[]> {
    const { result } = await (await fetch(path)).json();
    return result.items;
  }
}
async function call<T>(path: string): Promise<T> {
  return fetch(path).then(r => r.json()).then(b => b.payload as T);
}
const opened = new Api();
export const openPorts = () => opened.get<Port[]>('/h22/ports'); // asks Port[] h22/ports within data
export const openFares = () => opened.list<Fare>('/h23/fares'); // asks Fare[] h23/fares within result.items
export const openPass = () => call<PassJson>('/h24/pass'); // asks PassJson h24/pass within payload

const harbour = axios.create({ baseURL: '/' });
export async function byInstance(): Promise<Fare[]> {
  const { data } = await harbour.get('/h25/fares'); // asks Fare[] h25/fares within list
  return data.list;
}
export class Injected {
  private http = inject(HttpClient);
  constructor(private readonly client: AxiosInstance) {}
  fares() {
    return this.http.get('/h26/fares').pipe(map((body) => body as Fare[])); // asks Fare[] h26/fares
  }
  async pass(): Promise<PassJson> {
    return (await this.client.get('/h27/pass')).data; // asks PassJson h27/pass
  }
}

// What a parameter takes apart, and what a module holds.
export const parameter = () => fetch('/h28/ports').then(r => r.json()).then(({ items }) => items as Port[]); // asks Port[] h28/ports within items
export const answer = (): Promise<Fare[]> => axios.get('/h29/fares').then(({ data }) => data); // asks Fare[] h29/fares
export const kept = (await (await fetch('/h30/ports')).json())['items'] as Array<Port>; // asks Port[] h30/ports within items
