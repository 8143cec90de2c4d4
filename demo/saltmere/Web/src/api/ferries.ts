import { Landing, Ship, Tariff, Timetable } from '@models';
import { request } from './http';

const PATHS = {
  landings: '/v2/ports',
  ships: '/v2/vessels',
  timetable: (from: string) => `/v2/sailings?from=${from}`,
  tariff: (sailing: number) => `/v2/sailings/${sailing}/fares`,
} as const;

export const landings = () => request<Landing[]>(PATHS.landings);

export const ships = (): Promise<Ship[]> => request(PATHS.ships);

export const timetable = (from: string) => request<Timetable>(PATHS.timetable(from));

export async function tariff(sailing: number): Promise<Tariff> {
  return Tariff.parse(await request<unknown>(PATHS.tariff(sailing)));
}
