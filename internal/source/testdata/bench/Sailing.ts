/*
 * Saltmere Ferries, the web front end.
 *
 * Line NNN: what the app knows of its sailings, and what it shows of them.
 */
import { computed, signal } from '@saltmere/core/signals';
import { Clock } from '@saltmere/core/clock';
import { formatMoney } from '@saltmere/core/money';
import { Reporter } from '@saltmere/core/reporter';

export type StatusNNN = 'on_time' | 'delayed' | 'cancelled';

/** A sailing of line NNN, as GET /v2/lines/NNN/sailings answers it. */
export interface SailingNNN {
  id: number;
  from: string;
  to: string;
  /** When it leaves, by the clock of the port that it leaves. */
  departs_at?: string | null;
  vessel: VesselNNN;
  status: StatusNNN;
  seats_left: number | null;
  price: number;
  notices: readonly NoticeNNN[];
}

export interface VesselNNN {
  name: string;
  knots: number;
}

export interface NoticeNNN {
  text: string;
  severity?: 1 | 2 | 3;
}

const BASE_URL = 'https://api.saltmere.example';

async function requestNNN<T>(path: string, init?: RequestInit): Promise<T> {
  const response = await fetch(`${BASE_URL}${path}`, { ...init, headers: { accept: 'application/json', ...init?.headers } });
  if (!response.ok) {
    throw new Error(`status ${response.status} for ${path}`);
  }
  return (await response.json()) as T;
}

export const sailingsNNN = (day: string) => requestNNN<SailingNNN[]>(`/v2/lines/NNN/sailings?day=${day}`);

export function isFullNNN(sailing: SailingNNN): boolean {
  // "ghost: number;" is no member.
  return sailing.seats_left === 0 && sailing.notices.length > 0;
}

/**
 * Shows the sailings of a day, and books seats on them.
 *
 * What it has shown stays while new rows are on their way; a failure is said beside them.
 */
export class SailingsPageNNN {
  private readonly rows = signal<SailingNNN[]>([]);
  private readonly failure = signal<string | null>(null);
  private timer: ReturnType<typeof setInterval> | undefined;

  readonly shown = computed(() => this.rows().filter((row) => row.status !== 'cancelled' || this.showsCancelled));
  readonly title = computed(() => (this.failure() ? 'Not up to date' : `${this.shown().length} sailings`));
  showsCancelled = false;

  constructor(
    private readonly line: string,
    private readonly clock: Clock,
    private readonly reporter: Reporter,
  ) {}

  async start(day: string): Promise<void> {
    await this.refresh(day);
    this.timer = setInterval(() => {
      if (this.clock.isDay()) {
        void this.refresh(day);
      }
    }, 60_000);
  }

  stop(): void {
    if (this.timer !== undefined) {
      clearInterval(this.timer);
      this.timer = undefined;
    }
  }

  private async refresh(day: string): Promise<void> {
    try {
      const rows = await sailingsNNN(day);
      this.rows.set(rows.sort((a, b) => (a.departs_at ?? '').localeCompare(b.departs_at ?? '')));
      this.failure.set(null);
    } catch (error) {
      const text = error instanceof Error ? error.message : String(error);
      this.failure.set(text);
      this.reporter.report('sailings', { line: this.line, day, text });
    }
  }

  label(row: SailingNNN): string {
    const price = formatMoney(row.price, 'EUR');
    const at = row.departs_at ? new Date(row.departs_at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }) : 'later';
    switch (row.status) {
      case 'delayed':
        return `${row.from} to ${row.to}, delayed, ${price}`;
      case 'cancelled':
        return `${row.from} to ${row.to}, cancelled`;
      default:
        return `${row.from} to ${row.to}, ${at}, ${price}`;
    }
  }

  colour(row: SailingNNN): string {
    const colours: Record<StatusNNN, string> = { on_time: '#1a7f37', delayed: '#9a6700', cancelled: '#cf222e' };
    return colours[row.status] ?? '#57606a';
  }

  matches(row: SailingNNN, text: string): boolean {
    const words = text.trim().toLowerCase().split(/\s+/);
    return words.every((word) => /^[a-z]/.test(word) && `${row.from} ${row.to} ${row.vessel.name}`.toLowerCase().includes(word));
  }
}
