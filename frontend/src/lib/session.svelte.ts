import { tick } from 'svelte';
import { api, type Preferences, type Session } from './api/client';
import { reader } from './reader.svelte';
import { clearCache, readCache, writeCache } from './sync/device-cache';
import { claimDevice, forgetEntered } from './sync/drafts';

const WHO = 'who';

/** Who is here, and how they like to read. */
class CurrentSession {
  private now = $state.raw<Session | null>(null);
  failed = $state(false);
  private dark = window.matchMedia('(prefers-color-scheme: dark)');
  private systemIsDark = $state(this.dark.matches);
  private turn: Promise<unknown> = Promise.resolve();

  constructor() {
    this.dark.addEventListener('change', (e) => (this.systemIsDark = e.matches));
  }

  get who(): Session | null {
    return this.now;
  }

  /** What is remembered here belongs to somebody: to nobody and to anybody else it is not shown. */
  set who(who: Session | null) {
    if (!who?.name || claimDevice(who.name)) void clearCache();
    this.now = who;
    reader.units = who?.preferences.units ?? {};
    void writeCache(WHO, who);
  }

  get theme(): 'day' | 'night' {
    const wanted = this.who?.preferences.theme ?? 'system';
    if (wanted === 'system') return this.systemIsDark ? 'night' : 'day';
    return wanted;
  }

  async load(): Promise<void> {
    this.failed = false;
    const { data } = await api.GET('/api/session').catch(() => ({ data: undefined }));
    const known = data ?? (await readCache<Session>(WHO));
    if (known) this.who = known;
    else this.failed = true;
  }

  /** Takes effect at once; kept on the server for every device when it can be reached. */
  async prefer(change: Partial<Preferences>): Promise<void> {
    if (!this.who) return;
    const preferences = { ...this.who.preferences, ...change };
    this.who = { ...this.who, preferences };
    if (!this.who.name) return;
    // One after the other, so that the last choice is the one that stays; also when the page is left at once.
    const put = () =>
      api.PUT('/api/preferences', { body: preferences, keepalive: true }).catch(() => undefined);
    await (this.turn = this.turn.then(put));
  }

  /** Signs out, and leaves nothing of the workshop on this device; what was never sent has been asked about before. */
  async signOut(): Promise<boolean> {
    const { data } = await api.POST('/api/session/sign-out').catch(() => ({ data: undefined }));
    if (!data) return false;
    await clearCache();
    this.who = data;
    // A page that closes keeps what was entered in it once more.
    await tick();
    forgetEntered();
    return true;
  }
}

export const session = new CurrentSession();
