import { untrack } from 'svelte';
import { getBuild, type BuildOut, type Trouble } from './api/client';

/** What a page works on: laid out for the build of its address, anew when that changes, closed when the page goes. */
export class Room<Laid extends { close(): void }> {
  laid = $state.raw<Laid | null>(null);
  trouble = $state<Trouble>('');

  /** Made while its page is. */
  constructor(
    private readonly id: () => string,
    private readonly lay: (build: BuildOut, id: string) => Laid,
  ) {
    $effect(() => {
      const id = this.id();
      untrack(() => void this.open(id));
      return () => this.close();
    });
  }

  async open(id = this.id()): Promise<void> {
    this.close();
    this.trouble = '';
    const answer = await getBuild(id);
    // Somebody may have gone on to another build meanwhile.
    if (id !== this.id()) return;
    if (answer.build) this.laid = this.lay(answer.build, id);
    else this.trouble = answer.trouble;
  }

  private close(): void {
    this.laid?.close();
    this.laid = null;
  }
}

/** What a page shows of a build, asked for once; what comes after the page has gone is dropped. */
export class Shown<Found> {
  found = $state.raw<Found | null>(null);
  failed = $state(false);
  private closed = false;

  constructor(
    readonly build: BuildOut,
    private readonly ask: (build: BuildOut) => Promise<Found | undefined>,
  ) {
    void this.look();
  }

  async look(): Promise<void> {
    this.failed = false;
    const found = await this.ask(this.build).catch(() => undefined);
    if (this.closed) return;
    this.found = found ?? null;
    this.failed = found === undefined;
  }

  close(): void {
    this.closed = true;
  }
}
