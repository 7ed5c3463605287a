import { api, asItIs, type BoardDocument, type Schemas } from '$lib/api/client';
import type { OpenBuild } from '$lib/build/build.svelte';
import { Query } from '$lib/sync/query.svelte';
import { Job, whyNot } from '$lib/sync/job.svelte';

export type Trip = NonNullable<Schemas['BuildFile']['trips']>[number];
export type TripDay = NonNullable<Trip['days']>[number];
export type TripLeg = NonNullable<TripDay['legs']>[number];
export type TripReport = Schemas['TripReport'];
const LARGEST = 40_000_000;

/** The trips of a board, the one that is checked, and what it comes to. */
export class Trips {
  /** Which one is checked, by its id; the first one without a word. */
  chosen = $state('');
  readonly asked: Query<{ trip: Trip | undefined; document: BoardDocument }, TripReport | null>;

  constructor(readonly build: OpenBuild) {
    this.asked = new Query(
      () => ({ trip: this.trip, document: build.board }),
      async ({ trip, document }, signal) =>
        trip
          ? api.POST('/api/trip', {
              body: { document, board: build.id, trip },
              signal,
            })
          : { data: null },
      { pause: 250, cacheKey: () => `trip:${build.id}` },
    );
  }

  get all(): Trip[] {
    return this.build.file.trips ?? [];
  }

  get at(): number {
    return Math.max(
      this.all.findIndex((t) => t.id === this.chosen),
      0,
    );
  }

  get trip(): Trip | undefined {
    return this.all[this.at];
  }

  /** Where the trip that is checked stands in the build file. */
  path(rest: string): string {
    return `trips.${this.at}.${rest}`;
  }

  value(rest: string): unknown {
    return this.build.value(this.path(rest));
  }

  set(rest: string, value: unknown): void {
    this.build.set(this.path(rest), value);
  }

  add(trip?: Trip): void {
    const id = crypto.randomUUID();
    const made = trip
      ? { ...trip, id }
      : { id, name: `Trip ${this.all.length + 1}`, days: [{ legs: [{}], weather: {} }] };
    this.build.change({ trips: [...this.all, made] });
    this.chosen = id;
  }

  remove(): void {
    const name = this.trip?.name ?? 'The trip';
    const left = this.all.filter((_, i) => i !== this.at);
    this.build.changeAndSay({ trips: left.length ? left : null }, `${name} is gone.`);
    this.chosen = '';
  }

  private days(days: TripDay[]): void {
    this.set('days', days);
  }

  addDay(): void {
    this.days([...(this.trip?.days ?? []), { legs: [{}], weather: {} }]);
  }

  removeDay(day: number): void {
    this.days((this.trip?.days ?? []).filter((_, i) => i !== day));
  }

  /** Makes the trip and the board what was tried; one step back undoes it. */
  apply({ trip, changes }: Schemas['Help']): void {
    const values: Record<string, unknown> = { ...changes };
    if (trip) values.trips = this.all.map((t) => (t.id === trip.id ? trip : t));
    this.build.change(values);
  }

  legs(day: number, change: (legs: TripLeg[]) => TripLeg[]): void {
    this.days((this.trip?.days ?? []).map((d, i) => (i === day ? { ...d, legs: change(d.legs ?? []) } : d)));
  }

  /** A track as a leg; why it cannot be one, where it cannot. */
  async bring(day: number, file: File): Promise<string> {
    if (file.size > LARGEST) return 'More than 40 MB: too large for a track.';
    const head = await file.slice(0, 400).text();
    if (head.includes('sand-pocket/trip')) {
      const { data, error } = await api
        .POST('/api/trip/read', { ...asItIs(file, 'application/octet-stream') })
        .catch(() => ({ data: undefined, error: undefined }));
      if (data) this.add(data);
      return data ? '' : reasons(error);
    }
    const job = new Job('way', () =>
      api.POST('/api/trip/route', {
        params: { query: { name: file.name.slice(0, 120) } },
        ...asItIs(file, 'application/octet-stream'),
      }),
    );
    const done = await job.run();
    if (!done) return whyNot(job);
    const { data } = await api
      .GET('/api/trip/route/{job}', { params: { path: { job: done.id } } })
      .catch(() => ({ data: undefined }));
    if (!data) return 'The file is no longer here. Import it again.';
    // A leg of which nothing is said yet makes room for it.
    this.legs(day, (legs) => [...legs.filter((l) => l.distance_km || l.profile), data]);
    return '';
  }
}

function reasons(error: unknown): string {
  const faults = (error as Schemas['FaultsOut'] | undefined)?.faults ?? [];
  return faults.map((f) => `${f.field}: ${f.reason}`).join('; ') || 'The server cannot be reached.';
}

/** m of a leg from a track. */
export function metresOf(leg: TripLeg): number {
  return leg.profile ? leg.profile.metres.reduce((a, b) => a + b, 0) : (leg.distance_km ?? 0) * 1000;
}

/** Minutes of a day as a clock shows them. */
export function clock(minutes: number): string {
  const whole = Math.round(minutes) % 1440;
  return `${String(Math.floor(whole / 60)).padStart(2, '0')}:${String(whole % 60).padStart(2, '0')}`;
}

export const WINDS = [
  'North',
  'North-east',
  'East',
  'South-east',
  'South',
  'South-west',
  'West',
  'North-west',
];
