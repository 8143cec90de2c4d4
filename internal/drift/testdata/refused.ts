// document: {"seats":0,"ref":"SF12","at":"2026-03-01T09:30:00Z"}
// document: {"seats":2,"ref":"S1","at":"soon"}
// document: {"seats":3,"ref":"SF13","at":"2026-03-02T09:30:00Z"}
// lost: 2 exactly
import { z } from 'zod';
const Root = z.object({
  seats: z.number().min(1), // want refused-value 1/3 in 1
  ref: z.string().min(4), // want refused-value 1/3 in 1
  at: z.iso.datetime(), // want refused-value 1/3 in 1
});
export const load = async () => Root.parse(await (await fetch('/bookings')).json());
