import { api, faultsOf, type BuildOut, type Schemas, type Sheet } from '$lib/api/client';
import { Workpiece } from '$lib/workpiece.svelte';

export type Profile = Sheet['profile'];

const PAUSE = 120;

/** The controller sheet of one build: what is recommended, what is wanted, and what was really set. */
export class SheetPiece extends Workpiece {
  sheet = $state.raw<Sheet | null>(null);
  /** What was written down, and what is wrong with the latest of it on the board as it is now. */
  record = $state.raw<Schemas['RecordOut'] | null>(null);
  private looking: AbortController | undefined;
  private meant: Profile | null = null;

  constructor(id: string, build: BuildOut) {
    super(id, build);
    void this.look();
    void this.recall();
  }

  /** Recommends for a profile, before anything of it is taken. */
  aim(profile: Profile): void {
    this.meant = profile;
    void this.look();
  }

  /** Takes recommended values, all of them or one. */
  take(fields: string[]): void {
    const lines = (this.sheet?.lines ?? []).filter((l) => fields.includes(l.field));
    const changes: Record<string, unknown> = Object.fromEntries(
      lines.map((l) => [`settings.${l.field}`, l.value]),
    );
    if (this.sheet && lines.length === this.sheet.lines.length) {
      changes['settings.profile'] = this.sheet.profile;
      for (const field of this.sheet.clears) changes[`settings.${field}`] = null;
    }
    this.change(changes);
  }

  /** Fetches what was written down. */
  async recall(): Promise<void> {
    const { data } = await api
      .GET('/api/builds/{id}/sheets', { params: { path: { id: this.id } } })
      .catch(() => ({ data: undefined }));
    if (data) this.record = data;
  }

  protected async look(): Promise<void> {
    this.looking?.abort();
    const own = (this.looking = new AbortController());
    await new Promise((resolve) => setTimeout(resolve, this.sheet ? PAUSE : 0));
    if (own !== this.looking) return;
    try {
      const { data, error } = await api.POST('/api/sheet', {
        body: { document: this.file, profile: this.meant },
        signal: own.signal,
      });
      if (own !== this.looking) return;
      this.lookFailed = false;
      if (data) {
        this.sheet = data;
        this.faults = {};
      } else this.faults = Object.fromEntries(faultsOf(error).faults?.map((f) => [f.field, f.reason]) ?? []);
    } catch {
      if (own === this.looking) this.lookFailed = true;
    }
  }
}
