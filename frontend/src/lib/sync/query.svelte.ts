import { resource } from 'runed';
import { faultsOf } from '$lib/api/client';
import { readCache, writeCache } from './device-cache';
import { RETRY } from './save-queue.svelte';

/** What the API answers: the data, or why not. */
export interface Reply<Answer> {
  data?: Answer;
  error?: unknown;
}

interface Options {
  /** Milliseconds to wait for the next question before this one is asked. */
  pause?: number;
  /** Where the last answer is remembered on this device, for when the server cannot be reached. */
  cacheKey?: () => string;
}

/**
 * What the server says of what stands here now: asked anew whenever the question changes. An answer that a newer question overtook
 * is dropped; a refusal leaves the last answer standing, with its reasons by field. Made while its component is.
 */
export class Query<Question, Answer> {
  answer = $state.raw<Answer | null>(null);
  /** Reasons by field, from the last refusal. */
  faults = $state.raw<Record<string, string>>({});
  /** What the last refusal said. */
  refused = $state('');
  /** The last question did not reach the server. */
  failed = $state(false);
  /** What is shown is what this device remembers of an earlier time. */
  fromCache = $state(false);
  private readonly asking;
  /** How often an answer came on another way; a question that was under way then may have been read before it. */
  private taken = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    question: () => Question,
    private readonly ask: (question: Question, signal: AbortSignal) => Promise<Reply<Answer>>,
    private readonly options: Options = {},
  ) {
    this.asking = resource(question, (now, _, { signal }) => this.look(now, signal), {
      debounce: options.pause,
    });
    $effect(() => () => clearTimeout(this.timer));
  }

  /** A question is on its way. */
  get busy(): boolean {
    return this.asking.loading;
  }

  /** Asks once more. */
  async again(): Promise<void> {
    await this.asking.refetch();
  }

  /** An answer that came on another way, such as with the entry that changed it. */
  take(answer: Answer): void {
    this.taken += 1;
    this.show(answer);
  }

  private show(answer: Answer): void {
    this.answer = answer;
    this.fromCache = false;
    if (this.options.cacheKey) void writeCache(this.options.cacheKey(), answer);
  }

  private async look(question: Question, signal: AbortSignal): Promise<void> {
    clearTimeout(this.timer);
    const taken = this.taken;
    let reply: Reply<Answer>;
    try {
      reply = await this.ask(question, signal);
    } catch (trouble) {
      if (signal.aborted) throw trouble;
      this.failed = true;
      this.timer = setTimeout(() => void this.again(), RETRY);
      await this.readCached();
      return;
    }
    if (signal.aborted) return;
    if (taken !== this.taken) return this.look(question, signal);
    this.failed = false;
    const refusal = reply.data === undefined ? faultsOf(reply.error) : null;
    this.faults = Object.fromEntries(refusal?.faults?.map((f) => [f.field, f.reason]) ?? []);
    this.refused = refusal?.message ?? '';
    if (reply.data === undefined) return;
    this.show(reply.data);
  }

  private async readCached(): Promise<void> {
    if (this.answer !== null || !this.options.cacheKey) return;
    const kept = await readCache<Answer>(this.options.cacheKey());
    if (kept === undefined || this.answer !== null) return;
    this.answer = kept;
    this.fromCache = true;
  }
}
