import { z } from 'zod';
import * as v from 'valibot';
import * as t from 'io-ts';

export const Port = z.object({ code: z.string(), berths: z.number() });
export const Ports = z.array(Port);
export const Fare = v.object({ amount: v.number() });
export const Fares = v.array(Fare);
export const Pass = t.type({ ref: t.string, days: t.number });

// A schema is held to what it is given: the whole response, a part of it, or one element after the other.
export async function whole() {
  return Ports.parse(await (await fetch('/s1/ports')).json()); // asks Port[] s1/ports
}
export async function part() {
  const body = await (await fetch('/s2/ports')).json();
  return z.array(Port).parse(body.items); // asks Port[] s2/ports within items
}
export const chained = () => fetch('/s3/ports').then(r => r.json()).then(b => Port.array().safeParse(b.data)); // asks Port[] s3/ports within data
export async function each() {
  const body = await (await fetch('/s4/ports')).json();
  return body.map((p: unknown) => Port.parse(p)); // asks Port[] s4/ports
}
export async function fares() {
  const { list } = await (await fetch('/s5/fares')).json();
  return v.parse(Fares, list); // asks Fare[] s5/fares within list
}
export async function passes() {
  const body = await (await fetch('/s6/passes')).json();
  return t.array(Pass).decode(body.list); // asks Pass[] s6/passes within list
}
export async function deep() { // what keys alone do not lead to is not claimed
  const body = await (await fetch('/s7/days')).json();
  return body.days.map((d: any) => Ports.parse(d.ports)); // asks lost: its schema is held to parts of the response that keys alone do not lead to
}
export async function checked<T>(path: string, schema: z.ZodType<T>): Promise<T> {
  const res = await fetch(path);
  const body = await res.json();
  return schema.parse(body);
}
export const ports = () => checked('/s8/ports', z.array(Port)); // asks Port[] s8/ports
export const port = (code: string) => checked(`/s9/ports/${code}`, Port); // asks Port s9/ports/{}
