import type { Ship } from './ship';
import type { Bulletin } from './bulletin';

/** As 2026-03-02T06:00:00Z. */
export type IsoTime = string;

export type TimetableStatus = 'on_time' | 'delayed' | 'full';

/** A line of the timetable. */
export interface Voyage {
  id: number;
  from: string;
  to: string;
  departs_at: IsoTime;
  arrives_at: IsoTime;
  vessel: Pick<Ship, 'name'> & { knots: number };
  status: TimetableStatus;
  seats_left: number;
  gate: string;
  notices: Bulletin[];
  stops?: string[];
}

export interface Timetable {
  sailings: readonly Voyage[];
  page: { number: number; of: number };
}
