import { api, faultsOf, type Schemas } from '$lib/api/client';
import type { OpenBuild } from '$lib/build/build.svelte';
import { Query } from '$lib/sync/query.svelte';
import { Drafts } from '$lib/sync/drafts';
import { alike, merged } from '$lib/sync/merging';
import { SaveQueue, type SaveResult } from '$lib/sync/save-queue.svelte';
import { newId } from '$lib/steps/log';

export type RidesOut = Schemas['RidesOut'];
export type RideFile = Schemas['Ride'];
export type RideLine = Schemas['RideLine'] & { unsent?: boolean };
type Judged = Schemas['RideJudged'];

type KeptRide = RideFile & { id: string };

/** A ride on its way to the server. */
interface WaitingRide {
  ride: KeptRide;
  track?: string;
  /** As the server had it when it was changed here. */
  before?: RideFile;
  /** As it was last sent; the answer may have been lost. */
  sent?: RideFile;
}

/** A ride that was changed here and elsewhere. */
interface Clash extends WaitingRide {
  theirs: RideFile;
}

/** What lies on this device and has not reached the server: rides written down, and the ids of those taken away. */
interface Waiting {
  rides: WaitingRide[];
  gone: string[];
  /** Those of which somebody has to choose one version. */
  clashes?: Clash[];
}

/** A plain object without what says nothing. */
export function said(ride: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(ride)
      .map(([key, value]) => [
        key,
        value && typeof value === 'object' && !Array.isArray(value)
          ? said(value as Record<string, unknown>)
          : value,
      ])
      .filter(
        ([, v]) =>
          v !== null &&
          v !== undefined &&
          v !== '' &&
          !(typeof v === 'object' && !Object.keys(v as object).length),
      ),
  );
}

/** The rides of one board: what is written down stands at once, is kept here, and is sent when the server can be reached. */
export class Rides {
  /** Why a ride was not taken, by its id. */
  refused = $state.raw<Record<string, Schemas['FaultOut'][]>>({});
  notice = $state('');
  private waiting = $state.raw<Waiting>({ rides: [], gone: [] });
  private readonly drafts: Drafts<Waiting>;
  readonly asked: Query<string, RidesOut>;
  /** What the rides taught, and how each was judged; asked for whenever they change. */
  readonly calibration: Query<string, Schemas['CalibrationOut']>;
  private stamp = $state(0);
  private readonly queue = new SaveQueue(
    () => this.send(),
    () => this.count > 0,
    0,
  );

  constructor(readonly build: OpenBuild) {
    this.drafts = new Drafts(`sand-pocket:rides:${build.id}`);
    this.waiting = this.drafts.read() ?? { rides: [], gone: [] };
    const path = { path: { id: build.id } };
    this.asked = new Query(
      () => `${build.id}`,
      (_, signal) => api.GET('/api/builds/{id}/rides', { params: path, signal }),
      { cacheKey: () => `rides:${build.id}` },
    );
    this.calibration = new Query(
      () => `${build.id}:${build.revision}:${this.stamp}`,
      (_, signal) => api.GET('/api/builds/{id}/calibration', { params: path, signal }),
      { cacheKey: () => `calibration:${build.id}`, pause: 100 },
    );
    if (this.count) this.queue.soon();
  }

  get count(): number {
    return this.waiting.rides.length + this.waiting.gone.length;
  }

  get offline(): boolean {
    return this.queue.state === 'offline' || this.asked.failed;
  }

  get answer(): RidesOut | null {
    return this.asked.answer;
  }

  /** The first ride of which somebody has to choose: what was entered here, or what came from elsewhere. */
  get clash(): Clash | null {
    return this.waiting.clashes?.[0] ?? null;
  }

  /** All rides, the latest first, those on their way among them. */
  get lines(): RideLine[] {
    const sent = new Map<string, RideLine>((this.answer?.rides ?? []).map((r) => [r.id, r]));
    for (const { ride, track } of this.waiting.rides)
      sent.set(ride.id, { id: ride.id, ride, track: track ?? sent.get(ride.id)?.track, unsent: true });
    for (const id of this.waiting.gone) sent.delete(id);
    return [...sent.values()].sort((a, b) =>
      `${b.ride.day} ${b.ride.at ?? ''}`.localeCompare(`${a.ride.day} ${a.ride.at ?? ''}`),
    );
  }

  /** km/h that this board hardly exceeds, where that is predicted. */
  get fastest(): number | undefined {
    const speed = this.calibration.answer?.outcomes.find((p) => p.result === 'speed');
    return speed ? 1.15 * speed.after.high : undefined;
  }

  /** How a ride was judged by what was known before it. */
  judged(id: string): Judged | undefined {
    const report = this.calibration.answer;
    const place = report?.of.findIndex((t) => t.id === id) ?? -1;
    return place < 0 ? undefined : report?.judged.find((j) => j.ride === place);
  }

  /** Writes a ride down, a new one or one that is there; its id. */
  keep(ride: Record<string, unknown>, track?: string): string {
    const kept = said({ ...ride, id: ride.id ?? newId() }) as RideFile & { id: string };
    const rest = this.waiting.rides.filter((w) => w.ride.id !== kept.id);
    const prior = this.waiting.rides.find((w) => w.ride.id === kept.id);
    const known = this.atTheServer(kept.id);
    const refused = { ...this.refused };
    delete refused[kept.id];
    this.refused = refused;
    this.put({
      ...this.waiting,
      rides: [...rest, { ride: kept, track, before: prior?.before ?? known, sent: prior?.sent }],
      gone: this.waiting.gone.filter((g) => g !== kept.id),
    });
    void this.queue.now();
    return kept.id;
  }

  /** Ends the first clash: with what was entered here, or with what came from elsewhere. */
  settle(which: 'mine' | 'theirs'): void {
    const [clash, ...clashes] = this.waiting.clashes ?? [];
    if (!clash) return;
    const { theirs, ...mine } = clash;
    const again = which === 'mine' ? [{ ...mine, before: theirs, sent: undefined }] : [];
    this.put({ ...this.waiting, rides: [...this.waiting.rides, ...again], clashes });
    void this.queue.now();
  }

  /** A ride off the list; {@link keep} with the same ride brings it back. */
  remove(id: string): void {
    const unsent = !(this.answer?.rides ?? []).some((r) => r.id === id);
    this.put({
      ...this.waiting,
      rides: this.waiting.rides.filter((w) => w.ride.id !== id),
      gone: unsent ? this.waiting.gone : [...this.waiting.gone, id],
    });
    void this.queue.now();
  }

  /** An answer that came on another way, such as with a file. */
  take(answer: RidesOut): void {
    this.asked.take(answer);
    this.stamp += 1;
  }

  retry(): void {
    if (this.asked.failed || this.asked.fromCache) void this.asked.again();
    this.queue.retry();
  }

  close(): void {
    this.queue.close();
  }

  /** A ride as the server has it, in the form in which rides are sent. */
  private atTheServer(id: string): RideFile | undefined {
    const ride = this.answer?.rides.find((r) => r.id === id)?.ride;
    return ride && (said(ride) as RideFile);
  }

  private put(waiting: Waiting): void {
    this.waiting = waiting;
    if (this.count || waiting.clashes?.length) this.drafts.keep(waiting);
    else this.drafts.forget();
  }

  private async send(): Promise<SaveResult> {
    const sent = this.waiting.rides.slice(0, 200);
    const path = { path: { id: this.build.id } };
    if (sent.length) {
      const rides = sent.map(({ ride, track, before }) => ({ ride, track, before }));
      const onItsWay = (w: WaitingRide) => (sent.includes(w) ? { ...w, sent: w.ride } : w);
      this.put({ ...this.waiting, rides: this.waiting.rides.map(onItsWay) });
      const { data, error, response } = await api.POST('/api/builds/{id}/rides', {
        params: path,
        body: { rides },
      });
      if (!data) return this.stopped(response.status, error);
      for (const { id, faults } of data.refused ?? []) {
        // What was refused is not listed; what was entered comes back into the entry.
        this.refused = { ...this.refused, [id]: faults };
      }
      const changed = sent.filter((s) => data.changed?.includes(s.ride.id));
      const arrived = (w: WaitingRide) =>
        sent.some((s) => s.ride === w.ride) && !changed.some((c) => c.ride.id === w.ride.id);
      this.put({ ...this.waiting, rides: this.waiting.rides.filter((w) => !arrived(w)) });
      this.take({ ...data, refused: [], changed: [] });
      for (const one of changed) this.meet(one);
      return 'arrived';
    }
    const ride = this.waiting.gone[0]!;
    const { data, error, response } = await api.DELETE('/api/builds/{id}/rides/{ride}', {
      params: { path: { id: this.build.id, ride } },
    });
    if (!data) return this.stopped(response.status, error);
    this.put({ ...this.waiting, gone: this.waiting.gone.filter((g) => g !== ride) });
    this.take(data);
    return 'arrived';
  }

  /** A ride that was changed elsewhere too: both changes where they touch different things, else somebody has to choose. */
  private meet(sent: WaitingRide): void {
    const id = sent.ride.id;
    const mine = this.waiting.rides.find((w) => w.ride.id === id) ?? sent;
    const rest = this.waiting.rides.filter((w) => w.ride.id !== id);
    const theirs = this.atTheServer(id);
    // It is what was sent from here, and the answer was lost.
    const own = alike(theirs, sent.sent);
    const both = own ? { file: mine.ride, taken: [] } : merged(mine.before ?? {}, mine.ride, theirs ?? {});
    if (both || !theirs) {
      const ride = (both?.file ?? mine.ride) as KeptRide;
      this.put({ ...this.waiting, rides: [...rest, { ...mine, ride, before: theirs, sent: undefined }] });
      if (both?.taken.length) this.notice = 'A ride was changed elsewhere too. Both changes are kept.';
      return;
    }
    const clashes = (this.waiting.clashes ?? []).filter((c) => c.ride.id !== id);
    this.put({ ...this.waiting, rides: rest, clashes: [...clashes, { ...mine, theirs }] });
  }

  private stopped(status: number, error: unknown): SaveResult {
    if (status >= 500 || status === 429) return 'unreachable';
    this.notice =
      status === 401
        ? 'Signed out elsewhere. What you entered is kept here; sign in again and it is sent.'
        : faultsOf(error).message;
    return 'stopped';
  }
}
