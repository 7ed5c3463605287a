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
