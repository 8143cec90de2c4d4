import axios, { AxiosResponse } from 'axios';
import ky from 'ky';
import { useQuery } from '@tanstack/react-query';
import useSWR from 'swr';

export interface Port { code: string; name: string }
export interface Sailing { id: number; vessel: string }
export interface Fare { amount: number; currency: string }
export interface Pass { ref: string }
export interface Notice { text: string }
export interface Envelope<T> { data: T; total: number }
export type Ports = Port[];

const BASE = 'https://api.saltmere.example';
const PATHS = { ports: '/v2/ports', port: (code: string) => `/v2/ports/${code}`, fares: { all: '/v2/fares' } } as const;
enum Route { Notices = '/v2/notices' }

export async function cast(): Promise<void> {
  const res = await fetch(`${BASE}/v2/ports/all`);
  const ports = (await res.json()) as Port[]; // asks Port[] v2/ports/all
  console.log(ports);
}

export async function annotated(code: string) {
  const port: Port = await (await fetch(`${BASE}/v2/ports/${code}`)).json(); // asks Port v2/ports/{}
  return port;
}

export async function returned(): Promise<Sailing[]> {
  const response = await fetch(BASE + '/v2/sailings');
  if (!response.ok) throw new Error('no');
  return response.json(); // asks Sailing[] v2/sailings
}

export const chained = (id: number): Promise<Sailing> => fetch(`${BASE}/v2/sailings/${id}`).then(r => r.json()); // asks Sailing v2/sailings/{}

export function promised() {
  return fetch('/v2/notices').then((r) => r.json() as Promise<Notice[]>); // asks Notice[] v2/notices
}

export function parsed(text: string): Fare {
  return JSON.parse(text); // asks Fare
}

export const kept = (text: string) => JSON.parse(text) as Envelope<Pass[]>; // asks Envelope<Pass[]>

export const fares = async () => (await axios.get<Fare[]>('/v2/fares')).data; // asks Fare[] v2/fares
export const fare = (id: string) => axios.request<Fare>({ url: `/v2/fares/${id}`, method: 'get' }); // asks Fare v2/fares/{}
export async function typedResponse() {
  const res: AxiosResponse<Pass> = await axios.get('/v2/pass'); // asks Pass v2/pass
  return res.data;
}
export const withKy = (ref: string) => ky.get(`v2/passes/${ref}`).json<Pass>(); // asks Pass v2/passes/{}

export function usePorts(day: string) {
  return useQuery<Port[], Error>({ queryKey: ['ports', day], queryFn: () => fetcher(`/v2/ports?day=${day}`) }); // asks Port[] v2/ports
}
const fetcher = (url: string) => fetch(url).then(res => res.json()); // asks lost: what it decodes is named in a way that is not followed
export const usePass = (ref: string | null) => useSWR<Pass>(ref ? `/v2/passes/${ref}` : null, fetcher); // asks Pass v2/passes/{}

async function request<T>(path: string, init?: RequestInit): Promise<T> {
  const response = await fetch(`${BASE}${path}`, init);
  return (await response.json()) as T;
}
export const ports = () => request<Ports>(PATHS.ports); // asks Port[] v2/ports
export const port = (code: string) => request<Port>(PATHS.port(code)); // asks Port v2/ports/{}
export const allFares = () => request<Fare[]>(PATHS.fares.all); // asks Fare[] v2/fares
export const notices = (): Promise<Notice[]> => request(Route.Notices); // asks Notice[] v2/notices

async function enveloped<T>(path: string): Promise<Envelope<T>> {
  return request<Envelope<T>>(path);
}
export const sailings = () => enveloped<Sailing[]>('/v3/sailings'); // asks Envelope<Sailing[]> v3/sailings

class ApiClient {
  constructor(private readonly base: string) {}
  async get<T>(path: string): Promise<T> {
    const res = await fetch(this.base + path);
    return res.json();
  }
  post = async <T, B>(path: string, body: B): Promise<T> => {
    const res = await fetch(this.base + path, { method: 'POST', body: JSON.stringify(body) });
    return (await res.json()) as T;
  };
}
const client = new ApiClient(BASE);
export const byClient = () => client.get<Sailing[]>('/v4/sailings'); // asks Sailing[] v4/sailings
export const booked = (ref: string) => client.post<Pass, { ref: string }>('/v4/passes', { ref }); // asks Pass v4/passes

export class PortRepository {
  constructor(private api: ApiClient) {}
  all() { return this.api.get<Port[]>('/v4/ports'); } // asks Port[] v4/ports
  one(code: string): Promise<Port> { return this.api.get(`/v4/ports/${code}`); } // asks Port v4/ports/{}
}

type Result<T> = { ok: true; value: T } | { ok: false; error: string };
async function safe<T>(path: string): Promise<Result<T>> {
  try {
    const value: T = await request<T>(path);
    return { ok: true, value };
  } catch (e) {
    return { ok: false, error: String(e) };
  }
}
export const maybe = () => safe<Fare>('/v5/fare'); // asks Fare v5/fare

export const api = {
  ports: () => request<Port[]>('/v6/ports'), // asks Port[] v6/ports
  async pass(ref: string): Promise<Pass> { return request(`/v6/passes/${ref}`); }, // asks Pass v6/passes/{}
};
