/** A place where ships land. */
export interface Landing {
  code: string;
  name: string;
  depth: number;
  berths: { number: number; length: number }[];
  open_since: number;
  has_lift?: boolean;
}
