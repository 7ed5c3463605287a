import { api, faultsOf, type Schemas } from '$lib/api/client';
import type { OpenBuild } from '$lib/build/build.svelte';
import { Query } from '$lib/sync/query.svelte';

export type MaintenanceReport = Schemas['MaintenanceReport'];
export type TaskStatus = Schemas['TaskStatus'];
export type Done = Schemas['TaskDone'];
export type Spare = Schemas['Spare'];
type Maintenance = Schemas['Maintenance'];

/** What is due on one board, what was done, and what lies already owned. */
export class MaintenancePage {
  readonly asked: Query<Schemas['BuildFile'], MaintenanceReport>;
  refused = $state('');
  faults = $state.raw<Record<string, string>>({});
  sending = $state(false);

  constructor(readonly build: OpenBuild) {
    this.asked = new Query(
      () => build.file,
      (document, signal) =>
        api.POST('/api/builds/{id}/maintenance', {
          params: { path: { id: build.id } },
          body: { document },
          signal,
        }),
      { pause: 150, cacheKey: () => `maintenance:${build.id}` },
    );
  }

  get kept(): Maintenance {
    return (
      this.build.file.maintenance ?? ({ done: [], spares: [], intervals: [], seasons: [] } as Maintenance)
    );
  }

  private put(changed: Partial<Maintenance>): void {
    this.build.change({ maintenance: { ...this.kept, ...changed } });
  }

  /** Something was seen to: what becomes of drawer and wheels is the core's to say. */
  async seenTo(done: Omit<Done, 'id'>): Promise<boolean> {
    const before = this.build.file;
    this.sending = true;
    const { data, error } = await api
      .POST('/api/builds/{id}/maintenance/done', {
        params: { path: { id: this.build.id } },
        body: { document: before, done: { ...done, id: crypto.randomUUID() } as Done },
      })
      .catch(() => ({
        data: undefined,
        error: { message: 'The server cannot be reached; nothing was changed.' },
      }));
    this.sending = false;
    const refusal = data ? null : faultsOf(error);
    this.refused = refusal ? [refusal.message, ...(refusal.faults ?? []).map((f) => f.reason)].join(' ') : '';
    this.faults = Object.fromEntries((refusal?.faults ?? []).map((f) => [f.field, f.reason]));
    if (!data || this.build.file !== before) return false;
    this.build.put(data);
    return true;
  }

  takeBack(id: string): void {
    this.put({ done: (this.kept.done ?? []).filter((d) => d.id !== id) });
  }

  every(
    task: TaskStatus['id'],
    changed: { km?: number | null; days?: number | null; never?: boolean | null },
  ): void {
    const others = (this.kept.intervals ?? []).filter((i) => i.task !== task);
    const own = { ...(this.kept.intervals ?? []).find((i) => i.task === task), task, ...changed };
    const empty = own.km == null && own.days == null && !own.never;
    this.put({ intervals: empty ? others : [...others, own] });
  }

  addSpare(name: string, task?: TaskStatus['id']): void {
    const spare = { id: crypto.randomUUID(), name, task, count: 1, wanted: 1 };
    this.put({ spares: [...(this.kept.spares ?? []), spare] });
  }

  setSpare(id: string, changed: Partial<Spare>): void {
    this.put({ spares: (this.kept.spares ?? []).map((s) => (s.id === id ? { ...s, ...changed } : s)) });
  }

  dropSpare(id: string): void {
    this.put({ spares: (this.kept.spares ?? []).filter((s) => s.id !== id) });
  }

  /** Ticks an item of a season's list, or takes the tick away; what that changes the core has said. */
  tick(item: Schemas['TickItem']): void {
    this.build.change(item.changes);
  }
}
