/** How one try ended: the server has it, the server could not be reached, or it takes nothing before the person has acted. */
export type SaveResult = 'arrived' | 'unreachable' | 'stopped';

/** `idle` has nothing to send, `waiting` will soon, `offline` tries again by itself, `stopped` waits for the person. */
export type SaveQueueState = 'idle' | 'waiting' | 'sending' | 'offline' | 'stopped';

export const PAUSE_BEFORE_SENDING = 500;
export const RETRY = 3000;

/** Brings what is pending to the server: one request at a time, again while the server is away, the newest last. */
export class SaveQueue {
  state = $state<SaveQueueState>('idle');
  private timer: ReturnType<typeof setTimeout> | undefined;
  private sending: Promise<void> | null = null;
  private closed = false;

  constructor(
    /** Sends what is pending now. */
    private readonly send: () => Promise<SaveResult>,
    private readonly pending: () => boolean,
    private readonly pause = PAUSE_BEFORE_SENDING,
  ) {}

  /** Sends in a little while, with what comes until then; a server that is away stays said to be. */
  soon(pause = this.pause): void {
    if (this.closed) return;
    if (this.state === 'idle' || this.state === 'stopped') this.state = 'waiting';
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.now(), pause);
  }

  /** Sends at once, or after the request that is under way. */
  async now(): Promise<void> {
    clearTimeout(this.timer);
    if (this.sending) return this.sending;
    if (this.closed) return;
    if (!this.pending()) {
      this.state = 'idle';
      return;
    }
    this.sending = this.try();
    await this.sending;
  }

  /** Tries again at once, as when the connection is back. */
  retry(): void {
    if (this.pending()) this.soon(0);
  }

  /** Nothing more is taken until the person has acted. */
  hold(): void {
    clearTimeout(this.timer);
    this.state = 'stopped';
  }

  /** Waits until nothing is on its way any more; false where it cannot get there by itself. */
  async settled(): Promise<boolean> {
    while (this.pending()) {
      await this.now();
      if (this.closed || this.state === 'offline' || this.state === 'stopped') return !this.pending();
    }
    return true;
  }

  /** Sends what is left, and nothing after it. */
  close(): void {
    const last = this.state === 'stopped' ? Promise.resolve(true) : this.settled();
    void last.then(() => {
      clearTimeout(this.timer);
      this.closed = true;
    });
  }

  private async try(): Promise<void> {
    const away = this.state === 'offline';
    if (!away) this.state = 'sending';
    const ended = await this.send().catch((): SaveResult => 'unreachable');
    this.sending = null;
    if (ended === 'arrived') {
      this.state = this.pending() ? 'waiting' : 'idle';
      if (this.pending()) this.soon();
    } else if (ended === 'unreachable') {
      this.state = 'offline';
      this.soon(RETRY);
    } else this.hold();
  }
}
