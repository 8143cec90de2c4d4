export * from './bulletin';
export * from './landing';
export * from './ship';
export * from './tariff';
export type { Timetable, TimetableStatus, Voyage, IsoTime } from './timetable';
