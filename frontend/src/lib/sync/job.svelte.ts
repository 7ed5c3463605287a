import { api, faultsOf, type Faults, type Schemas } from '$lib/api/client';
import type { Reply } from './query.svelte';

export type JobOut = Schemas['JobOut'];
const FIRST_LOOK = 120;
const LONGEST_BETWEEN = 1000;
/** How long the server may be away before a job is given up; what it makes is kept there meanwhile. */
const PATIENCE = 60_000;
export const AWAY = 'The server cannot be reached; nothing was changed.';

/** Something that a worker makes for the person: asked for, looked after until it ends, stopped when it is not wanted. */
export class Job {
  state = $state<'asking' | JobOut['state']>('asking');
  /** 0 to 1; 0 where it does not say. */
  progress = $state(0);
  faults = $state.raw<Faults | null>(null);
  private id = '';
  private stopping = false;

  /** `label` says what is made, as the person calls it. */
  constructor(
    readonly label: string,
    private readonly ask: () => Promise<Reply<JobOut>>,
  ) {}

  get over(): boolean {
    return ['done', 'failed', 'stopped'].includes(this.state);
  }

  /** Asks, and looks until it has ended; the job that is done, or null where it failed or was stopped. */
  async run(): Promise<JobOut | null> {
    const { data, error } = await this.ask().catch(() => ({ data: undefined, error: { message: AWAY } }));
    if (!data) return this.fail(faultsOf(error));
    this.id = data.id;
    let now: JobOut = data;
    if (this.stopping) await this.sendStop();
    let silentSince = 0;
    for (let wait = FIRST_LOOK; !this.take(now); wait = Math.min(wait * 1.3, LONGEST_BETWEEN)) {
      await new Promise((resolve) => setTimeout(resolve, wait));
      const looked = await api.GET('/api/jobs/{id}', { params: { path: { id: this.id } } }).catch(() => null);
      if (looked?.data) [now, silentSince] = [looked.data, 0];
      else if (looked?.response.status === 404) return this.fail(faultsOf(looked.error));
      else {
        silentSince ||= Date.now();
        if (Date.now() - silentSince > PATIENCE) return this.fail({ message: AWAY, faults: [] });
      }
    }
    return this.state === 'done' ? now : null;
  }

  stop(): void {
    this.stopping = true;
    if (this.id) void this.sendStop();
  }

  private async sendStop(): Promise<void> {
    await api.POST('/api/jobs/{id}/stop', { params: { path: { id: this.id } } }).catch(() => null);
  }

  private take(now: JobOut): boolean {
    this.state = now.state;
    this.progress = now.progress;
    if (now.state === 'failed') this.faults = { message: now.message, faults: now.faults };
    return this.over;
  }

  private fail(faults: Faults): null {
    this.state = 'failed';
    this.faults = faults;
    return null;
  }
}

/** Why a job failed, in a sentence. */
export function whyNot(job: Job): string {
  return [job.faults?.message ?? '', ...(job.faults?.faults ?? []).map((f) => `It needs ${f.reason}.`)]
    .filter(Boolean)
    .join(' ');
}
