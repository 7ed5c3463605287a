import { api, faultsOf, type Faults, type Session } from '$lib/api/client';
import { session } from '$lib/session.svelte';

const UNREACHABLE = { message: 'The server cannot be reached. Is it running?', faults: [] };
const away = () => ({ data: undefined, error: UNREACHABLE });

export type Way = 'in' | 'new' | 'forgotten' | 'recover';

/** What a link that was sent leads to: an invitation, or a new password; links sent earlier have it in their path. */
export function linkOf({ pathname, hash }: { pathname: string; hash: string }): {
  invitation?: string;
  who?: string;
  token?: string;
} {
  const [, kind, first, second] = (pathname + hash).split(/[/#]/);
  if (kind === 'join' && first) return { invitation: first };
  if (kind === 'recover' && first && second) return { who: first, token: second };
  return {};
}

/** Standing at the door: in, a workshop of one's own, or back in without the password. */
export class Door {
  private readonly link = linkOf(location);
  way = $state<Way>(this.link.token ? 'recover' : this.link.invitation ? 'new' : 'in');
  name = $state('');
  password = $state('');
  code = $state('');
  invitation = $state(this.link.invitation ?? '');
  /** The password was right, and a code is asked for besides. */
  codeAsked = $state(false);
  faults = $state.raw<Faults | null>(null);
  /** What went well, to be read before going on. */
  said = $state('');
  busy = $state(false);

  /** The link brought the invitation along; nothing needs to be typed. */
  readonly invited = !!this.link.invitation;

  reason(field: string): string | undefined {
    return this.faults?.faults?.find((f) => f.field === field)?.reason;
  }

  turn(way: Way): void {
    this.way = way;
    this.faults = null;
    this.said = '';
    this.codeAsked = false;
    if (this.link.token) history.replaceState(null, '', '/');
  }

  enter(): Promise<void> {
    const { name, password, code } = this;
    // An invitation may be typed as the whole link.
    const invitation = this.invitation.trim().split(/[/#]/).at(-1) ?? '';
    return this.send(
      this.way === 'new'
        ? api.POST('/api/session/sign-up', { body: { name, password, code: '', invitation } })
        : api.POST('/api/session/sign-in', { body: { name, password, code, invitation: '' } }),
    );
  }

  enterDemo(): Promise<void> {
    return this.send(api.POST('/api/session/demo'));
  }

  async askForLink(): Promise<void> {
    await this.word(api.POST('/api/session/forgotten', { body: { who: this.name } }));
  }

  async recover(): Promise<void> {
    const { who = '', token = '' } = this.link;
    const said = await this.word(
      api.POST('/api/session/recover', { body: { who, token, password: this.password } }),
    );
    if (!said) return;
    this.turn('in');
    this.password = '';
    this.said = said;
  }

  private async send(answer: Promise<{ data?: Session; error?: unknown }>): Promise<void> {
    this.busy = true;
    const { data, error } = await answer.catch(away);
    this.busy = false;
    if (data) {
      if (this.link.invitation || this.link.token) history.replaceState(null, '', '/');
      session.who = data;
      return;
    }
    this.faults = faultsOf(error);
    if (this.codeAsked || this.reason('code') === undefined) return;
    // The password was right: what comes next is a question and no fault.
    this.codeAsked = true;
    this.faults = null;
  }

  private async word(answer: Promise<{ data?: { message: string }; error?: unknown }>): Promise<string> {
    this.busy = true;
    const { data, error } = await answer.catch(away);
    this.busy = false;
    this.faults = data ? null : faultsOf(error);
    return (this.said = data?.message ?? '');
  }
}
